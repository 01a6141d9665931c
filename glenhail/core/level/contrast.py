"""Coarse contrast at one level: contrast that was raised and is taken for sharpness is
told apart from it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from glenhail.core.errors import NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.level.costs import AtOneLevel, verdict_said
from glenhail.core.level.grid import CODES, on_one_grid, ratio_of
from glenhail.core.level.way import LevelPair, Sought
from glenhail.core.picture import Doubles, Floats, Picture
from glenhail.core.seeing.sums import blurred
from glenhail.core.statistics.intervals import jackknife

METHOD = "contrast"
COARSE = 8.0  # px of deviation: what is left has less than 0.03 cycles/px
TILES = 4  # either way, of which one after the other is left out
EVEN = 2.0  # codes of deviation below which coarse contrast can not be told
SAME = 0.02  # of it, closer than which it is the other's
ASKED = ("noise_luma", "detail_kept", "overshoot", "detail_added")


def find_contrast(pair: LevelPair) -> Sought:
    """Codes drawn apart until one output's coarse contrast is another's.

    Parameters
    ----------
    pair : LevelPair
        Both outputs.

    Raises
    ------
    NoLineUp, NotMeasurable
        If they do not lie on each other, or are too even.
    """
    gain, pivot = coarse_gain(pair.one.picture, pair.other.picture)
    curve = ratio_of(pair)
    if curve.within.size == 0:
        raise NotMeasurable("there is too little structure in common to tell sharpness by")
    fine = float(curve.within.mean())
    numbers = {"gain": gain.value, "low": gain.low, "high": gain.high, "fine": fine}
    if abs(gain.value - 1) <= SAME:
        return Sought(numbers=numbers, curve=curve)
    fitted = (gain.value,) * curve.frequency.size
    return Sought(METHOD, {"gain": gain.value, "pivot": pivot}, numbers, curve, fitted)


def coarse_gain(one: Picture, other: Picture) -> tuple[Interval, float]:
    """How many times the other's coarse contrast is, and the code that stays.

    The slope of the straight line by which the other's luma follows from this one's,
    both under a Gaussian, by least squares.

    Parameters
    ----------
    one, other : Picture
        Of one frame.

    Raises
    ------
    NotMeasurable
        If the first one is too even.
    """
    (mine, theirs), _ = on_one_grid(one, (other,))
    coarse = [blurred(np.ascontiguousarray(p, dtype=np.float32), COARSE) for p in (mine, theirs)]
    if float(coarse[0].std()) < EVEN:
        raise NotMeasurable("the output is too even to tell its contrast by")
    parts = np.array([_sums(a, b) for a, b in zip(*map(_tiles, coarse), strict=True)])
    whole = parts.sum(axis=0)
    slope = _slope(whole)
    left_out = np.array([_slope(whole - part) for part in parts])
    n, x, y = whole[:3]
    offset = (y - slope * x) / n
    pivot = offset / (1 - slope) if abs(1 - slope) > SAME / 2 else CODES / 2
    return jackknife(slope, left_out), float(min(max(pivot, 0.0), CODES))


def _tiles(plane: Floats) -> list[Floats]:
    rows = np.array_split(plane, TILES, axis=0)
    return [tile for row in rows for tile in np.array_split(row, TILES, axis=1)]


def _sums(x: Floats, y: Floats) -> Doubles:
    a, b = x.astype(np.float64).ravel(), y.astype(np.float64).ravel()
    return np.array([a.size, a.sum(), b.sum(), a @ a, a @ b])


def _slope(sums: Doubles) -> float:
    n, x, y, xx, xy = sums
    return float((n * xy - x * y) / (n * xx - x * x))


def contrast_said(
    numbers: Mapping[str, Any], readings: Sequence[AtOneLevel], names: tuple[str, str]
) -> str:
    """In words how much of what looks like sharpness is contrast.

    Parameters
    ----------
    numbers : mapping
        The gain, its bounds, and how many times fine structure is as strong.
    readings : sequence of AtOneLevel
        Of all three.
    names : (str, str)
        Whose contrast was changed, and to whose.
    """
    one, other = names
    gain, fine = numbers["gain"], numbers["fine"]
    told = f"{other}'s coarse contrast is {gain:.2f} times {one}'s"
    strong = f"its fine structure is {fine:.2f} times as strong"
    if max(gain, fine) <= 1 + SAME:
        what = f"{told}, {strong}: neither more contrast nor more sharpness."
    elif gain <= 1 + SAME:
        what = f"{told}, {strong}: what it has of sharpness is no contrast."
    elif fine <= 1 + SAME:
        what = f"{told}, {strong}: it has more contrast, and no more sharpness."
    else:
        share = math.log(gain) / math.log(fine)
        at_one = f"{fine / gain:.2f} times at equal contrast"
        if share >= 0.9:
            what = f"{told}, {strong}, {at_one}: what looks like sharpness is contrast."
        else:
            what = (
                f"{told}, {strong}, {at_one}: {100 * share:.0f} % of what looks like sharpness is"
                " contrast."
            )
    if not readings:
        return what
    return f"{what} {verdict_said(f'{one} is brought to that contrast', readings, ASKED, other)}"
