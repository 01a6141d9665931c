"""The outputs that a study is given without an upload: its frames as they are, and
truths.
"""

from __future__ import annotations

from glenhail.server.material.models import Frame
from glenhail.server.outputs.models import Output
from glenhail.server.outputs.signals import outputs_changed
from glenhail.server.studies.models import Contender, Kind, Study


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
        cell = Output.objects.filter(contender=contender, frame=frame)
        if picture is None:
            cell.delete()
        elif not cell.filter(picture=picture, file_name=name).exists():
            defaults = {"picture": picture, "file_name": name}
            output, _ = Output.objects.update_or_create(
                contender=contender, frame=frame, defaults=defaults
            )
            outputs_changed.send(sender=Output, outputs=[output])


def on_frame_taken(sender: object, frame: Frame, **_: object) -> None:
    """A study took a frame in: it has its own columns' outputs from the start."""
    sync_given_outputs(frame)


def on_frame_left(sender: object, study: Study, frame: Frame, **_: object) -> None:
    """A study let a frame go, and with it what was made of it there."""
    Output.objects.filter(contender__study=study, frame=frame).delete()


def on_truth_changed(sender: object, frame: Frame, **_: object) -> None:
    """The truth's column shows the truth that the frame has now."""
    sync_given_outputs(frame)
