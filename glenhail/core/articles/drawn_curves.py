"""Curves over ISO as places on a sheet: what a page draws without a script."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

BASE = 100.0  # ISO from which stops are counted
MOST_TICKS = 6


@dataclass(frozen=True)
class DrawnCurve:
    """A curve's places as SVG's polyline takes them, and where its name stands."""

    points: str
    end: tuple[float, float]


@dataclass(frozen=True)
class Drawn:
    """Curves, and marks of both axes with their words: place, text."""

    curves: tuple[DrawnCurve, ...]
    across: tuple[tuple[float, str], ...]
    up: tuple[tuple[float, str], ...]


def drawn(
    curves: Sequence[Sequence[tuple[float, float]]], width: float, height: float
) -> Drawn | None:
    """Place curves on a sheet; equal steps across are stops of ISO.

    Parameters
    ----------
    curves : sequence of sequence of (float, float)
        ISO and value of each.
    width, height : float
        Of the sheet; 0 lies at its upper left.

    Returns
    -------
    Drawn or None
        None where there is nothing to draw.
    """
    places = [[(math.log2(iso / BASE), value) for iso, value in curve] for curve in curves]
    every = [p for curve in places for p in curve]
    if not every:
        return None
    left, right = math.floor(min(x for x, _ in every)), math.ceil(max(x for x, _ in every))
    low, high, step = _round_about([y for _, y in every])
    right = max(right, left + 1)

    def across(x: float) -> float:
        return round(width * (x - left) / (right - left), 2)

    def up(y: float) -> float:
        return round(height * (high - y) / (high - low), 2)

    made = []
    for curve in places:
        at = [(across(x), up(y)) for x, y in curve]
        end = at[-1] if at else (0.0, 0.0)
        made.append(DrawnCurve(" ".join(f"{x:g},{y:g}" for x, y in at), end))
    jump = max(1, math.ceil((right - left) / MOST_TICKS))
    stops = range(left, right + 1, jump)
    levels = [low + i * step for i in range(round((high - low) / step) + 1)]
    return Drawn(
        tuple(made),
        tuple((across(s), f"{BASE * 2.0**s:,.0f}") for s in stops),
        tuple((up(v), f"{v:g}") for v in (round(level, 6) for level in levels)),
    )


def _round_about(values: Sequence[float]) -> tuple[float, float, float]:
    """Round bounds about all values, and a round step that they are whole times of."""
    low, high = min(values), max(values)
    rough = max(high - low, 1e-9) / 4
    power = 10.0 ** math.floor(math.log10(rough))
    step = next(power * m for m in (1, 2, 5, 10) if power * m >= rough)
    first, last = math.floor(low / step) * step, math.ceil(high / step) * step
    return first, (last if last > first else first + step), step
