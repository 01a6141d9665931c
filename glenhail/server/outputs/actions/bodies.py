"""Entering another body: its shots of the same scenes stand beside those of the frames'
own body.
"""

from __future__ import annotations

from django.db import transaction

from glenhail.core.shots import Shot, nearest_shot
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.material.models import Frame, FrameKind
from glenhail.server.outputs.actions.cells import Filling, fill_cells
from glenhail.server.studies.actions.contenders import under_next_letter
from glenhail.server.studies.models import Contender, Kind, Study


def bodies_at_hand(study: Study) -> list[tuple[str, int]]:
    """Other bodies with shots of the study's scenes, each with how many of the study's
    frames it has one for.
    """
    frames = _frames(study)
    shots = _shots(study.bench, frames)
    names = {name for f in shots if (name := camera_of(f))}
    counted = [
        (name, sum(twin_of(f, name, shots) is not None for f in frames)) for name in sorted(names)
    ]
    return [(name, count) for name, count in counted if count]


@transaction.atomic
def enter_body(actor: Actor, study: Study, name: str) -> Contender:
    """Enter a body under the next letter; for each frame its shot of the same scene, at
    the same or the nearest ISO.

    Raises
    ------
    ActionError
        If it has no shot of any of the study's scenes.
    """
    require(actor, study.bench, Role.EDITOR)
    if study.contenders.filter(body=name).exists():
        raise Conflict(f"{name} is entered already.")
    pairs = _pairs(study, name)
    if not pairs:
        raise ActionError(
            f"{name} has no shot of this study's scenes within a third of a stop of ISO. Give its"
            " frames their scene on the Frames page."
        )
    contender = under_next_letter(study, kind=Kind.BODY, body=name)
    record(actor, study.bench, "enter body", contender)
    fill_cells(actor, study, [_filling(contender, *pair) for pair in pairs])
    return contender


def fill_body(actor: Actor, contender: Contender) -> None:
    """Fill the cells of a body that are empty still; what was chosen by hand stays."""
    study = contender.study
    filled = set(contender.outputs.values_list("frame_id", flat=True))
    pairs = [(f, twin) for f, twin in _pairs(study, contender.body) if f.pk not in filled]
    fill_cells(actor, study, [_filling(contender, *pair) for pair in pairs])


def _pairs(study: Study, name: str) -> list[tuple[Frame, Frame]]:
    frames = _frames(study)
    shots = _shots(study.bench, frames)
    return [(f, twin) for f in frames if (twin := twin_of(f, name, shots)) is not None]


def _filling(contender: Contender, frame: Frame, twin: Frame) -> Filling:
    return Filling(contender, frame, twin.picture, twin.file_name)


def camera_of(frame: Frame) -> str:
    """The body that a frame's file names; empty where it names none."""
    return str(frame.picture.facts.get("camera") or "")


def twin_of(frame: Frame, body: str, shots: list[Frame]) -> Frame | None:
    """A body's shot that belongs to a frame, as `nearest_shot` finds it."""
    at = nearest_shot(_shot(frame), body, [_shot(s) for s in shots])
    return None if at is None else shots[at]


def _shot(frame: Frame) -> Shot:
    return Shot(frame.scene_id, camera_of(frame), float(frame.picture.facts.get("iso") or 0))


def _frames(study: Study) -> list[Frame]:
    return [row.frame for row in study.study_frames.select_related("frame__picture")]


def _shots(bench: Bench, frames: list[Frame]) -> list[Frame]:
    scenes = {f.scene_id for f in frames if f.scene_id}
    rows = Frame.objects.filter(bench=bench, scene_id__in=scenes, kind=FrameKind.SCENE)
    return list(rows.select_related("picture").order_by("pk"))
