"""Tiles of what differs between two outputs of a frame, on the frame's pixels."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from glenhail.core.files.full_depth import Layout, bytes_of
from glenhail.core.files.pyramid import TILE
from glenhail.core.lineup.border import Border
from glenhail.core.looking.differences import (
    ComparedSide,
    Kind,
    common_part,
    difference_on_frame,
    halved_mapping,
)
from glenhail.core.picture import Floats, Mapping, Rect
from glenhail.core.tone.curve import ToneCurve
from glenhail.core.tone.matching import Match, at_exposure, at_tone
from glenhail.server.common.errors import Conflict, Missing
from glenhail.server.measuring.models import LineUp
from glenhail.server.measuring.queries import lineups, tones_of
from glenhail.server.outputs.models import Output
from glenhail.server.viewing.deep import DeepPicture

NONE = 65535  # where one of the two shows nothing
#: Where each kind has its 0, and how many steps one 8-bit level, or one CIEDE2000, takes.
SCALES = {Kind.BRIGHTNESS: (32768, 64), Kind.ABSOLUTE: (0, 128), Kind.DE00: (0, 256)}


@dataclass(frozen=True)
class Compared:
    """An output that can be compared: its picture, how it lies, what matches it."""

    picture: DeepPicture
    mapping: Mapping
    usable: Rect
    matched: Callable[[Floats], Floats] | None

    def at(self, level: int) -> ComparedSide:
        """Its side of a comparison at one level."""
        light, bounds = self.picture.light(level), self.picture.bounds(level)
        matched = self.matched
        share, u = 0.5**level, self.usable
        # An odd last line, averaged with itself, is picture as well.
        small = Rect(u.x * share, u.y * share, u.w * share, u.h * share)
        return ComparedSide(
            halved_mapping(self.mapping, level),
            bounds,
            bounds if self.usable == self.picture.bounds(0) else small,
            light if matched is None else lambda rect: matched(light(rect)),
            self.picture.encoded(level) if matched is None else None,
        )


def compared(outputs: list[Output], match: Match) -> list[Compared]:
    """Outputs of one frame, ready to be compared.

    Raises
    ------
    Conflict
        If one is not lined up.
    """
    rows, tones = lineups(outputs), {} if match == Match.NONE else tones_of(outputs)
    return [_compared(o, rows.get(o.pk), tones.get(o.pk), match) for o in outputs]


def _compared(
    output: Output, row: LineUp | None, tone: dict[str, Any] | None, match: Match
) -> Compared:
    picture = output.picture
    if picture is None or row is None or row.refused:
        raise Conflict(f"{output.file_name or output.contender.letter} is not lined up yet.")
    border = Border(row.left, row.top, row.right, row.bottom)
    usable = border.inner(picture.width, picture.height)
    deep = DeepPicture(picture.full_depth, picture.width, picture.height)
    return Compared(deep, row.mapping, usable, _matcher(tone, match))


def _matcher(tone: dict[str, Any] | None, match: Match) -> Callable[[Floats], Floats] | None:
    """What takes a difference in brightness off; none where it is not known."""
    if tone is None or match not in (Match.EXPOSURE, Match.TONE):
        return None
    if match == Match.TONE and len(tone["frame"]) > 1:
        curve = ToneCurve(tone["frame"], tone["output"], 0.0)
        return lambda light: at_tone(light, curve)
    stops = tone["stops"] or 0.0
    return lambda light: at_exposure(light, stops)


def difference_bytes(
    frame: Layout, one: Compared, two: Compared, kind: Kind, level: int, column: int, row: int
) -> bytes:
    """One tile of `one` less `two`, in a full-depth tile's form (`SCALES`, `NONE`).

    Raises
    ------
    Missing
        If the frame has no such tile.
    NoDisplay
        If one of the full-depth copies is not there.
    """
    place = frame.tile(level, column, row)
    if place is None:
        raise Missing("There is no such tile.")
    left, top = column * TILE, row * TILE
    sides = one.at(level), two.at(level)
    part = common_part(Rect(left, top, place.width, place.height), *sides)
    planes = 3 if kind == Kind.ABSOLUTE else 1
    out = np.full((place.height, place.width, planes), NONE, dtype=np.float32)
    if part.w >= 1 and part.h >= 1:
        found = difference_on_frame(*sides, part, kind)
        zero, step = SCALES[kind]
        x, y = int(part.x) - left, int(part.y) - top
        out[y : y + int(part.h), x : x + int(part.w)] = np.atleast_3d(
            np.minimum(found * step + zero, NONE - 1)
        )
    return bytes_of(out)
