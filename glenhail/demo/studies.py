"""The sample studies, made through the same actions that the web part uses."""

from __future__ import annotations

import time
from collections.abc import Iterable
from pathlib import Path

from django.contrib.auth.models import User

from glenhail.core.picture import Rect
from glenhail.demo.files import output_name
from glenhail.demo.frames import SAMPLES
from glenhail.server.accounts.models import Bench
from glenhail.server.judging.actions.verdicts import write_verdicts
from glenhail.server.material.actions import frames as frame_actions
from glenhail.server.material.models import Frame
from glenhail.server.publishing.actions import reports
from glenhail.server.studies.actions import contenders, patches
from glenhail.server.studies.actions import study as study_actions
from glenhail.server.studies.models import Contender, Study
from glenhail.server.tools.actions.treatments import StepWords

PATIENCE = 300  # seconds

TREATMENTS = {
    "sedgewash": StepWords("Sedgewash", "3.0", "standard", "strength 60", automatic=True),
    "keenfold": StepWords("Keenfold", "5.1", "fine", "strength 60", automatic=True),
    "mossgate": StepWords("Mossgate", "11", "everything", "strength 60", automatic=False),
}
QUESTION = "Which denoiser keeps single threads at ISO 12,800?"
ENLARGING = "Does Tarnlift's 2x hold more than plain bicubic?"

SUMMARY = (
    "Three denoisers, one mill, three frames from noon to night. The numbers stand beside crops at matched "
    "magnification, so that you can see whether a difference in a table is one for the eye."
)
METHOD = (
    "All contenders were given the same 16-bit TIFF of each frame, in the neutral rendering, with lens corrections "
    "and tone changes off. Each truth is the scene itself, without noise. Strength 60 everywhere; automatic where the "
    "tool offers it."
)
DISCLOSURE = "Everything here is made up: the mill is rendered, the tools are simulated, and nobody paid for anything."
VERDICTS = (
    ("Cloth and thread", "B keeps most of the weave, A is a little softer, C smears it."),
    (
        "Night yard",
        "A leaves a quiet sky that is still true to the scene; B leaves twice its grain; C is smoothest, but opens the shadows.",
    ),
    ("Edges and lettering", "B draws bright halos. C moves the picture by a pixel and leaves a black line."),
)
PRINT_PATCHES = (
    ("Check cloth", "texture", 165, 200, 90, 68),
    ("Gauge lettering", "print", 500, 85, 84, 62),
    ("Plaster", "flat", 4, 120, 34, 60),
)


def denoising(actor: User, bench: Bench, folder: Path) -> Study:
    """The study that is complete to its first edition."""
    study = _study(actor, bench, QUESTION, "tool")
    entered = _contenders(actor, study, TREATMENTS.values())
    for sample in SAMPLES:
        frame = _frame(actor, study, folder / sample.frame_file, folder / sample.truth_file, sample.name)
        _patches(actor, study, frame, sample.patches)
        for tool, contender in zip(TREATMENTS, entered, strict=True):
            if not contender.outputs.filter(frame=frame).exists():
                _bring_in(actor, contender, frame, folder / output_name(sample.key, tool))
    if not study.verdicts.exists():
        write_verdicts(actor, study, VERDICTS)
        reports.write_report(actor, study, SUMMARY, METHOD, DISCLOSURE)
    return study


def enlarging(actor: User, bench: Bench, folder: Path) -> Study:
    """The study that is half-way: an output missing, one contender that could not take the file."""
    study = _study(actor, bench, ENLARGING, "tool")
    steps = [
        StepWords("Tarnlift", "1.8", "2x", "", automatic=True),
        StepWords("Bicubic", "", "2x"),
        StepWords("Tarnlift", "1.8", "4x", "", automatic=True),
        StepWords("Sedgewash", "2.4", "raw only"),
    ]
    tarnlift, bicubic, _, sedgewash = _contenders(actor, study, steps)
    frame = _frame(actor, study, folder / "archive-print.tif", None, "Archive print")
    _patches(actor, study, frame, PRINT_PATCHES)
    for contender, name in ((tarnlift, "tarnlift-2x"), (bicubic, "bicubic-2x")):
        if not contender.outputs.exists():
            _bring_in(actor, contender, frame, folder / f"archive-print-{name}.tif")
    if not sedgewash.outputs.exists():
        contenders.tell_absence(actor, sedgewash, frame, "Takes raw files only; the archive print is a scan.")
    return study


def _arrived(path: Path) -> Path:
    """A sample file, once the process that makes them has made it."""
    end = time.monotonic() + PATIENCE
    while not path.exists():
        if time.monotonic() > end:
            raise TimeoutError(f"{path} was not made within {PATIENCE} s.")
        time.sleep(0.1)
    return path


def _study(actor: User, bench: Bench, question: str, factor: str) -> Study:
    kept = Study.objects.filter(bench=bench, question=question).first()
    return kept or study_actions.create_study(actor, bench, question, factor)


def _contenders(actor: User, study: Study, steps: Iterable[StepWords]) -> list[Contender]:
    kept = list(study.contenders.filter(treatment__isnull=False))
    wanted = list(steps)
    return kept + [contenders.enter_contender(actor, study, [s]) for s in wanted[len(kept) :]]


def _frame(actor: User, study: Study, path: Path, truth: Path | None, name: str) -> Frame:
    with _arrived(path).open("rb") as file:
        frame = frame_actions.add_frame(actor, study.bench, file, path.name)
    if frame.name != name:
        frame_actions.rename_frame(actor, frame, name)
    if truth is not None and frame.truth_id is None:
        with _arrived(truth).open("rb") as file:
            frame_actions.set_truth(actor, frame, file, truth.name)
    study_actions.take_frame(actor, study, frame)
    return frame


def _patches(actor: User, study: Study, frame: Frame, wanted: Iterable[tuple[str, str, float, float, float, float]]) -> None:
    for name, role, *numbers in wanted:
        if not study.patches.filter(frame=frame, name=name).exists():
            patches.draw_patch(actor, study, frame, name, role, Rect(*numbers))


def _bring_in(actor: User, contender: Contender, frame: Frame, path: Path) -> None:
    with _arrived(path).open("rb") as file:
        contenders.bring_in(actor, contender, frame, file, path.name)
