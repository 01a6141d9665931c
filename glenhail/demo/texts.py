"""What the sample reviewer wrote."""

from __future__ import annotations

from glenhail.server.tools.actions.treatments import StepWords

DENOISERS = {
    "sedgewash": StepWords("Sedgewash", "3.0", "standard", "strength 60", automatic=True),
    "keenfold": StepWords("Keenfold", "5.1", "fine", "strength 60", automatic=True),
    "mossgate": StepWords("Mossgate", "11", "everything", "strength 60", automatic=False),
}
BASELINE = StepWords("Guided filter", "", "", "radius 2 px, variance 0.004, each encoded channel")
ENLARGERS = (
    StepWords("Tarnlift", "1.8", "2x", "", automatic=True),
    StepWords("Bicubic", "", "2x"),
    StepWords("Tarnlift", "1.8", "4x", "", automatic=True),
    StepWords("Bicubic", "", "4x"),
    StepWords("Sedgewash", "2.4", "raw only"),
)
RAW_ONLY = "Takes raw files only; the archive print is a JPEG."

DENOISING = "Which denoiser keeps single threads at ISO 12,800?"
NIGHT = "What do denoisers do to small lights at night?"
ENLARGING = "Does Tarnlift hold more of an archive print than plain bicubic?"

SUMMARY = (
    "Three denoisers and a plain filter, one mill, from noon into the shade of the dye shed. The numbers stand beside "
    "crops at matched magnification, so that you can see whether a difference in a table is one for the eye."
)
METHOD = (
    "All contenders were given the same 16-bit TIFF of each frame, in the neutral rendering, with lens corrections "
    "and tone changes off. Each truth is the scene itself, without noise. Strength 60 everywhere; automatic where the "
    "tool offers it. The guided filter is the plain baseline: the same settings on every picture."
)
DISCLOSURE = "Everything here is made up: the mill is rendered, the tools are simulated, and nobody paid for anything."
FIRST_NOTE = "First edition: the loom table and the gauge wall."
FIRST_VERDICTS = (
    ("Cloth and thread", "B and the plain filter, D, keep the weave, at the price of some grain. A is softer; C smears it."),
    ("Edges and lettering", "B draws bright halos. C moves the picture by a pixel and leaves a black line."),
)
SECOND_NOTE = "The dye shed added, since readers asked how the tools fare in deep shadow; a verdict on it."
SHADOW_VERDICT = (
    "Deep shadow",
    "A is quiet and stays true. B and D leave grain, D coloured as well; C is smoothest, but opens the shadows.",
)
