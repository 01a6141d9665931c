"""When to line up and measure."""

from __future__ import annotations

from django.db.models import Q

from glenhail.core.measures.catalogue import AGAINST_TRUTH, BY_TRUTH
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.material.models import Frame, Picture
from glenhail.server.measuring.models import Reading
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Kind, Patch, Study


def queue_output(output: Output) -> None:
    """Queue lining up and measuring of one output.

    Also while a file is still being decoded: the job finds that out under lock, so that
    nothing is lost when decoding ends at the same moment.
    """
    if output.picture_id is None:
        return
    study = output.contender.study
    contender = output.contender
    who = "the truth" if contender.kind == Kind.TRUTH else contender.letter
    label = f"Measuring {who} on “{output.frame.name}”"
    enqueue(study.bench, "measure", f"measure:{output.pk}", label, {"output": output.pk}, study.pk)


def queue_frame(frame: Frame, study: Study | None = None) -> None:
    """Queue measuring of every output of a frame, in one study or in all."""
    rows = Output.objects.filter(frame=frame).select_related(
        "contender__study__bench", "picture", "frame__picture"
    )
    for output in rows.filter(contender__study=study) if study else rows:
        queue_output(output)


def on_picture_settled(sender: object, picture: Picture, **_: object) -> None:
    """A file was decoded: measure what waited for it."""
    waiting = Q(picture=picture) | Q(frame__picture=picture) | Q(frame__truth=picture)
    rows = Output.objects.filter(waiting).select_related(
        "contender__study__bench", "picture", "frame__picture"
    )
    for output in rows:
        queue_output(output)


def on_truth_changed(sender: object, frame: Frame, **_: object) -> None:
    """Errors against another truth are not current any more."""
    Reading.objects.filter(output__frame=frame, measure__in=AGAINST_TRUTH | BY_TRUTH).delete()
    Reading.objects.filter(output__frame=frame, output__contender__kind=Kind.TRUTH).delete()
    queue_frame(frame)


def on_output_changed(sender: object, output: Output, **_: object) -> None:
    """What was read of a cell's file before is not of the one there now."""
    output.readings.all().delete()
    queue_output(output)


def on_patch_changed(
    sender: object, study: Study, frame: Frame, patch: Patch | None, **_: object
) -> None:
    """A patch is somewhere else, or gone: what was read there is not current any more."""
    if patch is not None:
        patch.readings.all().delete()
    queue_frame(frame, study)
