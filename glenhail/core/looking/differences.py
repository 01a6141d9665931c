"""What differs between two outputs of a frame, pixel by pixel of the frame."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum

import numba
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.lineup.grids import REACH, shared_part, to_frame_grid
from glenhail.core.parallel import in_strips
from glenhail.core.picture import Bend, Floats, Mapping, Rect

LEVELS = 255  # 8-bit levels from black to white


class Kind(StrEnum):
    """Which difference."""

    BRIGHTNESS = "brightness"
    ABSOLUTE = "absolute"
    DE00 = "de00"


@dataclass(frozen=True)
class ComparedSide:
    """One of two outputs: how it lies on its frame, and how its pixels are had.

    ``bounds`` is the whole of it and ``usable`` the part that is picture, output px;
    ``read`` gives linear light of whole pixels within the bounds, shape (h, w, 3), and
    ``encoded``, where it is at hand without, their sRGB-encoded values.
    """

    mapping: Mapping
    bounds: Rect
    usable: Rect
    read: Callable[[Rect], Floats]
    encoded: Callable[[Rect], Floats] | None = None


def halved_mapping(mapping: Mapping, level: int) -> Mapping:
    """The mapping between a frame and an output that were both halved `level` times.

    Parameters
    ----------
    mapping : Mapping
        At full size.
    level : int
        At least 0.
    """
    share = 0.5**level
    bend = mapping.bend and Bend(
        mapping.bend.x * share,
        mapping.bend.y * share,
        mapping.bend.reach * share,
        tuple(c * share for c in mapping.bend.across),
        tuple(c * share for c in mapping.bend.down),
    )
    return replace(mapping, dx=mapping.dx * share, dy=mapping.dy * share, bend=bend)


def common_part(rect: Rect, one: ComparedSide, two: ComparedSide) -> Rect:
    """Whole frame pixels of `rect` that both outputs show.

    Parameters
    ----------
    rect : Rect
        Frame px.
    one, two : ComparedSide
        The outputs.
    """
    return shared_part(shared_part(rect, one.mapping, one.usable), two.mapping, two.usable)


def on_frame(side: ComparedSide, rect: Rect) -> Floats:
    """An output's linear light on its frame's pixels, of which only those it needs are
    read: `to_frame_grid`.

    Parameters
    ----------
    side : ComparedSide
        The output.
    rect : Rect
        Whole frame pixels that it shows.
    """
    m = side.mapping
    margin = 2 * REACH * max(1.0, m.sx, m.sy, 1 / m.sx, 1 / m.sy) + _most_bent(m.bend) * m.sx
    target = m.straight.rect(rect)
    left, top = math.floor(target.x - margin), math.floor(target.y - margin)
    right, bottom = math.ceil(target.x + target.w + margin), math.ceil(target.y + target.h + margin)
    part = Rect(left, top, right - left, bottom - top).clipped(side.bounds)
    placed = replace(m, dx=m.dx - part.x, dy=m.dy - part.y)
    return to_frame_grid(side.read(part), placed, rect).pixels


def _most_bent(bend: Bend | None) -> float:
    """Further than any place is moved, frame px."""
    if bend is None:
        return 0.0
    return max(sum(map(abs, bend.across)), sum(map(abs, bend.down)))


def difference_on_frame(one: ComparedSide, two: ComparedSide, rect: Rect, kind: Kind) -> Floats:
    """How one output differs from another on their frame's pixels: `difference` of
    `on_frame`.

    Parameters
    ----------
    one, two : ComparedSide
        The outputs.
    rect : Rect
        Whole frame pixels that both show.
    kind : Kind
        Which difference.

    Returns
    -------
    ndarray, shape (h, w) or (h, w, 3), float32
    """
    if kind == Kind.DE00:
        return difference(on_frame(one, rect), on_frame(two, rect), kind)
    return _apart(_encoded_on_frame(one, rect), _encoded_on_frame(two, rect), kind)


def _encoded_on_frame(side: ComparedSide, rect: Rect) -> Floats:
    """Where pixels are untouched, so are their encoded values: no way there and back."""
    if side.encoded is not None and side.mapping.keeps_pixels():
        return side.encoded(side.mapping.rect(rect))
    return srgb.encode(on_frame(side, rect))


def difference(one: Floats, two: Floats, kind: Kind) -> Floats:
    """How `one` differs from `two`.

    Parameters
    ----------
    one, two : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white, on the same grid.
    kind : Kind
        ``brightness``: BT.709 luma, signed, 8-bit levels. ``absolute``: each channel's
        encoded values, 8-bit levels. ``de00``: CIEDE2000.

    Returns
    -------
    ndarray, shape (h, w) or (h, w, 3), float32
    """
    if kind == Kind.DE00:
        return np.asarray(ciede2000(lab(one), lab(two)), dtype=np.float32)
    return _apart(srgb.encode(one), srgb.encode(two), kind)


def _apart(one: Floats, two: Floats, kind: Kind) -> Floats:
    """The difference of encoded values, in 8-bit levels."""
    if kind == Kind.ABSOLUTE:
        return np.asarray(np.abs(one - two) * np.float32(LEVELS), dtype=np.float32)
    out: Floats = np.empty(one.shape[:2], dtype=np.float32)
    in_strips(out.shape[0], lambda a, b: _luma_apart(one[a:b], two[a:b], out[a:b]))
    return out


_LEVELS = srgb.LUMA * np.float32(LEVELS)
_RED, _GREEN, _BLUE = _LEVELS[0], _LEVELS[1], _LEVELS[2]


@numba.njit(cache=True, nogil=True)
def _luma_apart(one: Floats, two: Floats, out: Floats) -> None:
    for y in range(out.shape[0]):
        for x in range(out.shape[1]):
            red, green, blue = (
                one[y, x, 0] - two[y, x, 0],
                one[y, x, 1] - two[y, x, 1],
                one[y, x, 2] - two[y, x, 2],
            )
            out[y, x] = _RED * red + _GREEN * green + _BLUE * blue
