"""Lining an output up with its frame and taking its readings."""

from __future__ import annotations

import hashlib
from dataclasses import asdict, dataclass
from itertools import groupby
from typing import Any

from django.db import IntegrityError, transaction
from django.utils import timezone

from glenhail.core.assess import laid
from glenhail.core.errors import NoLineUp
from glenhail.core.lineup import register
from glenhail.core.lineup.border import Border
from glenhail.core.measures.reading import Reading as Taken
from glenhail.core.measures.subject import Laid, Subject
from glenhail.core.measures.table import Measure, measures_for, take
from glenhail.core.measures.table import Patch as Place
from glenhail.core.picture import Picture as Pixels
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Picture, PictureState
from glenhail.server.studies.models import LineUp, Output, Patch, Reading

KEPT = ["value", "low", "high", "unit", "version", "grid", "reason", "details", "key", "taken"]


@dataclass(frozen=True)
class Task:
    """One reading still to be taken."""

    patch: Patch | None
    measure: Measure
    key: str

    @property
    def place(self) -> Place | None:
        return Place(self.patch.name, self.patch.role, self.patch.rect) if self.patch else None


@does("measure")
def measure(progress: Progress, arguments: dict[str, Any]) -> None:
    """Line up, then take every reading that is missing or out of date, patches first."""
    output = _output(arguments["output"])
    if output is None or output.picture is None or not _both_ready(output):
        return
    progress.tell(0.02, "lining up")
    row = find_line_up(output.frame.picture, output.picture)
    if row.refused:
        output.readings.all().delete()
        raise NoLineUp(f"{output.file_name}: {row.refused}.")
    output = _output(output.pk) or output
    tasks = _missing(output)
    if not tasks:
        return
    subject = _subject(output, row)
    done = 0
    for _, group in groupby(tasks, key=lambda t: t.patch):
        place = list(group)
        progress.tell(0.3 + 0.7 * done / len(tasks), f"measuring, {done} of {len(tasks)}")
        _keep(output, [(t, take(subject, t.measure, t.place)) for t in place])
        done += len(place)


def _output(pk: int) -> Output | None:
    related = ("contender__study", "picture__file", "frame__picture__file", "frame__truth__file")
    return Output.objects.select_related(*related).filter(pk=pk).first()


@transaction.atomic
def _both_ready(output: Output) -> bool:
    """Whether frame and output are decoded. The lock waits for a decoding that is just being written down."""
    pks = [pk for pk in (output.picture_id, output.frame.picture_id) if pk]
    rows = Picture.objects.select_for_update().filter(pk__in=pks).order_by("pk")
    return all(picture.state == PictureState.READY for picture in rows)


def find_line_up(source: Picture, picture: Picture) -> LineUp:
    """The line-up of two pictures, found once and kept."""
    kept = LineUp.objects.filter(source=source, output=picture, version=register.VERSION).first()
    if kept is not None:
        return kept
    try:
        found = register.line_up(decoded(source), decoded(picture))
        fields = {**asdict(found.mapping), **asdict(found.border), "residual": found.residual, "likeness": found.likeness}
    except NoLineUp as why:
        fields = {"refused": str(why)}
    try:
        with transaction.atomic():
            return LineUp.objects.create(source=source, output=picture, version=register.VERSION, **fields)
    except IntegrityError:  # another worker was quicker
        return LineUp.objects.get(source=source, output=picture, version=register.VERSION)


def laid_of(pixels: Pixels, row: LineUp) -> Laid:
    """A decoded picture as its kept line-up lays it."""
    border = Border(row.left, row.top, row.right, row.bottom)
    return laid(pixels, register.LineUp(row.mapping, border, row.residual, row.likeness))


def _subject(output: Output, row: LineUp) -> Subject:
    assert output.picture is not None
    source, truth = output.frame.picture, output.frame.truth
    subject = Subject(decoded(source), laid_of(decoded(output.picture), row))
    if truth is None:
        return subject
    if truth.state != PictureState.READY:
        subject.no_truth = f"the truth was not taken in: {truth.problem}" if truth.problem else "the truth is still being taken in"
        return subject
    truth_row = find_line_up(source, truth)
    if truth_row.refused:
        subject.no_truth = "the truth does not line up with the frame"
    else:
        subject.truth = laid_of(decoded(truth), truth_row)
    return subject


def _missing(output: Output) -> list[Task]:
    kept = {(r.patch_id, r.measure): r.key for r in output.readings.all()}
    places: list[Patch | None] = [*output.contender.study.patches.filter(frame=output.frame), None]
    tasks = [
        Task(patch, m, _key(output, patch, m))
        for patch in places
        for m in measures_for(Place(patch.name, patch.role, patch.rect) if patch else None)
    ]
    return [t for t in tasks if kept.get((t.patch.pk if t.patch else None, t.measure.id)) != t.key]


def _key(output: Output, patch: Patch | None, m: Measure) -> str:
    """Everything a reading depends on, hashed."""
    truth = output.frame.truth if m.needs_truth else None
    parts = (
        output.frame.picture.file_id,
        output.picture.file_id if output.picture else "",
        f"{truth.file_id}:{truth.state}" if truth else "",
        register.VERSION,
        m.id,
        m.version,
        (patch.role, patch.x, patch.y, patch.w, patch.h) if patch else None,
    )
    return hashlib.sha256(repr(parts).encode()).hexdigest()


@transaction.atomic
def _keep(output: Output, taken: list[tuple[Task, Taken]]) -> None:
    """Keep the readings of one place, unless what they were taken of has changed meanwhile."""
    now = _output(output.pk)
    patch = taken[0][0].patch
    if patch is not None:
        patch = Patch.objects.select_for_update().filter(pk=patch.pk).first()
        if patch is None:
            return
    if now is None:
        return
    rows = [_row(now, patch, task, reading) for task, reading in taken if _key(now, patch, task.measure) == task.key]
    unique = ["output", "patch", "measure"]
    Reading.objects.bulk_create(rows, update_conflicts=True, unique_fields=unique, update_fields=KEPT)


def _row(output: Output, patch: Patch | None, task: Task, taken: Taken) -> Reading:
    return Reading(
        output=output,
        patch=patch,
        measure=task.measure.id,
        value=taken.value,
        low=taken.low,
        high=taken.high,
        unit=taken.unit,
        version=taken.version,
        grid=taken.grid or "",
        reason=(taken.reason or "")[:300],
        details=taken.details,
        key=task.key,
        taken=timezone.now(),
    )
