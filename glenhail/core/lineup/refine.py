"""From a rough mapping to an exact one: cells and fits in turn, on reduced pictures
first, then on the pictures themselves.
"""

from __future__ import annotations

from dataclasses import replace

from glenhail.core.errors import NoLineUp
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.cells import ShiftCell, cell_shifts
from glenhail.core.lineup.coarse import PLAIN_SCALES
from glenhail.core.lineup.fit import corrected, robust_line, table
from glenhail.core.picture import Bend, Mapping, Picture, Rect

# What counts as plain: end to end, a scale off by this many pixels of the coarser grid; a shift off
# by this many.
# Blurring in linear light moves an edge in encoded values by about as much, so less can not be
# told.
SNAP_SCALE, SNAP_SHIFT = 0.15, 0.05
SETTLED = 0.1  # frame px: a smaller correction is the last
LEAST_CELLS = 4
# A mapping that lies no farther than this from the plain grid (frame px) is doubted, unless it
# leaves less than this share of the mean square that the plain grid does; places are not known
# better than this (frame px).
WEAK, DOUBTED, ROUNDING = 1.0, 0.5, 0.02
# Larger frames are lined up reduced to this width first: a lens correction moves their corners by
# more than cells reach.
REDUCED = 1200
REDUCED_ROUNDS, FULL_ROUNDS = (8.0, 8.0, 4.0), (8.0, 3.0, 1.5)


def refined(source: Picture, output: Picture, start: Mapping) -> tuple[Mapping, list[ShiftCell]]:
    """Cells and fits until nothing more is to be corrected.

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture
        The output.
    start : Mapping
        Where to begin.

    Raises
    ------
    NoLineUp
        If fewer than four cells say anything.
    """
    mapping = start
    if source.width > 2.5 * REDUCED or start.bend is not None:
        mapping = _on_reduced(source, output, start)
    mapping, cells, settled = _rounds(source, output, mapping, FULL_ROUNDS)
    if mapping.bend is not None:
        return mapping, cell_shifts(source, output, mapping, 1.5)
    snapped = _snapped(mapping, source, output)
    if snapped == start and settled:
        return snapped, cells
    return snapped, cell_shifts(source, output, snapped, 1.5)


def plain_grid(
    source: Picture, output: Picture, mapping: Mapping, cells: list[ShiftCell]
) -> tuple[Mapping, list[ShiftCell]]:
    """Pixel on pixel, where sizes are equal and the places measured hardly speak for
    anything else.

    Smoothing and compression in blocks pull places about by fractions of a pixel, and a
    scale, a turn or a bend fitted through them follows. It stands only if it explains
    the places much better than the plain grid does: their mean square falls to under
    half, and to under what it takes away (a test of one model within another, Fisher
    1922, with a margin for places that err together).

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture
        The output.
    mapping : Mapping
        From frame coordinates to output pixels.
    cells : list of ShiftCell
        Measured places with their shifts, frame px.
    """
    whole = Mapping(1.0, 1.0, float(round(mapping.dx)), float(round(mapping.dy)))
    same_size = source.width == output.width and source.height == output.height
    if not same_size or mapping == whole or apart(mapping, whole, source.bounds) > WEAK:
        return mapping, cells
    plain = cell_shifts(source, output, whole, 1.5)
    if len(plain) < LEAST_CELLS or _square(cells) < DOUBTED * _square(plain):
        return mapping, cells
    return whole, plain


def _square(cells: list[ShiftCell]) -> float:
    """Weighted mean square of what is left over, frame px squared, places far off cut
    short.
    """
    weight = sum(c.weight_x + c.weight_y for c in cells)
    squares = sum(c.weight_x * min(c.dx**2, 1.0) + c.weight_y * min(c.dy**2, 1.0) for c in cells)
    return squares / max(weight, 1e-12) + ROUNDING**2


def _rounds(
    source: Picture, output: Picture, mapping: Mapping, reaches: tuple[float, ...]
) -> tuple[Mapping, list[ShiftCell], bool]:
    settled = False
    cells: list[ShiftCell] = []
    for reach in reaches:
        cells = cell_shifts(source, output, mapping, reach)
        if len(cells) < LEAST_CELLS:
            raise NoLineUp(
                "too little structure to line it up by; a frame with some detail is needed"
            )
        better = corrected(mapping, cells, source.bounds)
        settled = apart(mapping, better, source.bounds) < SETTLED
        mapping = better
        if settled:
            break
    return mapping, cells, settled


def _on_reduced(source: Picture, output: Picture, start: Mapping) -> Mapping:
    """The mapping as found on both pictures reduced; the start again where they show
    too little.
    """
    by = max(1.0, source.width / REDUCED)
    one, two = _reduced(source, by), _reduced(output, max(1.0, by * start.sx))
    frame_ratio, output_ratio = one.width / source.width, two.width / output.width
    try:
        found = _rounds(one, two, _scaled(start, frame_ratio, output_ratio), REDUCED_ROUNDS)[0]
    except NoLineUp:
        return start
    return _scaled(found, 1 / frame_ratio, 1 / output_ratio)


def _reduced(picture: Picture, by: float) -> Picture:
    if by == 1:
        return picture
    width, height = round(picture.width / by), round(picture.height / by)
    # Of one ratio both ways, so that the mapping's scales keep theirs: what does not fit is left
    # out.
    ratio = picture.width / width
    height = min(height, int(picture.height / ratio))
    return Picture(
        resample(picture.pixels, Rect(0, 0, picture.width, height * ratio), width, height, "area"),
        picture.facts,
    )


def _scaled(m: Mapping, frame: float, output: float) -> Mapping:
    """A mapping for pictures that are `frame` and `output` times as large."""
    bend = m.bend
    if bend is not None:
        across, down = (tuple(v * frame for v in part) for part in (bend.across, bend.down))
        bend = Bend(bend.x * frame, bend.y * frame, bend.reach * frame, across, down)
    return Mapping(m.sx * output / frame, m.sy * output / frame, m.dx * output, m.dy * output, bend)


def apart(one: Mapping, two: Mapping, frame: Rect) -> float:
    """How far two mappings differ at most over a frame, frame px; looked for on a grid
    of nine.

    Parameters
    ----------
    one : Mapping
        The first mapping.
    two : Mapping
        The second one.
    frame : Rect
        The whole frame, px.
    """
    places = [Rect(x * frame.w / 2, y * frame.h / 2, 0, 0) for x in range(3) for y in range(3)]
    gaps = [
        max(abs(a.x - b.x), abs(a.y - b.y)) for a, b in ((one.rect(p), two.rect(p)) for p in places)
    ]
    return max(gaps) / min(one.sx, one.sy)


def _snapped(mapping: Mapping, source: Picture, output: Picture) -> Mapping:
    """The plain mapping that is as good as the one found, its shift measured anew where
    the scale changed.
    """
    sx = _plain_scale(mapping.sx, source.width, output.width)
    sy = _plain_scale(mapping.sy, source.height, output.height)
    if (sx, sy) != (mapping.sx, mapping.sy):
        # Changing the scale about the picture's middle leaves the middle where it was.
        dx = mapping.dx + (mapping.sx - sx) * source.width / 2
        dy = mapping.dy + (mapping.sy - sy) * source.height / 2
        mapping = Mapping(sx, sy, dx, dy)
        t = table(cell_shifts(source, output, mapping, 1.5), mapping)
        ax, ay = (
            robust_line(t.x, t.dx, t.weight_x, False)[0],
            robust_line(t.y, t.dy, t.weight_y, False)[0],
        )
        mapping = Mapping(sx, sy, dx + sx * ax, dy + sy * ay)
    return replace(mapping, dx=_whole_shift(mapping.dx, sx), dy=_whole_shift(mapping.dy, sy))


def _plain_scale(scale: float, source_size: int, output_size: int) -> float:
    """The plain scale, or the ratio of the sizes, that is as good as the one found."""
    for plain in (*PLAIN_SCALES, output_size / source_size):
        if abs(scale / plain - 1) * min(source_size, output_size) < SNAP_SCALE:
            return plain
    return scale


def _whole_shift(shift: float, scale: float) -> float:
    nearest = float(round(shift))
    return nearest if abs(shift - nearest) < SNAP_SHIFT * max(1.0, scale) else shift
