"""Lining an output up with its frame and taking its readings."""

from __future__ import annotations

import hashlib
from dataclasses import asdict, dataclass, replace
from itertools import groupby
from typing import Any

from django.db import transaction
from django.utils import timezone

from glenhail.core.errors import NoLineUp
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import NOISE as PLAIN
from glenhail.core.measures.catalogue import Measure, measures_for, take
from glenhail.core.measures.catalogue import Patch as Place
from glenhail.core.measures.noise import not_plain
from glenhail.core.measures.reading import Reading as Taken
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.suggested_patches import VERSION as SUGGEST_VERSION
from glenhail.core.measures.suggested_patches import suggest
from glenhail.core.picture import Mapping
from glenhail.core.tone.matching import Size
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.measuring.actions.queueing import queue_output
from glenhail.server.measuring.basis import Basis, basis_of
from glenhail.server.measuring.lining import (
    Points,
    find_examination,
    find_line_up,
    laid_of,
    lay_key,
    points_of,
)
from glenhail.server.measuring.models import AS_MADE, MATCHED, LineUp, Reading, Suggested
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Kind, Patch, Study

KEPT = [
    "value",
    "low",
    "high",
    "unit",
    "version",
    "grid",
    "reason",
    "details",
    "parts",
    "key",
    "taken",
]


@dataclass(frozen=True)
class Task:
    """One reading still to be taken."""

    patch: Patch | None
    measure: Measure
    key: str
    basis: str = AS_MADE

    @property
    def place(self) -> Place | None:
        return Place(self.patch.name, self.patch.role, self.patch.rect) if self.patch else None


def not_measured(arguments: dict[str, Any], problem: str) -> None:
    """An output that was not measured says why, and is not waited for."""
    Output.objects.filter(pk=arguments["output"]).update(trouble=problem)


@does("measure", settle=not_measured)
def measure(progress: Progress, arguments: dict[str, Any]) -> None:
    """Line up, then take every reading that is missing or out of date, patches first."""
    output = _output(arguments["output"])
    if output is None or output.picture is None or not _both_ready(output):
        return
    Output.objects.filter(pk=output.pk).exclude(trouble="").update(trouble="")
    # As it is once both are ready, which may have been waited for.
    output = _output(output.pk) or output
    assert output.picture is not None
    progress.tell(0.02, "lining up")
    row = find_line_up(output.frame.picture, output.picture, _points(output, output.picture))
    if row.refused:
        output.readings.all().delete()
        raise NoLineUp(f"{output.file_name}: {row.refused}.")
    # Patches as made need no examination, and somebody may be waiting for them.
    first = [t for t in _missing(output, None) if t.patch is not None]
    noise = _noise_key(output)
    subject = _subject(output, row) if first else None
    if subject is not None:
        _take(progress.within(0.15, 0.5), output, subject, None, first)
    progress.tell(0.5, "examining")
    examined = None
    if output.contender.kind not in (Kind.UNPROCESSED, Kind.TRUTH):
        examined = find_examination(output.frame.picture, output.picture, row)
    before, output = output, _output(output.pk) or output
    basis = basis_of(output, examined)
    rest = _missing(output, basis)
    if output.picture_id != before.picture_id:
        return  # what was brought in instead has a job of its own
    if subject is None or _what_it_rests_on(output) != _what_it_rests_on(before, noise):
        # A truth may have come in meanwhile, or a flat patch.
        subject = _subject(output, row) if rest else None
    if subject is not None:
        _take(progress.within(0.6, 1.0), output, subject, basis, rest)
    if first or rest:
        _let_others_follow(output)


def _what_it_rests_on(output: Output, noise: str | None = None) -> tuple[str, str, str]:
    """All beside its patch and measure that a reading depends on."""
    return (*_lays(output), _noise_key(output) if noise is None else noise)


def _doubt_patches(output: Output, subject: Subject) -> None:
    """Say of flat patches what in the frame makes them less than plain."""
    for patch in _plain(output):
        inside = patch.rect.inside(subject.source.width, subject.source.height)
        doubt = not_plain(subject, patch.rect)[:200] if inside else ""
        Patch.objects.filter(pk=patch.pk).exclude(doubt=doubt).update(doubt=doubt)


def _take(
    progress: Progress, output: Output, subject: Subject, basis: Basis | None, tasks: list[Task]
) -> None:
    """Take readings, those of outputs as made first; each place is kept as soon as it
    is measured.
    """
    if output.contender.kind == Kind.UNPROCESSED:
        _doubt_patches(output, subject)
    done = 0
    now, seen = AS_MADE, subject
    for (kind, patch), group in groupby(tasks, key=lambda t: (t.basis, t.patch)):
        place = list(group)
        progress.tell(done / len(tasks), f"measuring, {done} of {len(tasks)}")
        if kind != now and basis is not None:
            seen = subject.of(basis.prepared(subject.output))
            now = kind
        here = (
            basis.for_patch(subject.source, seen, patch.rect)
            if patch is not None and kind == MATCHED and basis
            else seen
        )
        _keep(output, basis, [(t, _told(take(here, t.measure, t.place), t, basis)) for t in place])
        done += len(place)


def _told(taken: Taken, task: Task, basis: Basis | None) -> Taken:
    """A reading of the second set says so itself."""
    if task.basis == AS_MADE or basis is None:
        return taken
    return replace(taken, grid=f"{taken.grid or 'output pixels'}; {basis.words}"[:200])


def _let_others_follow(output: Output) -> None:
    """The common size of a frame's outputs may be another one now."""
    study = output.contender.study
    if study.size != Size.NATIVE:
        others = Output.objects.filter(contender__study=study, frame=output.frame).exclude(
            pk=output.pk
        )
        for other in others.select_related("contender__study__bench", "frame"):
            queue_output(other)


def _output(pk: int) -> Output | None:
    related = ("contender__study", "picture__file", "frame__picture__file", "frame__truth__file")
    return Output.objects.select_related(*related).filter(pk=pk).first()


@transaction.atomic
def _both_ready(output: Output) -> bool:
    """Whether frame and output are decoded.

    The lock waits for a decoding that is just being written down.
    """
    pks = [pk for pk in (output.picture_id, output.frame.picture_id) if pk]
    rows = Picture.objects.select_for_update().filter(pk__in=pks).order_by("pk")
    return all(picture.state == PictureState.READY for picture in rows)


def _subject(output: Output, row: LineUp) -> Subject:
    assert output.picture is not None
    source, truth = output.frame.picture, output.frame.truth
    subject = Subject(
        decoded(source),
        laid_of(decoded(output.picture), row),
        plain=[p.rect for p in _plain(output)],
    )
    second = _second(output)
    if second is not None:
        other = decoded(second)
        subject.second = AlignedPicture(other, Mapping(), other.bounds)
    if truth is None:
        return subject
    if truth.state != PictureState.READY:
        subject.no_truth = (
            f"the truth was not taken in: {truth.problem}"
            if truth.problem
            else "the truth is still being taken in"
        )
        return subject
    truth_row = find_line_up(source, truth, _points(output, truth))
    if truth_row.refused:
        subject.no_truth = "the truth does not line up with the frame"
    else:
        subject.truth = laid_of(decoded(truth), truth_row)
    return subject


def _plain(output: Output) -> list[Patch]:
    """Flat patches of an output's frame, lit or dark: where its noise is seen alone."""
    return list(output.contender.study.patches.filter(frame=output.frame, role__in=PLAIN))


def _second(output: Output) -> Picture | None:
    """Another frame of the same burst, whose noise is its own;

    None where the frame is of none.
    """
    frame = output.frame
    if (frame.truth_made or {}).get("kind") != "burst":
        return None
    of_burst = Frame.objects.select_related("picture__file").filter(
        bench=frame.bench_id, truth=frame.truth_id
    )
    own = frame.picture
    others = of_burst.filter(
        picture__state=PictureState.READY, picture__width=own.width, picture__height=own.height
    )
    other = others.exclude(pk=frame.pk).order_by("pk").first()
    return other.picture if other is not None else None


def _missing(output: Output, basis: Basis | None) -> list[Task]:
    kept = {(r.patch_id, r.measure, r.basis): r.key for r in output.readings.all()}
    places: list[Patch | None] = [*output.contender.study.patches.filter(frame=output.frame), None]
    lays = _lays(output)
    noise = _noise_key(output)
    tasks = [
        Task(patch, m, _key(lays, patch, m, kind, basis, noise), kind)
        for kind in ([AS_MADE, MATCHED] if basis else [AS_MADE])
        for patch in places
        for m in measures_for(Place(patch.name, patch.role, patch.rect) if patch else None)
    ]
    return [
        t
        for t in tasks
        if kept.get((t.patch.pk if t.patch else None, t.measure.id, t.basis)) != t.key
    ]


def _lays(output: Output) -> tuple[str, str]:
    """What readings of an output depend on of its files and line-ups: its own, and its
    truth's.
    """
    source, truth = output.frame.picture, output.frame.truth
    own = lay_key(source, output.picture, _points(output, output.picture)) if output.picture else ""
    return own, f"{lay_key(source, truth, _points(output, truth))}:{truth.state}" if truth else ""


def _points(output: Output, picture: Picture) -> Points:
    """What was placed by hand at the output's bench for its frame and a picture."""
    return points_of(output.contender.study.bench_id, output.frame.picture, picture)


def _noise_key(output: Output) -> str:
    """What readings depend on that take a picture's noise from elsewhere."""
    second = _second(output)
    return f"{[p.rect for p in _plain(output)]}:{second.file_id if second else ''}"


def _key(
    lays: tuple[str, str],
    patch: Patch | None,
    m: Measure,
    kind: str,
    basis: Basis | None,
    noise: str,
) -> str:
    """Everything a reading depends on, hashed."""
    parts = (
        lays[0],
        lays[1] if m.uses_truth else "",
        m.id,
        m.version,
        (patch.role, patch.x, patch.y, patch.w, patch.h) if patch else None,
        basis.key if basis and kind == MATCHED else "",
        noise if m.uses_noise else "",
    )
    return hashlib.sha256(repr(parts).encode()).hexdigest()


@transaction.atomic
def _keep(output: Output, basis: Basis | None, taken: list[tuple[Task, Taken]]) -> None:
    """Keep the readings of one place, unless what they were taken of has changed
    meanwhile.
    """
    now = _output(output.pk)
    patch = taken[0][0].patch
    if patch is not None:
        patch = Patch.objects.select_for_update().filter(pk=patch.pk).first()
        if patch is None:
            return
    if now is None:
        return
    if taken[0][0].basis == MATCHED and not _still_asked(now, basis):
        return
    lays, noise = _lays(now), _noise_key(now)
    rows = [
        _row(now, patch, t, found)
        for t, found in taken
        if _key(lays, patch, t.measure, t.basis, basis, noise) == t.key
    ]
    unique = ["output", "patch", "measure", "basis"]
    Reading.objects.bulk_create(
        rows, update_conflicts=True, unique_fields=unique, update_fields=KEPT
    )


def _still_asked(output: Output, basis: Basis | None) -> bool:
    """Whether the study still asks for this second set; the lock waits for somebody who
    is just asking for another.
    """
    study = Study.objects.select_for_update().get(pk=output.contender.study_id)
    return basis is not None and study.matched == basis.asked


def _row(output: Output, patch: Patch | None, task: Task, taken: Taken) -> Reading:
    return Reading(
        output=output,
        patch=patch,
        measure=task.measure.id,
        basis=task.basis,
        value=taken.value,
        low=taken.low,
        high=taken.high,
        unit=taken.unit,
        version=taken.version,
        grid=taken.grid or "",
        reason=(taken.reason or "")[:300],
        details=taken.details,
        parts=list(taken.parts),
        key=task.key,
        taken=timezone.now(),
    )


def _truth_of(frame: Frame) -> AlignedPicture | None:
    """A frame's truth as it lies on it, where there is one that does."""
    if frame.truth is None or frame.truth.state != PictureState.READY:
        return None
    row = find_line_up(
        frame.picture, frame.truth, points_of(frame.bench_id, frame.picture, frame.truth)
    )
    return None if row.refused else laid_of(decoded(frame.truth), row)


@does("suggest")
def suggest_patches(progress: Progress, arguments: dict[str, Any]) -> None:
    """Look through a frame for patches worth measuring."""
    frame = Frame.objects.select_related("picture__file").filter(pk=arguments["frame"]).first()
    if frame is None or frame.picture.state != PictureState.READY:
        return
    progress.tell(0.2, "looking for patches")
    made = [
        {"role": s.role, "reason": s.reason, **asdict(s.rect)}
        for s in suggest(decoded(frame.picture), _truth_of(frame))
    ]
    Suggested.objects.update_or_create(
        picture=frame.picture, version=SUGGEST_VERSION, defaults={"made": made}
    )
