"""Tiles out of full-depth copies, planes made of them, and differences of two."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from django.core.files.storage import storages

from glenhail.core.colour import srgb
from glenhail.core.files.full_depth import (
    BLACK,
    SPAN,
    Layout,
    Steps,
    bytes_of,
    encoded_of,
    tile_of,
)
from glenhail.core.files.pyramid import TILE, part_of
from glenhail.core.looking.planes import MADE, REACH, Plane
from glenhail.core.picture import Floats, Rect
from glenhail.server.common.errors import Missing
from glenhail.server.viewing.tiles import NoDisplay

MIDDLE = BLACK + SPAN // 2  # where planes about 0 have their 0


@dataclass(frozen=True)
class DeepPicture:
    """A picture's full-depth copy: where it lies, and the picture's size, px."""

    path: str
    width: int
    height: int

    @property
    def layout(self) -> Layout:
        """Where everything lies in it."""
        return Layout(self.width, self.height)

    def bounds(self, level: int) -> Rect:
        """A level from edge to edge, px."""
        width, height = self.layout.at(level)
        return Rect(0, 0, width, height)

    def part(self, level: int, rect: Rect) -> Steps:
        """A part of a level, shape (h, w, 3)."""
        return part_of(rect, lambda column, row: self._tile(level, column, row))

    def light(self, level: int) -> Callable[[Rect], Floats]:
        """How linear light of parts of a level is had."""
        encoded = self.encoded(level)
        return lambda rect: np.asarray(srgb.decode(encoded(rect)))

    def encoded(self, level: int) -> Callable[[Rect], Floats]:
        """How sRGB-encoded values of parts of a level are had."""
        return lambda rect: encoded_of(self.part(level, rect))

    def _tile(self, level: int, column: int, row: int) -> Steps:
        place = self.layout.tile(level, column, row)
        if place is None:
            raise Missing("There is no such tile.")
        return tile_of(tile_bytes(self, level, column, row), place)


def tile_bytes(picture: DeepPicture, level: int, column: int, row: int) -> bytes:
    """One tile as the copy has it (core.files.full_depth).

    Raises
    ------
    Missing
        If there is no such tile.
    NoDisplay
        If the copy is not there.
    """
    place = picture.layout.tile(level, column, row)
    if place is None:
        raise Missing("There is no such tile.")
    try:
        with storages["derived"].open(picture.path) as file:
            file.seek(place.start)
            data = bytes(file.read(place.size))
    except FileNotFoundError as error:
        raise _preparing() from error
    if len(data) != place.size:
        storages["derived"].delete(picture.path)
        raise _preparing()
    return data


def _preparing() -> NoDisplay:
    return NoDisplay("This picture is being made ready to be looked at in full depth.")


def plane_bytes(picture: DeepPicture, plane: Plane, level: int, column: int, row: int) -> bytes:
    """One tile of a plane that needs neighbours: differences about 0, of which 0 is at
    half way from black to white.

    Raises
    ------
    Missing, NoDisplay
        As `tile_bytes`.
    """
    place = picture.layout.tile(level, column, row)
    if place is None:
        raise Missing("There is no such tile.")
    left, top, reach = column * TILE, row * TILE, REACH[plane]
    wide = Rect(left - reach, top - reach, place.width + 2 * reach, place.height + 2 * reach)
    part = wide.clipped(picture.bounds(level))
    made = MADE[plane](encoded_of(picture.part(level, part)))
    x, y = left - int(part.x), top - int(part.y)
    return bytes_of(made[y : y + place.height, x : x + place.width] * SPAN + MIDDLE)
