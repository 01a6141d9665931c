"""Taking a file in: decode, read facts, make the display pyramid."""

from __future__ import annotations

import tempfile
from dataclasses import asdict
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import storages
from django.db import transaction

from glenhail.core.errors import BadFile
from glenhail.core.files.pyramid import write_pyramid
from glenhail.core.naming.thumb import thumb_of
from glenhail.core.picture import Picture as Pixels
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.actions.frames import look_for_target
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.material.signals import picture_settled
from glenhail.server.storage.files import put_derived


def not_decoded(arguments: dict[str, Any], problem: str) -> None:
    """A picture that was not taken in says so; one that is refused for what is in it keeps that reason."""
    picture = Picture.objects.select_for_update().filter(pk=arguments["picture"], state=PictureState.WAITING).first()
    if picture is not None:
        _settle(picture, state=PictureState.REFUSED, problem=f"{picture.name}: {problem}")


@does("decode", settle=not_decoded)
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
    size = {"width": pixels.width, "height": pixels.height}
    thumb = thumb_of(pixels.pixels)
    with progress.settling():
        _settle(picture, state=PictureState.READY, problem="", **size, facts=facts, thumb=thumb)


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
    for frame in Frame.objects.filter(picture=picture).select_related("bench"):
        look_for_target(frame)
