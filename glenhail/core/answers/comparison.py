"""Two contenders on one patch: better, worse, or no difference that can be measured, or
that can be seen.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

import scipy.special

from glenhail.core.measures.best import Best, distance, side
from glenhail.core.measures.thresholds import Threshold
from glenhail.core.statistics.intervals import TAIL

LEAST_PARTS = 4
NORMAL_REACH = 1.959964  # standard errors that a 95 % interval reaches


class Answer(StrEnum):
    """What a comparison says of the first against the second; higher and lower where
    neither end is better by itself.
    """

    BETTER = "better"
    WORSE = "worse"
    HIGHER = "higher"
    LOWER = "lower"
    OPPOSITE = "as far off on the other side"
    UNSEEN = "measurable, not visible"
    NONE = "no measurable difference"


@dataclass(frozen=True)
class TakenReading:
    """A reading as a comparison needs it: value, 95 % interval, pseudo-values by part
    of the patch.
    """

    value: float
    low: float
    high: float
    parts: Sequence[float] = ()


@dataclass(frozen=True)
class Comparison:
    """First less second, with its 95 % interval;

    ``paired`` where parts of the patch were compared one by one.
    """

    difference: float
    low: float
    high: float
    answer: Answer
    paired: bool

    def turned(self) -> Comparison:
        """The same with the second against the first."""
        return Comparison(
            -self.difference,
            -self.high,
            -self.low,
            TURNED.get(self.answer, self.answer),
            self.paired,
        )


TURNED = {
    Answer.BETTER: Answer.WORSE,
    Answer.WORSE: Answer.BETTER,
    Answer.HIGHER: Answer.LOWER,
    Answer.LOWER: Answer.HIGHER,
}


@dataclass(frozen=True)
class TestedDifference:
    """A difference with its standard error and the degrees of freedom of that (infinite
    where intervals were combined).
    """

    value: float
    down: float
    up: float
    degrees: float

    @property
    def interval(self) -> tuple[float, float]:
        """95 %."""
        reach = _student(self.degrees)
        return self.value - reach * self.down, self.value + reach * self.up

    @property
    def chance(self) -> float:
        """Two-sided probability of so large a difference where there is none."""
        error = self.down if self.value > 0 else self.up
        if error == 0:
            return 1.0 if self.value == 0 else 0.0
        beyond = abs(self.value) / error
        if math.isinf(self.degrees):
            return math.erfc(beyond / math.sqrt(2))
        return 2 * float(scipy.special.stdtr(self.degrees, -beyond))


def difference(
    one: TakenReading, other: TakenReading, signs: tuple[int, int] = (1, 1)
) -> tuple[TestedDifference, bool]:
    """First less second, each times a sign, and whether their parts were compared one
    by one.

    Where both have values for the same parts of the patch, the differences of these are
    tested (paired t, jackknife pseudo-values: Tukey 1958), so that what both share
    cancels. Otherwise the two intervals are combined (MOVER: Zou and Donner, Statistics
    in Medicine 27, 2008), as if the readings were independent.

    Parameters
    ----------
    one : TakenReading
        The first contender's reading.
    other : TakenReading
        The second one's.
    signs : tuple of int
        What each reading is times, 1 or -1.
    """
    s, t = signs
    value = s * one.value - t * other.value
    n = len(one.parts)
    if n == len(other.parts) and n >= LEAST_PARTS:
        parts = [s * a - t * b for a, b in zip(one.parts, other.parts, strict=True)]
        middle = math.fsum(parts) / n
        error = math.sqrt(math.fsum((p - middle) ** 2 for p in parts) / (n - 1) / n)
        return TestedDifference(value, error, error, n - 1), True
    (below, above), (under, over) = (_reach(one, s), _reach(other, -t))
    down, up = math.hypot(below, under) / NORMAL_REACH, math.hypot(above, over) / NORMAL_REACH
    return TestedDifference(value, down, up, math.inf), False


def _reach(taken: TakenReading, sign: int) -> tuple[float, float]:
    """How far an interval goes down and up, once the value is given a sign."""
    down, up = taken.value - taken.low, taken.high - taken.value
    return (down, up) if sign > 0 else (up, down)


def from_best(one: TakenReading, other: TakenReading, best: Best) -> TestedDifference:
    """How much farther from a measure's best the first is than the second; below zero
    where it is nearer.

    Parameters
    ----------
    one : TakenReading
        The first contender's reading.
    other : TakenReading
        The second one's.
    best : Best
        Where the measure's best lies.
    """
    found, _ = difference(one, other, (side(one.value, best), side(other.value, best)))
    return TestedDifference(
        distance(one.value, best) - distance(other.value, best), found.down, found.up, found.degrees
    )


def compare(
    one: TakenReading, other: TakenReading, best: Best | None, threshold: Threshold
) -> Comparison:
    """Compare two readings of one measure on one patch: both ways off a target count
    against it.

    Parameters
    ----------
    one : TakenReading
        The first contender's reading.
    other : TakenReading
        The second one's.
    best : Best or None
        Where the measure's best lies; None where it has none.
    threshold : Threshold
        From where on a difference can be seen.
    """
    found, paired = difference(one, other)
    low, high = found.interval
    seen = abs(found.value) >= threshold.between(one.value, other.value)
    return Comparison(found.value, low, high, _answer(one, other, found, best, seen), paired)


def _answer(
    one: TakenReading, other: TakenReading, found: TestedDifference, best: Best | None, seen: bool
) -> Answer:
    low, high = found.interval
    if low <= 0 <= high or found.value == 0:
        return Answer.NONE
    if not seen:
        return Answer.UNSEEN
    if best is None:
        return Answer.HIGHER if found.value > 0 else Answer.LOWER
    farther = from_best(one, other, best)
    nearest, farthest = farther.interval
    if nearest <= 0 <= farthest:
        return Answer.OPPOSITE
    return Answer.BETTER if farther.value < 0 else Answer.WORSE


@cache
def _student(degrees: float) -> float:
    return NORMAL_REACH if math.isinf(degrees) else float(scipy.special.stdtrit(degrees, 1 - TAIL))
