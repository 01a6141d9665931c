"""When to compare a study's bodies anew."""

from __future__ import annotations

from collections.abc import Sequence

from glenhail.server.material.models import Frame, Picture
from glenhail.server.outputs.models import Output
from glenhail.server.sensors import queries
from glenhail.server.sensors.actions.measuring import queue_series
from glenhail.server.studies.models import Kind, Study


def queue_if_whole(study: Study) -> None:
    """Queue it once nothing of it is still being taken in: a series comes as dozens of
    files, and each of them would ask.
    """
    several = study.contenders.filter(kind=Kind.BODY).exists()
    if several and not queries.waiting_in(study):
        queue_series(study)


def on_picture_settled(sender: object, picture: Picture, **_: object) -> None:
    """A raw file of its scenes, or of a cell, was decoded."""
    for study in queries.studies_showing(picture.pk):
        queue_if_whole(study)


def on_frame_told(sender: object, frame: Frame, **_: object) -> None:
    """A frame belongs to another scene now, or shows none."""
    for study in queries.studies_showing(frame.picture_id):
        queue_if_whole(study)


def on_patch_changed(sender: object, study: Study, **_: object) -> None:
    """A spot was drawn, moved or removed."""
    queue_if_whole(study)


def on_outputs_changed(sender: object, outputs: Sequence[Output], **_: object) -> None:
    """Another shot stands in a cell."""
    if outputs:
        queue_if_whole(outputs[0].contender.study)
