"""Local shifts between a frame and an output, measured in cells spread over the
picture.
"""

from __future__ import annotations

import math
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.bend import MARGIN, straightened
from glenhail.core.lineup.correlate import detail, fine_shift, window
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.picture import Floats, Mapping, Picture, Rect

CELL = 160
ACROSS, DOWN = 8, 6
SMALL = 4_000_000  # output pixels
LEAST_NEW = 0.25  # of a cell that the next one does not see
LEAST_PEAK = 0.12
# Least root mean square structure (encoded units) for a cell to say anything.
LEAST_DETAIL = 0.4 / 255


@dataclass(frozen=True)
class ShiftCell:
    """A measured place: its centre and the output's shift there, frame pixels, with
    weights, and how alike the two are (0..1).
    """

    x: float
    y: float
    dx: float
    dy: float
    weight_x: float
    weight_y: float
    alike: float = 1.0


def cell_shifts(
    source: Picture, output: Picture, mapping: Mapping, reach: float
) -> list[ShiftCell]:
    """Shifts left over by a mapping, in cells of the frame that have enough structure.

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture
        The output.
    mapping : Mapping
        From frame coordinates to output pixels, as far as it is known.
    reach : float
        How far to look, in pixels of the coarser of the two grids.
    """
    # Where the output is the smaller one, the comparison happens on its grid.
    coarser = max(1.0, 1 / min(mapping.sx, mapping.sy))
    rects = _cells(source, output, mapping, coarser)
    if mapping.bend is not None and output.width * output.height < SMALL:
        # Straightening all of a small picture once costs less than each of its overlapping cells.
        light = straightened(srgb.luminance(output.pixels), mapping, output.bounds)
        output, mapping = (
            Picture(np.broadcast_to(light[..., None], (*light.shape, 3)), output.facts),
            mapping.straight,
        )
    with ThreadPoolExecutor(max_workers=2) as pool:
        found = pool.map(lambda r: _measured(source, output, mapping, r, coarser, reach), rects)
        return [cell for cell in found if cell is not None]


def _cells(source: Picture, output: Picture, mapping: Mapping, coarser: float) -> list[Rect]:
    usable = shared_part(source.bounds, mapping, output.bounds)
    area = Rect(usable.x + 1, usable.y + 1, usable.w - 2, usable.h - 2).whole()
    side = min(CELL * coarser, area.w / 2, area.h / 2)
    size = max(24, math.floor(side))
    xs = _places(area.x, area.w - size, size, ACROSS)
    ys = _places(area.y, area.h - size, size, DOWN)
    return [Rect(float(x), float(y), size, size) for y in ys for x in xs]


def _places(first: float, room: float, size: int, most: int) -> list[float]:
    """Where cells begin: spread over the room, none nearer to the next than it takes to
    see much that the next does not.
    """
    count = min(most, 2 + math.floor(room / (size * LEAST_NEW)))
    return list(np.unique(np.linspace(first, first + room, count).round()))


def _measured(
    source: Picture, output: Picture, mapping: Mapping, rect: Rect, coarser: float, reach: float
) -> ShiftCell | None:
    one, two = _pair(source, output, mapping, rect, coarser)
    if min(float(one.std()), float(two.std())) < LEAST_DETAIL:
        return None
    taper = window((one.shape[0], one.shape[1]))
    peak = fine_shift(one * taper, two * taper, reach)
    if peak.height < LEAST_PEAK or max(abs(peak.dx), abs(peak.dy)) > reach * 1.02:
        return None
    x, y = rect.x + rect.w / 2, rect.y + rect.h / 2
    sure = peak.height**2
    return ShiftCell(
        x,
        y,
        peak.dx * coarser,
        peak.dy * coarser,
        sure * peak.bend_x,
        sure * peak.bend_y,
        peak.height,
    )


def _pair(
    source: Picture, output: Picture, mapping: Mapping, rect: Rect, coarser: float
) -> tuple[Floats, Floats]:
    one = srgb.luminance(source.crop(rect))
    target = mapping.straight.rect(rect)
    margin = MARGIN + 4 * max(1.0, mapping.sx, mapping.sy)
    part = Rect(
        target.x - margin, target.y - margin, target.w + 2 * margin, target.h + 2 * margin
    ).clipped(output.bounds)
    part = Rect(math.floor(part.x), math.floor(part.y), math.floor(part.w), math.floor(part.h))
    plane = _luminance(output, mapping, part)
    moved = Mapping(mapping.sx, mapping.sy, mapping.dx - part.x, mapping.dy - part.y)
    if coarser > 1:
        size = max(24, round(rect.w / coarser))
        one = resample(one, Rect(0, 0, rect.w, rect.h), size, size)
        two = resample(plane, moved.rect(rect), size, size)
    else:
        two = to_frame_grid(plane, moved, rect).pixels
    encoded = (srgb.encode(np.maximum(p, 0)) for p in (one, two))
    first, second = (detail(np.asarray(p, dtype=np.float32)) for p in encoded)
    return first, second


def _luminance(output: Picture, mapping: Mapping, part: Rect) -> Floats:
    """A part of the output as it would lie without the mapping's bend."""
    if mapping.bend is None:
        return srgb.luminance(output.crop(part))
    reach = MARGIN + int(
        max(abs(v) for v in (*mapping.bend.across, *mapping.bend.down))
        * max(mapping.sx, mapping.sy)
    )
    wide = Rect(part.x - reach, part.y - reach, part.w + 2 * reach, part.h + 2 * reach).clipped(
        output.bounds
    )
    moved = Mapping(mapping.sx, mapping.sy, mapping.dx - wide.x, mapping.dy - wide.y, mapping.bend)
    return straightened(
        srgb.luminance(output.crop(wide)),
        moved,
        Rect(part.x - wide.x, part.y - wide.y, part.w, part.h),
    )
