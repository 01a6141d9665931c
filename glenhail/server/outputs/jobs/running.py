"""The job that makes one output."""

from __future__ import annotations

import hashlib
import time
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.files.storage import storages
from django.db import transaction

from glenhail.core.execution.machine import machine
from glenhail.core.files.encoding import write_tiff
from glenhail.core.treatments import step as core
from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.alone import ALONE, to_be_alone
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.actions.pictures import clean_name
from glenhail.server.material.decoded import decoded
from glenhail.server.material.exports import export_path
from glenhail.server.material.models import Frame, PictureState
from glenhail.server.outputs.actions.cells import bring_in
from glenhail.server.outputs.actions.runs import KIND, releases_of
from glenhail.server.outputs.models import Outcome, Output, Run
from glenhail.server.storage.files import local_copy, original, put_derived
from glenhail.server.studies.models import Contender
from glenhail.server.tools.running import (
    Made,
    RunFailed,
    StepRun,
    copied,
    frozen,
    run_treatment,
    working_folder,
)

# Seconds between two looks at whether a run was called off.
TELL_EVERY = 0.4


# A run that is repeated is there to be timed.
ALONE[KIND] = lambda arguments: int(arguments["repeats"]) > 1


@does(KIND)
def run_cell(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make a cell's output, as often as was asked for; the last one is kept, every
    run's times are.
    """
    contender = _contender(arguments["contender"])
    frame = Frame.objects.select_related("picture__file").filter(pk=arguments["frame"]).first()
    actor = User.objects.filter(pk=arguments["actor"]).first()
    if contender is None or contender.treatment is None or frame is None or actor is None:
        return
    if frame.picture.state != PictureState.READY:
        raise Conflict(f"{frame} is not ready. Run it again once it was taken in.")
    repeats, before, told_at = int(arguments["repeats"]), "", 0.0
    for number in range(1, repeats + 1):

        def tell(share: float, words: str, number: int = number) -> None:
            nonlocal told_at
            if time.monotonic() - told_at < TELL_EVERY:
                return
            told_at = time.monotonic()
            turn = f", {number} of {repeats}" if repeats > 1 else ""
            progress.tell((number - 1 + 0.95 * share) / repeats, f"{words}{turn}")

        row = Run(
            contender=contender, frame=frame, number=number, alone=to_be_alone(KIND, arguments)
        )
        before = _once(row, actor, before, tell, mark_of(progress.job.pk), last=number == repeats)


def mark_of(job_id: int) -> str:
    """By which a job's programs are found again after its worker died; no other bench
    on the machine has the same.
    """
    return f"{hashlib.sha256(str(settings.VAR.resolve()).encode()).hexdigest()[:16]}-{job_id}"


def _contender(pk: int) -> Contender | None:
    rows = Contender.objects.select_related("study__bench", "treatment").prefetch_related(
        "treatment__steps__release__tool"
    )
    return rows.filter(pk=pk).first()


def _once(row: Run, actor: User, before: str, tell: Any, mark: str, last: bool) -> str:
    """One making; returns its output's SHA-256."""
    contender, frame = row.contender, row.frame
    assert contender.treatment is not None
    treatment, releases = contender.treatment.told, releases_of(contender)
    row.machine, row.made_with = machine(), frozen(treatment, releases)
    row.megapixels = frame.picture.width * frame.picture.height / 1e6
    known = (
        Output.objects.filter(contender=contender, frame=frame)
        .values_list("pk", "picture_id")
        .first()
    )
    with working_folder() as room:
        folder = Path(room)
        tell(0.0, "writing what the tool is handed")
        source = _handed(treatment, frame, folder)
        try:
            made = run_treatment(treatment, releases, source, folder, mark, tell)
        except RunFailed as error:
            _keep(row, error.steps, Outcome.FAILED, str(error), error.said)
            raise
        with made.path.open("rb") as stream:
            digest = hashlib.file_digest(stream, "sha256").hexdigest()
        row.same, row.out_bytes = (
            (None if row.number == 1 else digest == before),
            made.path.stat().st_size,
        )
        if last:
            _keep_output(row, made, actor, known)
        _keep(row, made.steps, Outcome.MADE, made.remark, made.said)
    return digest


def _handed(treatment: core.Treatment, frame: Frame, folder: Path) -> Path:
    """The file that the first step is handed: a copy of the original, or the neutral
    rendering as 16-bit TIFF, kept once made.
    """
    stem = Path(clean_name(frame.file_name)).stem
    if treatment.feed == core.ORIGINAL:
        with original(frame.picture.file) as path:
            return copied(path, folder, clean_name(frame.file_name))
    with local_copy(storages["derived"], rendered(frame)) as path:
        return copied(path, folder, f"{stem}.tif")


def rendered(frame: Frame) -> str:
    """Where the neutral rendering of a frame lies within the derived storage, as 16-bit
    TIFF; made where it is not there yet.
    """
    kept = export_path(frame.picture, "tif")
    if not storages["derived"].exists(kept):
        pixels = decoded(frame.picture)
        with working_folder() as room:
            written = Path(room) / "rendered.tif"
            write_tiff(written, pixels.pixels, pixels.facts)
            put_derived(kept, written)
    return kept


def _keep_output(row: Run, made: Made, actor: User, known: Any) -> None:
    """Put the output into its cell, unless a person filled it meanwhile."""
    contender, frame = row.contender, row.frame
    if not Contender.objects.filter(pk=contender.pk).exists():
        return  # withdrawn while this ran
    now = (
        Output.objects.filter(contender=contender, frame=frame)
        .values_list("pk", "picture_id")
        .first()
    )
    if now != known:
        made_words = "The cell was filled by hand while this ran; that file was left in place."
        row.problem = f"{row.problem} {made_words}".strip()
        return
    name = f"{made.path.stem}_{contender.letter}{made.path.suffix}"
    with made.path.open("rb") as stream:
        bring_in(actor, contender, frame, stream, name, row.made_with)


@transaction.atomic
def _keep(row: Run, steps: list[StepRun], outcome: Outcome, problem: str, said: str) -> None:
    row.outcome, row.said = outcome, said
    row.problem = " ".join(p for p in (row.problem, problem) if p)
    row.steps = [s.__dict__ for s in steps]
    for name in ("load_s", "process_s", "export_s"):
        told = [getattr(s, name) for s in steps]
        setattr(row, name, None if not told or None in told else round(sum(told), 3))
    row.wall_s, row.cpu_s = sum(s.wall_s for s in steps), sum(s.cpu_s for s in steps)
    row.peak_mb = max((s.peak_mb for s in steps), default=None)
    if Contender.objects.filter(pk=row.contender_id).exists():
        row.save()
