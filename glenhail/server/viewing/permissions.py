"""Whether somebody may see a picture: asked for every tile, so the answer is kept for a
moment.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import PurePosixPath

from django.core.cache import cache
from django.db.models import Q

from glenhail.core.files.pyramid import TILE
from glenhail.core.picture import Rect
from glenhail.server.accounts.permissions import Actor, membership
from glenhail.server.common.errors import Missing
from glenhail.server.material.models import Frame, Picture
from glenhail.server.outputs.models import FolderFile, Output

KEPT_S = 20  # a role taken away is felt within this time


@dataclass(frozen=True)
class DisplayCopies:
    """Where a picture's copies for the eye lie, and its size, px."""

    pyramid: str
    full_depth: str
    width: int
    height: int

    def part(self, x: int, y: int, w: int, h: int) -> Rect:
        """A part of the picture, px.

        Raises
        ------
        Missing
            If it is not within the picture, or larger than a tile: those are had as
            tiles.
        """
        if not (0 < w <= TILE and 0 < h <= TILE and x + w <= self.width and y + h <= self.height):
            raise Missing("There is no such part of this picture.")
        return Rect(x, y, w, h)


def visible_copies(actor: Actor, picture_id: int) -> DisplayCopies:
    """Where the copies of a picture of the actor's bench lie.

    Raises
    ------
    Missing
        If there is no such picture at that bench.
    """
    key = f"copies/{actor.pk}/{picture_id}"
    known: DisplayCopies | None = cache.get(key)
    if known is None:
        found = visible_picture(actor, picture_id)
        known = DisplayCopies(found.pyramid, found.full_depth, found.width, found.height)
        cache.set(key, known, KEPT_S)
    return known


def visible_picture(actor: Actor, picture_id: int) -> Picture:
    """A picture of the actor's bench: a frame's, a truth, an output or its preview, a
    file of a folder.

    Raises
    ------
    Missing
        If there is no such picture at that bench.
    """
    bench = membership(actor).bench
    mine = Q(frames__bench=bench) | Q(truth_of__bench=bench) | Q(outputs__frame__bench=bench)
    mine |= Q(previews__frame__bench=bench) | Q(folder_files__folder__study__bench=bench)
    picture = Picture.objects.select_related("file").filter(mine, pk=picture_id).first()
    if picture is None:
        raise Missing("There is no such picture.")
    return picture


def name_at(actor: Actor, picture: Picture) -> str:
    """The name that a picture's file has at the actor's bench."""
    bench = membership(actor).bench
    ways = (
        ("file_name", Frame.objects.filter(bench=bench, picture=picture)),
        ("truth_name", Frame.objects.filter(bench=bench, truth=picture)),
        ("file_name", Output.objects.filter(frame__bench=bench, picture=picture)),
        ("preview_name", Output.objects.filter(frame__bench=bench, preview=picture)),
        ("path", FolderFile.objects.filter(folder__study__bench=bench, picture=picture)),
    )
    found = (rows.values_list(field, flat=True).first() for field, rows in ways)
    return next((PurePosixPath(name).name for name in found if name), "file")
