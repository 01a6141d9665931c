"""Target sheets: having one painted, looking for them in frames, removing one."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.db import IntegrityError, models, transaction

from glenhail.core.errors import BadRequest
from glenhail.core.targets.layout import Sheet, sheet_of
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.material.actions.frames import look_for_target
from glenhail.server.material.actions.pictures import clean_name, take_in
from glenhail.server.material.models import Frame, PictureState, Scene, SceneKind, Target

KINDS_OF = {
    "edges": SceneKind.HARD_EDGES,
    "lines": SceneKind.HARD_EDGES,
    "star": SceneKind.HARD_EDGES,
    "wedge": SceneKind.PLAIN,
    "leaves": SceneKind.FINE_TEXTURE,
    "lights": SceneKind.NIGHT_LIGHTS,
}


def read_sheet_of(values: Any) -> Sheet:
    """The sheet asked for.

    Raises
    ------
    ActionError
        If it can not be painted; the text lists what is valid.
    """
    try:
        return sheet_of(values)
    except BadRequest as error:
        raise ActionError(str(error)) from error


def make_target(actor: Actor, bench: Bench, name: str, sheet: Sheet) -> Target:
    """Keep a sheet as a target and queue its painting.

    Raises
    ------
    ActionError
        If it has no name.
    Conflict
        If the bench has this very sheet already.
    """
    require(actor, bench, Role.EDITOR)
    name = name.strip()[:100]
    if not name:
        raise ActionError("A target needs a name.")
    try:
        with transaction.atomic():
            target = Target.objects.create(
                bench=bench, name=name, sheet=sheet.as_json(), number=sheet.number
            )
            record(actor, bench, "make target", target)
            enqueue(
                bench,
                "paint target",
                f"paint-target:{target.pk}",
                f"Painting {name}",
                {"target": target.pk},
            )
    except IntegrityError as error:
        same = Target.objects.filter(bench=bench, number=sheet.number).first()
        raise Conflict(f"This very target is here already, as {same}.") from error
    return target


@transaction.atomic
def keep_painted(target: Target, sheet: Sheet, made: Path) -> Frame:
    """Take a painted sheet in as a frame of a scene of its own, whose edges and lights
    are known.
    """
    target = Target.objects.select_for_update().get(pk=target.pk)
    file_name = clean_name(f"{target.name}.tif")
    with made.open("rb") as stream:
        picture = take_in(target.bench, stream, file_name)
    kinds = {KINDS_OF[f.kind.id] for f in sheet.fields}
    fields = {
        "kinds": [k for k in SceneKind.values if k in kinds],
        "known": sheet.known().as_json(),
    }
    scene, _ = Scene.objects.get_or_create(
        bench=target.bench, name=f"Target: {target.name}", defaults=fields
    )
    values = {"name": target.name, "file_name": file_name, "scene": scene}
    frame, _ = Frame.objects.get_or_create(bench=target.bench, picture=picture, defaults=values)
    target.frame = frame
    target.save(update_fields=["frame"])
    look_for_target(frame)
    return frame


def look_everywhere(actor: Actor, bench: Bench) -> int:
    """Look for targets in every frame in which none was found yet; returns how many
    that are.
    """
    require(actor, bench, Role.EDITOR)
    frames = Frame.objects.filter(
        bench=bench, finding=None, picture__state=PictureState.READY
    ).select_related("bench")
    for frame in frames:
        look_for_target(frame)
    return len(frames)


@transaction.atomic
def remove_target(actor: Actor, target: Target) -> None:
    """Remove a target, the frame it was painted as, and what was found of it in others.

    Raises
    ------
    Conflict
        If a study uses that frame, or another was made from it.
    """
    require(actor, target.bench, Role.EDITOR)
    label, frame = str(target), target.frame
    try:
        target.delete()
        if frame is not None:
            frame.delete()
            Scene.objects.filter(pk=frame.scene_id or 0, frames=None).delete()
    except models.ProtectedError as error:
        raise Conflict(
            f"{label} is used by a study, or frames were made from it. Take it out there first."
        ) from error
    record(actor, target.bench, "remove target", label)
