"""Halos beside an edge: how far its light goes beyond a plateau, told without what
noise alone would add.
"""

from __future__ import annotations

import math

import numpy as np
import scipy.ndimage
import scipy.special

from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.edge import GRID, profiles_of, refuse_noisy, scale_of
from glenhail.core.measures.edge_profile import PLATEAU
from glenhail.core.measures.edge_sides import LEAST_FALL, SEEN_WHOLE, UNSEEN, Side, side_of
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Doubles, Rect
from glenhail.core.statistics.intervals import TAIL

# A halo is about as wide as it lies far from the edge: shares of that, and least frame px, that a
# cubic is laid through on either side of its peak, and that a profile is smoothed by before the
# peak is looked for.
NEAR, LEAST_NEAR = 0.35, 0.75
TOP = 1.6  # windows that the peak's place is found in, for one that its height is
SMOOTH, LEAST_SMOOTH = 0.25, 0.3
STILL_FALLING = 0.015  # of the halo, by which its plateau may still change
# the place of a soft edge's peak is itself in doubt: without this 92.8 % held at 4 px (bench
# coverage)
WIDER = 1.05
BIAS = 0.015  # share of the value by which a cubic may miss a peak (docs/measures.md)


def overshoot(subject: Subject, rect: Rect) -> MeasuredValue:
    """How far the bright side of an edge goes above its plateau, % of the step: a
    bright halo.

    The peak is looked for in one half of the rows and read in the other, and the other
    way round: what is high by chance in the one is not so in the other. So noise adds
    nothing, and an edge without a halo reads 0 within its interval, above or below.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.

    Raises
    ------
    NotMeasurable
        Besides what an edge needs: if the halo has not ended within the patch.
    """
    return _halo(subject, rect, 1.0)


def undershoot(subject: Subject, rect: Rect) -> MeasuredValue:
    """How far the dark side of an edge goes below its plateau, % of the step: a dark
    halo; found as `overshoot` is.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    return _halo(subject, rect, -1.0)


def _halo(subject: Subject, rect: Rect, sign: float) -> MeasuredValue:
    edge, scale = profiles_of(subject, rect), scale_of(subject)
    refuse_noisy(edge.profiles.whole)
    side = side_of(edge.profiles, sign)
    halves = [side.of(slice(i, None, 2)) for i in (0, 1)]
    readings = [_read(half, _peak(other, scale), scale) for half, other in (halves, halves[::-1])]
    value = 50 * sum(v for v, _ in readings)
    parts = 100 * np.stack([v + i.size * i for v, i in readings], axis=1).ravel()
    n = parts.size
    error = 50 * float(
        math.sqrt(sum(i.size / (i.size - 1) * float((i**2).sum()) for _, i in readings))
    )
    reach = math.hypot(
        WIDER * float(scipy.special.stdtrit(n // 2 - 1, 1 - TAIL)) * error, BIAS * value
    )
    more = UNSEEN * _unseen(side, value)
    return MeasuredValue(
        value,
        value - reach,
        value + reach + more,
        GRID,
        {},
        tuple(float(f"{p:.6g}") for p in parts),
    )


def _near(at: float, scale: float) -> float:
    return max(LEAST_NEAR * scale, LEAST_NEAR, NEAR * at)


def _top(side: Side, sigma: float) -> float:
    """Where a side's mean light under a Gaussian is highest, px from the edge."""
    bins = sigma / float(side.distance[1] - side.distance[0])
    total, count = (
        scipy.ndimage.gaussian_filter1d(v.sum(axis=0), bins, mode="nearest")
        for v in (side.total, side.count)
    )
    near = side.distance < PLATEAU * side.reach
    return float(side.distance[near][int((total / np.maximum(count, 1e-9))[near].argmax())])


def _window(side: Side, at: float, near: float) -> tuple[np.ndarray, Doubles, Doubles]:
    """Where a cubic about a place is laid, the powers it is made of, (4, n), and the
    share of a pixel in each coefficient.
    """
    inside = np.abs(side.distance - at) <= near
    x = (side.distance[inside] - at) / near
    design = np.stack([np.ones_like(x), x, x * x, x**3])
    count = side.count[:, inside].sum(axis=0)
    return inside, design, np.asarray(np.linalg.pinv((design * count) @ design.T) @ design)


def _peak(side: Side, scale: float) -> float:
    """Where a side is highest: the curve's top about the smoothed profile's."""
    at = _top(side, LEAST_SMOOTH * scale)
    at = _top(side, max(LEAST_SMOOTH * scale, SMOOTH * at))
    inside, _, shares = _window(side, at, TOP * _near(at, scale))
    _, slope, bend, _ = shares @ side.total[:, inside].sum(axis=0)
    move = -slope / (2 * bend) if bend < 0 else 0.0
    return at + float(np.clip(move, -1, 1)) * TOP * _near(at, scale)


def _read(side: Side, at: float, scale: float) -> tuple[float, Doubles]:
    """Height of a side at a place over its plateau, in steps, and each run's influence
    on it (Liang and Zeger 1986).
    """
    plateau = side.distance > PLATEAU * side.reach
    level, pixels = side.mean(plateau), max(1.0, float(side.count[:, plateau].sum()))
    inside, powers, shares = _window(side, at, _near(at, scale))
    curve = (shares @ side.total[:, inside].sum(axis=0)) @ powers
    here = (side.total[:, inside] - side.count[:, inside] * curve) @ shares[0]
    there = (
        side.total[:, plateau].sum(axis=1) - side.count[:, plateau].sum(axis=1) * level
    ) / pixels
    return float(shares[0] @ side.total[:, inside].sum(axis=0)) - level, here - there


def _unseen(side: Side, halo: float) -> float:
    """By how much a plateau falls that a halo has not quite come to, % of the step;

    0 where that is nothing.

    Raises
    ------
    NotMeasurable
        If it falls by so much that the halo is larger than it seems.
    """
    fall, error = side.fall()
    if halo < SEEN_WHOLE or fall < 4 * error:
        return 0.0
    if fall > max(LEAST_FALL, STILL_FALLING * halo):
        raise NotMeasurable(
            "the halo is not seen whole: it has not ended at the patch's side; draw a wider patch"
        )
    return fall
