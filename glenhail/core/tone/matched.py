"""Matched areas of a frame and an output: so large that noise and sharpness do not
count, so small that tones do not mix.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part
from glenhail.core.picture import Doubles, Floats, Mapping, Picture, Rect
from glenhail.core.tone.areas import sums

ACROSS = 96
SMALLEST = 8  # frame px, side of an area
# An area with more of its values at black or at white than this is left out: their mean is not that
# of the light.
CUT_OFF = 0.02
# An area whose own tones spread by more than this (encoded) mixes them: an average of a curve is
# not the curve of an average.
MIXED = 0.09
LEAST = 40
AT_BLACK, AT_WHITE = 0.5 / 65535, 1 - 0.5 / 65535


@dataclass(frozen=True)
class MatchedTone:
    """Areas of the frame with what the output has there.

    ``source`` and ``output`` are mean linear light, shape (n, 3); ``smoothed`` is the
    frame's mean of encoded values, decoded: what averaging noise away on encoded values
    makes of it, which is darker the more noise there is. ``x`` and ``y`` the areas'
    middles from -1 to 1 over the whole frame's width and height; ``plain`` says of
    which areas the tones do not mix. ``black`` and ``white`` are the shares of values
    at either end, in the frame and in the output.
    """

    source: Doubles
    output: Doubles
    smoothed: Doubles
    x: Doubles
    y: Doubles
    plain: np.ndarray
    black: tuple[float, float]
    white: tuple[float, float]


def match(frame: Picture, output: AlignedPicture) -> MatchedTone:
    """Average frame and output over the areas of a grid that both show.

    Parameters
    ----------
    frame : Picture
        The frame.
    output : AlignedPicture
        The output with its line-up.

    Raises
    ------
    NotMeasurable
        If too few areas are left that are neither cut off nor out of the output.
    """
    output = output.straight
    part = shared_part(frame.bounds, output.mapping, output.usable)
    across = int(min(ACROSS, part.w // SMALLEST))
    if across < 2 or part.h < 2 * SMALLEST:
        raise NotMeasurable("the frame and this output share too small a part")
    down = max(2, round(across * part.h / part.w))
    cuts = [
        _cuts(start, side, n)
        for start, side, n in ((part.y, part.h, down), (part.x, part.w, across))
    ]
    found = _in_one_pass(frame, output, *cuts) or _resampled(frame, output, part, across, down)
    light, ends, smoothed, spread = found.light, found.ends, found.smoothed, found.spread
    useful = np.all([(e <= CUT_OFF).all(axis=(-1, -2)) for e in ends], axis=0)
    if int(useful.sum()) < LEAST:
        raise NotMeasurable("too few areas of the frame that are neither black nor clipped")
    middle_x = (part.x + (np.arange(across) + 0.5) * part.w / across) / frame.width * 2 - 1
    middle_y = (part.y + (np.arange(down) + 0.5) * part.h / down) / frame.height * 2 - 1
    grid_x, grid_y = np.meshgrid(middle_x, middle_y)
    shares = [tuple(float(e[..., end, :].mean()) for e in ends) for end in (0, 1)]
    return MatchedTone(
        light[0][useful],
        light[1][useful],
        smoothed[useful],
        grid_x[useful],
        grid_y[useful],
        spread[useful] < MIXED,
        (shares[0][0], shares[0][1]),
        (shares[1][0], shares[1][1]),
    )


def _cuts(start: float, side: float, count: int) -> np.ndarray:
    """Lines of a grid on whole pixels."""
    return (start + side * np.arange(count + 1) // count).astype(np.int64)


@dataclass(frozen=True)
class _Areas:
    """Over the grid: mean light of frame and output, their shares at either end (down,
    across, 2, 3), the frame's mean of encoded values, decoded, and how far its tones
    are apart within each area.
    """

    light: list[Doubles]
    ends: list[Doubles]
    smoothed: Doubles
    spread: Doubles


def _in_one_pass(
    frame: Picture, output: AlignedPicture, rows: np.ndarray, columns: np.ndarray
) -> _Areas | None:
    """Where the grid's lines fall on whole pixels of both pictures; else None."""
    m = output.mapping
    if not all(float(v).is_integer() for v in (m.sx, m.sy, m.dx, m.dy)):
        return None
    there = (
        np.rint(rows * m.sy + m.dy).astype(np.int64),
        np.rint(columns * m.sx + m.dx).astype(np.int64),
    )
    inside = (
        there[0][0] >= 0
        and there[1][0] >= 0
        and there[0][-1] <= output.picture.height
        and there[1][-1] <= output.picture.width
    )
    if not inside:
        return None
    own = sums(frame.pixels, rows, columns, AT_BLACK, AT_WHITE, coded=True)
    other = sums(output.picture.pixels, *there, AT_BLACK, AT_WHITE, coded=False)
    fine = srgb.luma(np.asarray(own.parts, dtype=np.float32))
    down, across = rows.size - 1, columns.size - 1
    parts = fine.reshape(down, 4, across, 4)
    return _Areas(
        [own.light, other.light],
        [np.stack([s.black, s.white], axis=-2) for s in (own, other)],
        np.asarray(srgb.decode(own.encoded), dtype=np.float64),
        np.asarray(parts.max(axis=(1, 3)) - parts.min(axis=(1, 3)), dtype=np.float64),
    )


def _resampled(
    frame: Picture, output: AlignedPicture, part: Rect, across: int, down: int
) -> _Areas:
    """The same by resampling, for any mapping."""
    laid = (AlignedPicture(frame, Mapping(), frame.bounds), output)
    return _Areas(
        [_mean(one, part, across, down) for one in laid],
        [_ends(one, part, across, down).astype(np.float64) for one in laid],
        _smoothed(frame, part, across, down),
        _spread(laid[0], part, across, down),
    )


def _mean(laid: AlignedPicture, part: Rect, across: int, down: int) -> Doubles:
    target = laid.mapping.rect(part).clipped(laid.picture.bounds)
    return np.asarray(resample(laid.picture.pixels, target, across, down, "area"), dtype=np.float64)


def _smoothed(frame: Picture, part: Rect, across: int, down: int) -> Doubles:
    means = resample(srgb.encode(frame.pixels), part, across, down, "area")
    return np.asarray(srgb.decode(means), dtype=np.float64)


def _ends(laid: AlignedPicture, part: Rect, across: int, down: int) -> Floats:
    """Shares of values at black and at white in each area and channel, shape (down,
    across, 2, 3).
    """
    target = laid.mapping.rect(part).clipped(laid.picture.bounds)
    pixels = laid.picture.pixels
    return np.stack(
        [_share(m, target, across, down) for m in (pixels <= AT_BLACK, pixels >= AT_WHITE)], axis=-2
    )


def _share(at_end: np.ndarray, target: Rect, across: int, down: int) -> Floats:
    """Share of values that are at one end, by area and channel; most pictures have none
    at most ends.
    """
    made = np.zeros((down, across, 3), dtype=np.float32)
    for channel in range(3):
        plane = at_end[..., channel]
        if plane.any():
            made[..., channel] = resample(plane.astype(np.float32), target, across, down, "area")
    return made


def _spread(laid: AlignedPicture, part: Rect, across: int, down: int) -> Doubles:
    """How far the tones of each area are apart once noise is averaged: of its sixteen
    parts, encoded luma.
    """
    fine = srgb.luma(np.asarray(_mean(laid, part, 4 * across, 4 * down), dtype=np.float32))
    parts = fine.reshape(down, 4, across, 4)
    return np.asarray(parts.max(axis=(1, 3)) - parts.min(axis=(1, 3)), dtype=np.float64)
