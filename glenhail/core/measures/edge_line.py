"""The straight line that an upright edge runs along, from the derivative along each row
(ISO 12233:2017, annex D).
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from glenhail.core.colour.roots import kernel
from glenhail.core.picture import Doubles, Floats

FOUND, NONE = 0, 1
WIDE = 2  # rounds that only have to come near
ROUNDS = 8  # at most, after those
LEAST_SHARE = 0.2  # of the rows' median contrast that a row needs
Rows = tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]


def follow(
    slopes: Floats, near: float, still: float, ends: float, least: int
) -> tuple[int, tuple[float, float], Rows]:
    """Where an edge runs in a plane of derivatives along its rows, shape (h, w), the
    first of them at x = 0.5.

    Each round takes the centroids of the rows within a Hamming window about the line so
    far: half the plane, a quarter, then ``near`` px until the line's ends move by less
    than ``still``. ``ends`` rows at top and bottom, which are smoothed with themselves,
    are left out where ``least`` others remain.

    Parameters
    ----------
    slopes : ndarray, shape (h, w), float32
        Derivatives along the rows.
    near : float
        Half the last window's width, px.
    still : float
        By how little the line's ends move at the end, px.
    ends : float
        Rows left out at top and bottom.
    least : int
        How many rows are needed at least.

    Returns
    -------
    status, (at, slope), (y, mass, centre, used)
        `FOUND`, or `NONE` where half as many rows as needed have contrast; the line is
        x = at + slope * y. Of the last round: the rows, the derivative's sum and
        centroid in each, and whether it counted.
    """
    start = float(slopes.sum(axis=0, dtype=np.float64).argmax()) + 0.5
    # The wide rounds only have to come near: forty rows of a long edge will do.
    coarse = max(1, slopes.shape[0] // (2 * least))
    status, at, slope, *rows = _follow(
        np.ascontiguousarray(slopes), start, near, still, ends, least, coarse
    )
    y, mass, centre, used = rows
    return status, (float(at), float(slope)), (y, mass, centre, used)


@kernel
def _centroids(
    slopes: Floats,
    rows: np.ndarray,
    at: float,
    slope: float,
    reach: float,
    mass: Doubles,
    centre: Doubles,
) -> None:
    width = slopes.shape[1]
    half = min(int(reach) + 2, width // 2)
    count = min(2 * half + 1, width)
    for i in range(rows.size):
        middle = at + slope * rows[i]
        # Shifted inwards where the window would leave the plane.
        first = min(max(round(middle) - half, 0), width - count)
        total = moment = 0.0
        # The cosine's next value from its last two: a cosine for each pixel would take ten times as
        # long.
        turn = 2 * math.cos(math.pi / reach)
        angle = math.pi * (first + 0.5 - middle) / reach
        cosine, before = math.cos(angle), math.cos(angle - math.pi / reach)
        for j in range(first, first + count):
            x = j + 0.5
            if abs(x - middle) < reach:
                v = slopes[rows[i], j] * (0.54 + 0.46 * cosine)
                total += v
                moment += v * x
            cosine, before = turn * cosine - before, cosine
        mass[i] = total
        centre[i] = moment / total if total != 0 else 0.0


@kernel
def _fitted(rows: np.ndarray, centre: Doubles, used: np.ndarray) -> tuple[float, float]:
    """The least-squares line through the rows that count: x = at + slope * y."""
    n = sy = sx = 0.0
    for i in range(rows.size):
        if used[i]:
            n, sy, sx = n + 1, sy + rows[i], sx + centre[i]
    my, mx = sy / n, sx / n
    syy = sxy = 0.0
    for i in range(rows.size):
        if used[i]:
            syy, sxy = syy + (rows[i] - my) ** 2, sxy + (rows[i] - my) * (centre[i] - mx)
    slope = sxy / syy if syy > 0 else 0.0
    return mx - slope * my, slope


@kernel
def _follow(
    slopes: Floats, at: float, near: float, still: float, ends: float, least: int, coarse: int
) -> Any:
    height, width = slopes.shape
    slope = 0.0
    for turn in range(WIDE + ROUNDS):
        reach = width / (2.0, 4.0)[turn] if turn < WIDE else near
        rows = np.arange(0, height, coarse if reach > near else 1)
        mass, centre = np.empty(rows.size), np.empty(rows.size)
        _centroids(slopes, rows, at, slope, reach, mass, centre)
        used = mass > LEAST_SHARE * np.median(np.abs(mass))
        if used.sum() < least / 2:
            return NONE, at, slope, rows, mass, centre, used
        # Rows whose window leaves the plane would lean inwards; so would the first and last ones.
        whole = used & (np.abs(at + slope * rows - width / 2) < width / 2 - reach)
        whole &= (rows >= ends) & (rows < height - ends)
        if whole.sum() >= least:
            used = whole
        top, bottom = at, at + slope * height
        at, slope = _fitted(rows, centre, used)
        if reach == near and max(abs(at - top), abs(at + slope * height - bottom)) < still:
            break
    return FOUND, at, slope, rows, mass, centre, used
