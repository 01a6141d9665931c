"""By how many stops one body is ahead of another: how far apart, along ISO, two curves
of signal to noise reach the same ratio.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import scipy.special

from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles
from glenhail.core.words import listed

DRAWS, SEED = 800, 12345
QUANTILES = (0.025, 0.975)
SMALLEST = 0.1  # stops, below which nobody sees it: common practice, no source
NORMAL = 1.959963984540054


@dataclass(frozen=True)
class SnrCurve:
    """Signal-to-noise ratios, each with its interval, at growing ISO."""

    iso: Sequence[float]
    snr: Sequence[Interval]


@dataclass(frozen=True)
class StopsAhead:
    """How far the first body is ahead at one of its ISO values: the second one's ISO at
    which it has the same ratio would be so many stops lower.
    """

    iso: float
    stops: Interval


def stops_ahead(one: SnrCurve, other: SnrCurve) -> list[StopsAhead]:
    """At each ISO of the first whose ratio the second one reaches as well.

    Between its ISO values the second curve is a straight line in logarithms. Intervals
    by drawing both curves again within their own.

    Parameters
    ----------
    one, other : SnrCurve
        Each of at least two ISO values.
    """
    rng = np.random.default_rng(SEED)
    drawn = [_drawn(curve, rng) for curve in (one, other)]
    x, y = (np.log2(np.asarray(curve.iso, dtype=float)) for curve in (one, other))
    made = []
    for at, iso in enumerate(one.iso):
        value = _ahead(x[at], math.log2(one.snr[at].value), y, _logs(other))
        if value is None:
            continue
        all_of = [
            found
            for mine, theirs in zip(drawn[0][:, at], drawn[1], strict=True)
            if (found := _ahead(x[at], mine, y, theirs, beyond=True)) is not None
        ]
        low, high = np.quantile(all_of, QUANTILES)
        made.append(StopsAhead(iso, Interval(value, float(low), float(high))))
    return made


@dataclass(frozen=True)
class Alike:
    """Two ISO values at which the bodies are equally noisy, and the nearest that the
    second one was shot at.
    """

    iso: float
    other_iso: float
    shot: float


def alike(ahead: Sequence[StopsAhead], other: SnrCurve) -> list[Alike]:
    """For each ISO of the first, that of the second with the same ratio.

    Parameters
    ----------
    ahead : sequence of StopsAhead
        How far the first is ahead.
    other : SnrCurve
        The second.
    """
    made = []
    for a in ahead:
        iso = a.iso * 2.0**-a.stops.value
        nearest = min(other.iso, key=lambda o: abs(math.log2(o / iso)))
        made.append(Alike(a.iso, iso, nearest))
    return made


def _logs(curve: SnrCurve) -> Doubles:
    return np.log2([s.value for s in curve.snr])


def _drawn(curve: SnrCurve, rng: np.random.Generator) -> Doubles:
    """Logarithms of ratios, shape (draws, n)."""
    half = np.array([(s.high - s.low) / 2 / NORMAL / s.value / math.log(2) for s in curve.snr])
    return np.asarray(_logs(curve) + rng.normal(0, 1, (DRAWS, half.size)) * half)


def _ahead(
    x: float, level: float, y: Doubles, theirs: Doubles, beyond: bool = False
) -> float | None:
    """How far to the left the other curve, which falls, has the same level."""
    # Noise may turn two neighbours round; the curve of a body falls all the same.
    falling = np.minimum.accumulate(theirs)
    if not beyond and not falling[-1] <= level <= falling[0]:
        return None
    if level > falling[0] or level < falling[-1]:
        a, b = (0, 1) if level > falling[0] else (-2, -1)
        slope = (falling[b] - falling[a]) / (y[b] - y[a])
        return None if slope >= 0 else float(x - (y[a] + (level - falling[a]) / slope))
    return float(x - np.interp(-level, -falling, y))


def told(ahead: Sequence[StopsAhead], names: tuple[str, str]) -> str:
    """In words, with its doubt: from which ISO on who is ahead by how much.

    Parameters
    ----------
    ahead : sequence of StopsAhead
        At growing ISO.
    names : tuple of str
        Of the first body and the second.
    """
    if not ahead:
        return "The two reach no ratio in common: shoot both at more ISO values."
    runs = _runs(ahead, _family(len(ahead)))
    parts = []
    for who, name in ((1, names[0]), (-1, names[1])):
        own = [run for of, run in runs if of == who]
        if own:
            sizes = [abs(a.stops.value) for run in own for a in run]
            where = listed([_where([a.iso for a in run], ahead) for run in own])
            parts.append(f"{name} is ahead by {_span(sizes)} stops {where}")
    if not parts:
        return "At every ISO that was compared no measurable difference."
    even = any(of == 0 for of, _ in runs)
    return f"{'; '.join([*parts, *(['elsewhere no measurable difference'] if even else [])])}."


def _span(sizes: Sequence[float]) -> str:
    low, high = f"{min(sizes):.1f}", f"{max(sizes):.1f}"
    return low if low == high else f"{low} to {high}"


def _family(count: int) -> float:
    """How much wider intervals are of so many ISO values, so that one error in twenty
    is of all of them together (Bonferroni; Dunn 1961).
    """
    return float(scipy.special.ndtri(1 - 0.025 / count)) / NORMAL


def _runs(ahead: Sequence[StopsAhead], wider: float) -> list[tuple[int, list[StopsAhead]]]:
    runs: list[tuple[int, list[StopsAhead]]] = []
    for a in ahead:
        who = 0
        v = a.stops
        low, high = v.value - wider * (v.value - v.low), v.value + wider * (v.high - v.value)
        if abs(v.value) >= SMALLEST and not low <= 0 <= high:
            who = 1 if v.value > 0 else -1
        if runs and runs[-1][0] == who:
            runs[-1][1].append(a)
        else:
            runs.append((who, [a]))
    return runs


def _where(isos: Sequence[float], ahead: Sequence[StopsAhead]) -> str:
    first, last = isos[0] == ahead[0].iso, isos[-1] == ahead[-1].iso
    if first and last:
        return "at every ISO that was compared"
    if first:
        return f"up to ISO {isos[-1]:,.0f}"
    if last:
        return f"from ISO {isos[0]:,.0f} on"
    return (
        f"at ISO {isos[0]:,.0f}"
        if len(isos) == 1
        else f"from ISO {isos[0]:,.0f} to {isos[-1]:,.0f}"
    )
