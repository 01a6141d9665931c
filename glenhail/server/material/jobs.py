"""Taking a file in: decode, read facts, make the display pyramid."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.db import transaction

from glenhail.core.errors import BadFile
from glenhail.core.naming.thumb import thumb_of
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material import display
from glenhail.server.material.actions.frames import look_for_target
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.material.signals import picture_settled


def not_decoded(arguments: dict[str, Any], problem: str) -> None:
    """A picture that was not taken in says so; one that is refused for what is in it
    keeps that reason.
    """
    picture = (
        Picture.objects.select_for_update()
        .filter(pk=arguments["picture"], state=PictureState.WAITING)
        .first()
    )
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
    if not display.is_there(picture):
        progress.tell(0.4, "making the display pyramid")
        display.make(picture, pixels)
    facts = asdict(pixels.facts)
    size = {"width": pixels.width, "height": pixels.height}
    thumb = thumb_of(pixels.pixels)
    with progress.settling():
        _settle(picture, state=PictureState.READY, problem="", **size, facts=facts, thumb=thumb)


@transaction.atomic
def _settle(picture: Picture, **changes: Any) -> None:
    Picture.objects.filter(pk=picture.pk).update(**changes)
    picture.refresh_from_db()
    picture_settled.send(Picture, picture=picture)
    for frame in Frame.objects.filter(picture=picture).select_related("bench"):
        look_for_target(frame)
