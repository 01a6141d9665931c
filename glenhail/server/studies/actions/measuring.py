"""When to line up and measure: queueing, and the outputs a study is given without an
upload.
"""

from __future__ import annotations

from django.db import transaction
from django.db.models import Q

from glenhail.core.measures.catalogue import AGAINST_TRUTH, BY_TRUTH
from glenhail.core.measures.suggested_patches import VERSION as SUGGEST_VERSION
from glenhail.server.jobs.actions.queue import bring_forward, enqueue
from glenhail.server.material.models import Frame, Picture
from glenhail.server.studies.models import Contender, Kind, Output, Reading, Study, Suggested


def queue_output(output: Output) -> None:
    """Queue lining up and measuring of one output.

    Also while a file is still being decoded: the job finds that out under lock, so that
    nothing is lost when decoding ends at the same moment.
    """
    if output.picture_id is None:
        return
    study = output.contender.study
    label = f"Measure {output.contender.letter} on {output.frame.name}"
    enqueue(study.bench, "measure", f"measure:{output.pk}", label, {"output": output.pk}, study.pk)


@transaction.atomic
def ask_suggestions(frame: Frame) -> None:
    """Queue looking for patches in a frame, before all else since somebody waits for
    it; unless that was done already.
    """
    if not Suggested.objects.filter(picture=frame.picture, version=SUGGEST_VERSION).exists():
        key = f"suggest:{frame.pk}"
        enqueue(
            frame.bench, "suggest", key, f"Look for patches in {frame.name}", {"frame": frame.pk}
        )
        bring_forward([key])


def queue_frame(frame: Frame, study: Study | None = None) -> None:
    """Queue measuring of every output of a frame, in one study or in all."""
    rows = Output.objects.filter(frame=frame).select_related(
        "contender__study__bench", "picture", "frame__picture"
    )
    for output in rows.filter(contender__study=study) if study else rows:
        queue_output(output)


def sync_given_outputs(frame: Frame) -> None:
    """Keep the truth's and the unprocessed column's outputs of a frame as the frame
    says.
    """
    given = {
        Kind.UNPROCESSED: (frame.picture, frame.file_name),
        Kind.TRUTH: (frame.truth, frame.truth_name),
    }
    for contender in Contender.objects.filter(study__study_frames__frame=frame, kind__in=given):
        picture, name = given[Kind(contender.kind)]
        if picture is None:
            Output.objects.filter(contender=contender, frame=frame).delete()
        else:
            defaults = {"picture": picture, "file_name": name}
            Output.objects.update_or_create(contender=contender, frame=frame, defaults=defaults)


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
    sync_given_outputs(frame)
    queue_frame(frame)
