"""Lining an output up with its frame and taking its readings."""

from __future__ import annotations

from dataclasses import asdict, replace
from itertools import groupby
from typing import Any

from django.db import transaction
from django.utils import timezone

from glenhail.core.errors import NoLineUp
from glenhail.core.measures.catalogue import take
from glenhail.core.measures.noise import not_plain
from glenhail.core.measures.reading import Reading as Taken
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.suggested_patches import VERSION as SUGGEST_VERSION
from glenhail.core.measures.suggested_patches import suggest
from glenhail.core.tone.matching import Size
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.measuring.actions.queueing import queue_output
from glenhail.server.measuring.basis import Basis, basis_of
from glenhail.server.measuring.lining import (
    find_examination,
    find_line_up,
)
from glenhail.server.measuring.models import AS_MADE, MATCHED, Reading, Suggested
from glenhail.server.measuring.subjects import flat_patches, hand_points, subject_of, truth_of
from glenhail.server.measuring.tasks import (
    Task,
    lays_of,
    missing_tasks,
    noise_key,
    task_key,
    what_it_rests_on,
)
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
    "concerns",
    "details",
    "parts",
    "key",
    "taken",
]


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
    row = find_line_up(output.frame.picture, output.picture, hand_points(output, output.picture))
    if row.refused:
        output.readings.all().delete()
        raise NoLineUp(f"{output.file_name}: {row.refused}.")
    # Patches as made need no examination, and somebody may be waiting for them.
    first = [t for t in missing_tasks(output, None) if t.patch is not None]
    noise = noise_key(output)
    subject = subject_of(output, row) if first else None
    if subject is not None:
        _take(progress.within(0.15, 0.5), output, subject, None, first)
    progress.tell(0.5, "examining")
    examined = None
    if output.contender.kind not in (Kind.UNPROCESSED, Kind.TRUTH):
        examined = find_examination(output.frame.picture, output.picture, row)
    before, output = output, _output(output.pk) or output
    basis = basis_of(output, examined)
    rest = missing_tasks(output, basis)
    if output.picture_id != before.picture_id:
        return  # what was brought in instead has a job of its own
    if subject is None or what_it_rests_on(output) != what_it_rests_on(before, noise):
        # A truth may have come in meanwhile, or a flat patch.
        subject = subject_of(output, row) if rest else None
    if subject is not None:
        _take(progress.within(0.6, 1.0), output, subject, basis, rest)
    if first or rest:
        _let_others_follow(output)


def _doubt_patches(output: Output, subject: Subject) -> None:
    """Say of flat patches what in the frame makes them less than plain."""
    for patch in flat_patches(output):
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
    lays, noise = lays_of(now), noise_key(now)
    rows = [
        _row(now, patch, t, found)
        for t, found in taken
        if task_key(lays, patch, t.measure, t.basis, basis, noise) == t.key
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
        concerns=taken.concerns,
        details=taken.details,
        parts=list(taken.parts),
        key=task.key,
        taken=timezone.now(),
    )


@does("suggest")
def suggest_patches(progress: Progress, arguments: dict[str, Any]) -> None:
    """Look through a frame for patches worth measuring."""
    frame = Frame.objects.select_related("picture__file").filter(pk=arguments["frame"]).first()
    if frame is None or frame.picture.state != PictureState.READY:
        return
    progress.tell(0.2, "looking for patches")
    made = [
        {"role": s.role, "reason": s.reason, **asdict(s.rect)}
        for s in suggest(decoded(frame.picture), truth_of(frame))
    ]
    Suggested.objects.update_or_create(
        picture=frame.picture, version=SUGGEST_VERSION, defaults={"made": made}
    )
