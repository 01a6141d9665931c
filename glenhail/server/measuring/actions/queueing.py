"""When to line up and measure."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from django.db.models import Q

from glenhail.core.measures.catalogue import AGAINST_TRUTH, BY_TRUTH
from glenhail.server.jobs.actions.queue import Work, enqueue_all
from glenhail.server.material.models import Frame, Picture
from glenhail.server.measuring.models import Reading
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Kind, Patch, Study


def queue_outputs(outputs: Sequence[Output]) -> None:
    """Queue lining up and measuring of outputs of one study.

    Also while a file is still being decoded: the job finds that out under lock, so that
    nothing is lost when decoding ends at the same moment.
    """
    there = [output for output in outputs if output.picture_id is not None]
    if there:
        study = there[0].contender.study
        enqueue_all(study.bench, "measure", [_measuring(o) for o in there], study.pk)


def _measuring(output: Output) -> Work:
    contender = output.contender
    who = "the truth" if contender.kind == Kind.TRUTH else contender.letter
    label = f"Measuring {who} on “{output.frame.name}”"
    return Work(f"measure:{output.pk}", label, {"output": output.pk})


def queue_output(output: Output) -> None:
    """Queue lining up and measuring of one output."""
    queue_outputs([output])


def _by_study(rows: Iterable[Output]) -> list[list[Output]]:
    found: dict[int, list[Output]] = {}
    for output in rows:
        found.setdefault(output.contender.study_id, []).append(output)
    return list(found.values())


def queue_frame(frame: Frame, study: Study | None = None) -> None:
    """Queue measuring of every output of a frame, in one study or in all."""
    rows = Output.objects.filter(frame=frame).select_related(
        "contender__study__bench", "picture", "frame__picture"
    )
    for of_study in _by_study(rows.filter(contender__study=study) if study else rows):
        queue_outputs(of_study)


def on_picture_settled(sender: object, picture: Picture, **_: object) -> None:
    """A file was decoded: measure what waited for it."""
    waiting = Q(picture=picture) | Q(frame__picture=picture) | Q(frame__truth=picture)
    rows = Output.objects.filter(waiting).select_related(
        "contender__study__bench", "picture", "frame__picture"
    )
    for of_study in _by_study(rows):
        queue_outputs(of_study)


def on_truth_changed(sender: object, frame: Frame, **_: object) -> None:
    """Errors against another truth are not current any more."""
    Reading.objects.filter(output__frame=frame, measure__in=AGAINST_TRUTH | BY_TRUTH).delete()
    Reading.objects.filter(output__frame=frame, output__contender__kind=Kind.TRUTH).delete()
    queue_frame(frame)


def on_outputs_changed(sender: object, outputs: Sequence[Output], **_: object) -> None:
    """What was read of cells' files before is not of the ones there now."""
    Reading.objects.filter(output__in=outputs).delete()
    queue_outputs(outputs)


def on_patch_changed(
    sender: object, study: Study, frame: Frame, patch: Patch | None, **_: object
) -> None:
    """A patch is somewhere else, or gone: what was read there is not current any more."""
    if patch is not None:
        patch.readings.all().delete()
    queue_frame(frame, study)
