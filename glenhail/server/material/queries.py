"""Reading the bench's material: frames, scenes, bodies, targets."""

from __future__ import annotations

from django.db.models import Count, QuerySet

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Missing
from glenhail.server.material.models import Body, Frame, Scene, Target

PAGE = 100


def frames_of(bench: Bench, before: int | None = None) -> QuerySet[Frame]:
    """A bench's frames, the newest first, at most `PAGE` of them; ``before`` is the id
    of the last one of the page before.
    """
    rows = Frame.objects.filter(bench=bench).annotate(studies=Count("study_frames"))
    if before is not None:
        rows = rows.filter(pk__lt=before)
    return rows.select_related("picture", "truth", "scene", "finding__target").order_by("-pk")[
        :PAGE
    ]


def scenes_of(bench: Bench) -> QuerySet[Scene]:
    """A bench's scenes."""
    return Scene.objects.filter(bench=bench)


def bodies_of(bench: Bench) -> QuerySet[Body]:
    """A bench's camera bodies."""
    return Body.objects.filter(bench=bench)


def body_named(bench: Bench, name: str) -> Body | None:
    """The body that files name so, where it is described."""
    return Body.objects.filter(bench=bench, name=name).first()


def targets_of(bench: Bench) -> QuerySet[Target]:
    """A bench's targets with the number of frames each was found in."""
    rows = Target.objects.filter(bench=bench).select_related("frame__picture")
    return rows.annotate(found=Count("findings"))


def find_frame(actor: Actor, frame_id: int) -> Frame:
    """A frame the actor may see."""
    frame = (
        Frame.objects.select_related("bench", "picture", "truth", "scene")
        .filter(pk=frame_id)
        .first()
    )
    if frame is None:
        raise Missing("There is no such frame, or it was removed.")
    require(actor, frame.bench, Role.VIEWER)
    return frame


def find_scene(actor: Actor, scene_id: int) -> Scene:
    """A scene the actor may see."""
    scene = Scene.objects.select_related("bench").filter(pk=scene_id).first()
    if scene is None:
        raise Missing("There is no such scene, or it was removed.")
    require(actor, scene.bench, Role.VIEWER)
    return scene


def find_body(actor: Actor, body_id: int) -> Body:
    """A body the actor may see."""
    body = Body.objects.select_related("bench").filter(pk=body_id).first()
    if body is None:
        raise Missing("There is no such body, or it was removed.")
    require(actor, body.bench, Role.VIEWER)
    return body


def find_target(actor: Actor, target_id: int) -> Target:
    """A target the actor may see."""
    target = Target.objects.select_related("bench", "frame").filter(pk=target_id).first()
    if target is None:
        raise Missing("There is no such target, or it was removed.")
    require(actor, target.bench, Role.VIEWER)
    return target
