"""Scenes: what was photographed, of which kinds, and what is known of it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import IO

from django.db import IntegrityError, models, transaction

from glenhail.core.errors import BadFile
from glenhail.core.measures.landmarks import read_known
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict, Missing
from glenhail.server.material.models import Frame, Scene, SceneKind
from glenhail.server.material.signals import frame_told

MOST_BYTES = 4_000_000  # of a file of lights and edges


def save_scene(
    actor: Actor, bench: Bench, name: str, kinds: Iterable[str], scene: Scene | None = None
) -> Scene:
    """Make a scene, or change one's name and kinds.

    Raises
    ------
    ActionError
        If it has no name, or a kind is unknown.
    Conflict
        If the bench has another scene of that name.
    """
    require(actor, bench, Role.EDITOR)
    name, chosen = name.strip()[:120], set(kinds)
    if not name:
        raise ActionError("A scene needs a name: what was photographed, in a few words.")
    unknown = chosen - set(SceneKind.values)
    if unknown:
        raise ActionError(
            f"{', '.join(sorted(unknown))}: no such kind. Choose among"
            f" {', '.join(SceneKind.values)}."
        )
    scene = scene or Scene(bench=bench)
    scene.name, scene.kinds = name, [k for k in SceneKind.values if k in chosen]
    try:
        with transaction.atomic():
            scene.save()
            record(actor, bench, "save scene", scene)
    except IntegrityError as error:
        raise Conflict(
            f"There is a scene called {name} already. Choose it, or take another name."
        ) from error
    return scene


@transaction.atomic
def tell_known(actor: Actor, scene: Scene, stream: IO[bytes], name: str) -> Scene:
    """Keep what is known of a scene's lights and edges, from a JSON file; it replaces
    what was known before.

    Raises
    ------
    ActionError
        If the file is too large or can not be read; the text names it.
    """
    require(actor, scene.bench, Role.EDITOR)
    raw = stream.read(MOST_BYTES + 1)
    if len(raw) > MOST_BYTES:
        raise ActionError(
            f"{name}: larger than the {MOST_BYTES:,} bytes that a file of lights and edges may"
            " have. Thin it out."
        )
    try:
        scene.known = read_known(raw, name).as_json()
    except BadFile as error:
        raise ActionError(str(error)) from error
    scene.save(update_fields=["known"])
    record(actor, scene.bench, "tell lights and edges", scene)
    return scene


@transaction.atomic
def forget_known(actor: Actor, scene: Scene) -> Scene:
    """Take away what was known of a scene."""
    require(actor, scene.bench, Role.EDITOR)
    scene.known = None
    scene.save(update_fields=["known"])
    record(actor, scene.bench, "forget lights and edges", scene)
    return scene


@transaction.atomic
def place_frame(actor: Actor, frame: Frame, scene_id: int | None) -> Frame:
    """Say which scene a frame shows, or that it shows none."""
    require(actor, frame.bench, Role.EDITOR)
    if scene_id is not None and not Scene.objects.filter(pk=scene_id, bench=frame.bench).exists():
        raise Missing("There is no such scene, or it was removed.")
    frame.scene_id = scene_id
    frame.save(update_fields=["scene"])
    record(actor, frame.bench, "place frame", frame)
    frame_told.send(sender=Frame, frame=frame)
    return frame


@transaction.atomic
def remove_scene(actor: Actor, scene: Scene) -> None:
    """Remove a scene that no frame shows."""
    require(actor, scene.bench, Role.EDITOR)
    label = str(scene)
    try:
        scene.delete()
    except models.ProtectedError as error:
        raise Conflict(f"{label} has frames. Give them another scene first.") from error
    record(actor, scene.bench, "remove scene", label)
