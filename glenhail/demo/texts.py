"""What the sample reviewer wrote."""

from __future__ import annotations

from typing import Any

from glenhail.core.articles.licences import Terms
from glenhail.core.treatments.step import Setting, Step
from glenhail.server.publishing.blocks import usual

TERMS = Terms("CC-BY-4.0", "Photographed at the Harrowbeck weaving mill", "Harrowbeck mill museum")
DENOISERS = {
    "sedgewash": Step("Sedgewash", "3.0", "standard", strength=60, automatic=True),
    "keenfold": Step("Keenfold", "5.1", "thread", strength=60, automatic=True),
    "mossgate": Step("Mossgate", "11", "everything", strength=60),
}
BASELINE = Step(
    "Guided filter",
    method="guided",
    settings=(Setting("radius", 2, "px"), Setting("variance", 0.004)),
)


def _tarnlift(scale: float) -> Step:
    return Step(
        "Tarnlift", "1.8", settings=(Setting("scale", scale, "x"), Setting("detail", 30.0, "%"))
    )


def _bicubic(factor: float) -> Step:
    return Step("Bicubic", method="bicubic", settings=(Setting("factor", factor, "x"),))


ENLARGERS = (
    _tarnlift(2.0),
    _bicubic(2.0),
    _tarnlift(4.0),
    _bicubic(4.0),
    Step("Sedgewash", "2.4", "raw-only"),
)
RAW_ONLY = "Takes raw files only; the archive print is a JPEG."

DENOISING = "Which denoiser keeps single threads at ISO 12,800?"
NIGHT = "What do denoisers do to small lights at night?"
BODIES = "Does the 33 MP body lose to the 24 MP one in low light?"
ENLARGING = "Does Tarnlift hold more of an archive print than plain bicubic?"

# What the reviewer decided about findings of the published study, by rule; what is not here stays
# open and is printed so.
ACCEPTED = {
    "automatic": (
        "Each tool as it comes: those that can set themselves were left to it, the others have no"
        " such thing."
    ),
    "strength": (
        "The plain baseline has no strength; its settings are those anybody would begin with."
    ),
}

SUMMARY = (
    "Three denoisers and a plain filter, one mill, from noon into the shade of the dye shed. The"
    " numbers stand beside crops at matched magnification, so that you can see whether a difference"
    " in a table is one for the eye."
)
METHOD = (
    "All contenders were given the same 16-bit TIFF of each frame, in the neutral rendering, with"
    " lens corrections and tone changes off. Each truth is the scene itself, without noise."
    " Strength 60 everywhere; automatic where the tool offers it. The guided filter is the plain"
    " baseline: the same settings on every picture."
)
# The first edition had it wrong.
FIRST_METHOD = METHOD.replace("Strength 60", "Strength 50")
WRONG_METHOD = "It said strength 50 everywhere; every output was made at 60."
DISCLOSURE = (
    "Everything here is made up: the mill is rendered, the tools are simulated, and nobody paid for"
    " anything."
)
# Between the pictures and the numbers of the second edition.
HEADING = "What we looked for"
READING = (
    "<p>Three things decide whether a denoiser is any use on cloth:</p>"
    "<ol><li>whether <strong>single threads</strong> are still there at 100 %;</li>"
    "<li>whether it <em>draws</em> threads that were never there;</li>"
    "<li>whether the shade of the dye shed keeps its colour.</li></ol>"
    "<blockquote><p>A print of 90 × 60 cm hangs in the weaving hall; what is lost shows from two"
    " steps away.</p></blockquote>"
)
# The readings follow their patches until an edition is published.
KEPT = (
    "<p>Of the check cloth's detail A keeps {A detail kept, Check cloth, Loom table}, C keeps less:"
    " {C detail kept, Check cloth, Loom table}.[^ Fine contrast that follows the truth's; 100 % is"
    " all of it.]</p>"
)
CHART = "What is kept of the cloth, and what is there that never was"
TAKEN_AWAY = "What each took away from the check cloth, and put there"


def blocks(figure: dict[str, Any], chart: dict[str, Any]) -> list[dict[str, Any]]:
    """The usual blocks, with words, a figure and a chart of the reviewer's own."""
    order: list[dict[str, Any]] = usual()
    at = next(i for i, block in enumerate(order) if block["kind"] == "figures")
    own: list[dict[str, Any]] = [
        {"kind": "heading", "text": HEADING},
        {"kind": "text", "text": READING},
        {"kind": "figure", "text": TAKEN_AWAY, "figure": figure},
        {"kind": "text", "text": KEPT},
        {"kind": "chart", "text": CHART, "table": chart},
    ]
    first = next(i for i, block in enumerate(order) if block["kind"] == "answer") + 1
    return [*order[:first], {"kind": "verdicts"}, *order[first:at], *own, *order[at:]]


FIRST_NOTE = "First edition: the loom table and the gauge wall."
# Where the mill's visitors see the pictures.
OWN_USE = {
    "name": "panel in the weaving hall, 90 × 60 cm at 150 ppi",
    "width": 5315,
    "height": 3543,
    "enlarge": True,
    "jpeg": None,
    "ppi": 150.0,
    "distance_cm": 120.0,
    "part": 1.0,
}
# Patch, place within it (shares of its width and height), what is seen, of which contenders.
REMARKS = (
    ("Check cloth", 0.35, 0.4, "smeared", "the dark threads run together", ("C",)),
    ("Check cloth", 0.7, 0.55, "halo", "every thread has a bright rim", ("B",)),
    ("Check cloth", 0.5, 0.75, "better", "single threads can be counted", ("D",)),
)
PRINT, WEB = "print of 60 × 40 cm at 240 ppi, seen from 80 cm", "web picture, 2048 px, JPEG 85"
# Use, kind of scene, words, and how contenders stand against the frame as it is.
FIRST_VERDICTS = (
    (
        PRINT,
        "fine texture",
        (
            "B and the plain filter, D, keep the weave, at the price of some grain. A is softer; C"
            " smears it."
        ),
        {"B": "better", "D": "better", "C": "worse"},
    ),
    (
        PRINT,
        "hard edges",
        "B draws bright halos. C moves the picture by a pixel and leaves a black line.",
        {"B": "worse", "C": "worse"},
    ),
)
SECOND_NOTE = (
    "The dye shed added, since readers asked how the tools fare in deep shadow; a verdict on it."
)
COMMENT = ("Method", "Say how far the lamp stood from the vat in the dye shed.")
LATER_VERDICTS = (
    (
        PRINT,
        "deep shadow",
        (
            "A is quiet and stays true. B and D leave grain, D coloured as well; C is smoothest,"
            " but opens the shadows."
        ),
        {"A": "better", "B": "better", "D": "better"},
    ),
    (
        WEB,
        "",
        "A, B and D will all do, the more so as most of the grain goes when it is made smaller.",
        {"A": "better", "B": "better", "D": "better"},
    ),
    (WEB, "fine texture", "C looks soft even at this size.", {"C": "worse"}),
)

# A small study that is tested again when the next release comes.
OPEN_SITTING = "Which would you rather print?"
SITTING = "Which shows the cloth and thread better?"
RETEST = "Is Sedgewash 3 worth having over Sedgewash 2?"
RETEST_STEP = Step("Sedgewash", "2.4", "standard", strength=60)
RETEST_RELEASE = "3.0"
RETEST_SUMMARY = (
    "The gauge wall once with each release, at the same strength, everything else as it was."
)
RETEST_METHOD = (
    "Both releases were run on the bench by their own programs, from the same 16-bit TIFF, in mode"
    " standard at strength 60."
)
BODIES_SUMMARY = (
    "Both bodies shot the loom table at every ISO from 100 to 51,200, each exposure twice. Brought"
    " to one size and counted where they are equally bright, the 33 MP body does not lose to the"
    " 24 MP one, lit or in the dark: its smaller pixels catch less light each, and add less noise."
)
BODIES_METHOD = (
    "One lamp, one lens at f/4, a tripod; shutter and aperture alike at each ISO. Eight frames with"
    " the cap on at ISO 3,200. Signal to noise is read from the raw mosaics, before anything is"
    " demosaiced."
)
BODIES_NOTE = "First edition."
BODIES_VERDICTS: tuple[tuple[str, str, str, dict[str, str]], ...] = (
    (
        PRINT,
        "",
        "Take either: at one size no difference was measured at any ISO that both reach.",
        {},
    ),
)
RETEST_FIRST = "Release 2.4 alone, to be tested again with the next one."
RETEST_SECOND = "Tested again with release 3.0."
