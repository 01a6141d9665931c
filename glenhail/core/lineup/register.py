"""Finding the mapping from a frame to an output: scale, sub-pixel shift, turn, bend,
border, residual, and how sure that is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from glenhail.core.errors import NoLineUp
from glenhail.core.lineup.border import Border, border
from glenhail.core.lineup.cells import ShiftCell
from glenhail.core.lineup.coarse import check_sizes, coarse
from glenhail.core.lineup.fit import residual
from glenhail.core.lineup.points import PointPair, from_points
from glenhail.core.lineup.refine import apart, plain_grid, refined
from glenhail.core.picture import Mapping, Picture, Rect

VERSION = "3"

# Likeness of the structure of two proxies under which they are not the same picture.
# Chosen on degraded pairs and pairs of different pictures: see tests/core/lineup.
SAME_PICTURE = 0.3
LEAST_SIDE = 28  # px, under which pictures are not lined up by what they show
# A line-up is doubtful under this many cells, under this share of the frame's width that they span,
# over this residual (frame px).
FEW_CELLS, NARROW, LOOSE = 8, 0.4, 0.6
# How far (frame px) what the pictures say may lie from hand-placed points.
HAND = 12.0


@dataclass(frozen=True)
class LineUp:
    """How an output lies on its frame.

    Attributes
    ----------
    mapping : Mapping
        Frame coordinates to output pixels.
    border : Border
        What is not picture, in output pixels.
    residual : float
        What the mapping leaves over: robust root mean square over cells, in frame
        pixels.
    likeness : float
        Correlation of the structure of the two, reduced; -1..1. Not told (0) where
        points were placed by hand.
    cells : tuple of ShiftCell
        Where the residual was measured.
    doubts : tuple of str
        Why it may be wrong; empty where it is sure.
    """

    mapping: Mapping
    border: Border
    residual: float
    likeness: float
    cells: tuple[ShiftCell, ...] = field(repr=False, default=())
    doubts: tuple[str, ...] = ()

    def usable(self, output: Picture) -> Rect:
        """The part of the output that is picture, in output pixels."""
        return self.border.inner(output.width, output.height)


def identical(picture: Picture) -> LineUp:
    """The line-up of a frame with itself.

    Parameters
    ----------
    picture : Picture
        A picture in linear light.
    """
    return LineUp(Mapping(), Border(), 0.0, 1.0)


def line_up(source: Picture, output: Picture, points: Sequence[PointPair] = ()) -> LineUp:
    """Line an output up with its frame.

    Parameters
    ----------
    source, output : Picture
        The frame, and what was made of it: any size ratio from 0.2 to 8.5, shifted or
        cropped by up to a tenth of its side, turned by up to 3 degrees, with or without
        a plain border or a lens correction.
    points : sequence of PointPair
        Two or three places found by hand in both, to start from where the pictures
        alone do not do.

    Returns
    -------
    LineUp
        A scale within `SNAP_SCALE` of a plain one, and a shift within `SNAP_SHIFT` of
        whole pixels, are taken as exactly that.

    Raises
    ------
    NoLineUp
        If the two do not show the same picture, or sizes are too far apart.
    BadRequest
        For points that can not be right.
    """
    if points:
        return _by_hand(source, output, points)
    check_sizes(source, output)
    if _same_pixels(source, output):
        return identical(source)
    if min(source.width, source.height, output.width, output.height) < LEAST_SIDE:
        return _by_size(source, output)
    start, alike = coarse(source, output)
    if alike < SAME_PICTURE:
        raise NoLineUp(
            f"it does not show the same picture as the frame (likeness {alike:.2f}, at least"
            f" {SAME_PICTURE} needed); check that it was made from this frame and not turned or"
            " mirrored"
        )
    mapping, cells = refined(source, output, start)
    mapping, cells = plain_grid(source, output, mapping, cells)
    return _told(source, output, mapping, cells, alike)


def _by_size(source: Picture, output: Picture) -> LineUp:
    """Pictures too small to be lined up by what they show: as their sizes say, where
    these are in a plain ratio.
    """
    sx, sy = output.width / source.width, output.height / source.height
    if sx != sy:
        size = f"{output.width} × {output.height} px"
        raise NoLineUp(
            f"at {size} it is too small to be lined up by what it shows, and that is no multiple of"
            f" the frame's {source.width} × {source.height}; {LEAST_SIDE} px a side are needed"
        )
    doubt = (
        f"too small to be lined up by what it shows (under {LEAST_SIDE} px a side): its size alone"
        " says how it lies"
    )
    return LineUp(Mapping(sx, sy), Border(), 0.0, 0.0, (), (doubt,))


def _same_pixels(source: Picture, output: Picture) -> bool:
    return source.pixels.shape == output.pixels.shape and np.array_equal(
        source.pixels, output.pixels
    )


def _told(
    source: Picture, output: Picture, mapping: Mapping, cells: list[ShiftCell], alike: float
) -> LineUp:
    left = residual(cells)
    return LineUp(
        mapping,
        border(source, output, mapping),
        left,
        alike,
        tuple(cells),
        doubts(cells, left, source.bounds),
    )


def doubts(cells: list[ShiftCell], left: float, frame: Rect) -> tuple[str, ...]:
    """Why a line-up through these cells may be wrong.

    Parameters
    ----------
    cells : list of ShiftCell
        Measured places with their shifts, frame px.
    left : float
        What the cells leave over, frame px.
    frame : Rect
        The whole frame, px.
    """
    found = []
    if len(cells) < FEW_CELLS:
        found.append(f"only {len(cells)} places of the picture have structure to line up by")
    elif (
        max(np.ptp([c.x for c in cells]) / frame.w, np.ptp([c.y for c in cells]) / frame.h) < NARROW
    ):
        found.append(
            "the places with structure lie in one part of the picture; the rest is extrapolated"
        )
    if left > LOOSE:
        found.append(f"places lie {left:.1f} frame px off what was fitted through them")
    return tuple(found)


def _by_hand(source: Picture, output: Picture, points: Sequence[PointPair]) -> LineUp:
    """From hand-placed points, made exact by the pictures as far as these go."""
    start = from_points(points, source.width)
    try:
        mapping, cells = refined(source, output, start)
    except NoLineUp:
        mapping, cells = start, []
    if not cells or apart(start, mapping, _span(points)) > HAND:
        alone = (
            "it rests on the points placed by hand alone, exact to a few pixels; the pictures say"
            " too little or something else"
        )
        return LineUp(start, border(source, output, start), 0.0, 0.0, (), (alone,))
    return _told(source, output, mapping, cells, 0.0)


def _span(points: Sequence[PointPair]) -> Rect:
    """Where points were placed; mappings are compared from the frame's corner to as far
    as they reach.
    """
    return Rect(0, 0, max(p.x for p in points), max(p.y for p in points))
