"""Known degradations: frames made from a clean one by a recorded recipe."""

from __future__ import annotations

from dataclasses import asdict
from pathlib import Path, PurePosixPath
from typing import Any

from django.db import transaction

from glenhail.core.degrade.recipe import Recipe, recipe_of, series
from glenhail.core.errors import BadRequest
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.models import Job
from glenhail.server.material.actions.frames import look_for_target
from glenhail.server.material.actions.pictures import take_in
from glenhail.server.material.models import Frame, PictureState


def read_recipes(recipe: Any, sweep: Any = None) -> list[Recipe]:
    """The recipe asked for, or one for each value of a sweep: ``{"step":

    0, "parameter": "iso", "values": [...]}``.

    Raises
    ------
    ActionError
        If it can not be read; the text lists what is valid.
    """
    try:
        base = recipe_of(recipe)
        return series(base, sweep["step"], sweep["parameter"], sweep["values"]) if sweep else [base]
    except BadRequest as error:
        raise ActionError(str(error)) from error


@transaction.atomic
def ask_for(actor: Actor, frame: Frame, recipes: list[Recipe]) -> list[Job]:
    """Queue the making of a frame for each recipe, from the frame's truth where it has
    one; what it is made from is its truth.

    Raises
    ------
    Conflict
        If the clean frame was not taken in, or is itself made by a recipe: its truth
        would not be the scene.
    """
    require(actor, frame.bench, Role.EDITOR)
    if frame.pristine.state != PictureState.READY:
        raise Conflict(
            f"{frame} is not ready. Wait until it was taken in, or choose another frame."
        )
    if frame.recipe is not None:
        raise Conflict(
            f"{frame} was made by a recipe. Start from the clean frame and put both recipes into"
            " one."
        )
    jobs = []
    for recipe in recipes:
        name = f"{frame.name}, {_short(recipe)}"[:120]
        arguments = {"frame": frame.pk, "recipe": recipe.as_json(), "name": name, "actor": actor.pk}
        jobs.append(
            enqueue(
                frame.bench,
                "degrade",
                f"degrade:{frame.pk}:{recipe.key}",
                f"Making {name}",
                arguments,
            )
        )
    record(actor, frame.bench, "degrade frame", f"{frame}, {len(recipes)} recipes")
    return jobs


def keep_made(bench: Bench, clean: Frame, recipe: Recipe, name: str, made: Path) -> Frame:
    """Take a made file in as a frame whose truth is the clean one; the same recipe
    again gives the frame that is there.
    """
    file_name = f"{PurePosixPath(clean.truth_name or clean.file_name).stem[:80]}-{recipe.key}.tif"
    with made.open("rb") as stream:
        picture = take_in(bench, stream, file_name)
    with transaction.atomic():
        fields = {
            "name": name,
            "file_name": file_name,
            "truth_id": clean.pristine.pk,
            "truth_name": clean.truth_name or clean.file_name,
            "scene_id": clean.scene_id,
            "recipe": recipe.as_json(),
            "made_by": recipe.words(),
            "made_from_id": clean.pk,
            **asdict(clean.terms),
        }
        frame, _ = Frame.objects.get_or_create(bench=bench, picture=picture, defaults=fields)
        look_for_target(frame)
    return frame


def _short(recipe: Recipe) -> str:
    """A name's worth of the recipe: each step's title and its first number."""
    parts = []
    for step in recipe.steps:
        value = step.values[0]
        told = f"{value:,g}" if isinstance(value, int | float) else value
        parts.append(
            f"ISO {told}" if step.kind.id == "sensor_noise" else f"{step.kind.title.lower()} {told}"
        )
    return ", ".join(parts)
