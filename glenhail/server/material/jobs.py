"""Taking a file in: decode, read facts, make the display pyramid. Making a frame by a recipe."""

from __future__ import annotations

import tempfile
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import storages
from django.db import transaction

from glenhail.core.degrade.recipe import Recipe, recipe_of
from glenhail.core.degrade.recipe import degrade as do_recipe
from glenhail.core.errors import BadFile
from glenhail.core.files.pyramid import write_pyramid
from glenhail.core.files.writing import write_tiff
from glenhail.core.picture import Facts
from glenhail.core.picture import Picture as Pixels
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.actions.degrading import keep_made
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.material.signals import picture_settled
from glenhail.server.storage.files import put_derived


@does("decode")
def decode(progress: Progress, arguments: dict[str, Any]) -> None:
    """Settle a picture: ready with facts and pyramid, or refused with the reason."""
    picture = Picture.objects.select_related("file").get(pk=arguments["picture"])
    progress.tell(0.05, "decoding")
    try:
        pixels = decoded(picture)
    except BadFile as error:
        _settle(picture, state=PictureState.REFUSED, problem=str(error))
        raise
    if not storages["derived"].exists(picture.pyramid):
        progress.tell(0.4, "making the display pyramid")
        _make_pyramid(picture, pixels)
    facts = asdict(pixels.facts)
    _settle(picture, state=PictureState.READY, problem="", width=pixels.width, height=pixels.height, facts=facts)


def _make_pyramid(picture: Picture, pixels: Pixels) -> None:
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        made = Path(folder) / "pyramid.zip"
        write_pyramid(pixels, made)
        put_derived(picture.pyramid, made)


@transaction.atomic
def _settle(picture: Picture, **changes: Any) -> None:
    Picture.objects.filter(pk=picture.pk).update(**changes)
    picture.refresh_from_db()
    picture_settled.send(Picture, picture=picture)


@does("degrade")
def degrade(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make a frame from a clean one by a recipe, and take it in."""
    clean = Frame.objects.select_related("bench", "picture__file", "truth__file").get(pk=arguments["frame"])
    recipe = recipe_of(arguments["recipe"])
    progress.tell(0.05, "decoding the clean frame")
    source = decoded(clean.pristine)
    progress.tell(0.3, recipe.words())
    made = do_recipe(source.pixels, recipe)
    progress.tell(0.8, "writing")
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        path = Path(folder) / "made.tif"
        write_tiff(path, made, _facts_of_made(source.facts, recipe))
        keep_made(clean.bench, clean, recipe, arguments["name"], path)


def _facts_of_made(facts: Facts, recipe: Recipe) -> Facts:
    """The clean frame's own, with the ISO that its noise now has."""
    iso = next((float(s.named["iso"]) for s in recipe.steps if s.kind.id == "sensor_noise"), facts.iso)
    return replace(facts, iso=iso, software="Glenhail")
