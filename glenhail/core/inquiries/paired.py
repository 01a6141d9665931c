"""Two contenders on one patch: better, worse, or no difference that can be measured, or that can be seen."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

import scipy.special

from glenhail.core.inquiries.thresholds import Threshold
from glenhail.core.measures.intervals import TAIL

LEAST_PARTS = 4


class Answer(StrEnum):
    """What a comparison says of the first against the second; higher and lower where neither end is better by itself."""

    BETTER = "better"
    WORSE = "worse"
    HIGHER = "higher"
    LOWER = "lower"
    UNSEEN = "measurable, not visible"
    NONE = "no measurable difference"


@dataclass(frozen=True)
class Taken:
    """A reading as a comparison needs it: value, 95 % interval, pseudo-values by part of the patch."""

    value: float
    low: float
    high: float
    parts: Sequence[float] = ()


@dataclass(frozen=True)
class Comparison:
    """First less second, with its 95 % interval; ``paired`` where parts of the patch were compared one by one."""

    difference: float
    low: float
    high: float
    answer: Answer
    paired: bool

    def turned(self) -> Comparison:
        """The same with the second against the first."""
        return Comparison(-self.difference, -self.high, -self.low, TURNED.get(self.answer, self.answer), self.paired)


TURNED = {
    Answer.BETTER: Answer.WORSE, Answer.WORSE: Answer.BETTER, Answer.HIGHER: Answer.LOWER, Answer.LOWER: Answer.HIGHER,
}  # fmt: skip


def compare(one: Taken, other: Taken, better: str | None, threshold: Threshold) -> Comparison:
    """Compare two readings of one measure on one patch.

    Where both have values for the same parts of the patch, the differences of these are tested (paired t, jackknife pseudo-values:
    Tukey 1958), so that what both share cancels. Otherwise the two intervals are combined (MOVER: Zou and Donner, Statistics in
    Medicine 27, 2008), as if the readings were independent.
    """
    difference = one.value - other.value
    paired = len(one.parts) == len(other.parts) >= LEAST_PARTS
    if paired:
        low, high = _paired(difference, [a - b for a, b in zip(one.parts, other.parts, strict=True)])
    else:
        low = difference - math.hypot(one.value - one.low, other.high - other.value)
        high = difference + math.hypot(one.high - one.value, other.value - other.low)
    seen = abs(difference) >= threshold.between(one.value, other.value)
    return Comparison(difference, low, high, _answer(difference, low, high, better, seen), paired)


def _paired(difference: float, parts: list[float]) -> tuple[float, float]:
    n, middle = len(parts), math.fsum(parts) / len(parts)
    reach = _student(n) * math.sqrt(math.fsum((p - middle) ** 2 for p in parts) / (n - 1) / n)
    return difference - reach, difference + reach


@cache
def _student(n: int) -> float:
    return float(scipy.special.stdtrit(n - 1, 1 - TAIL))


def _answer(difference: float, low: float, high: float, better: str | None, seen: bool) -> Answer:
    if low <= 0 <= high or difference == 0:
        return Answer.NONE
    if not seen:
        return Answer.UNSEEN
    if better is None:
        return Answer.HIGHER if difference > 0 else Answer.LOWER
    return Answer.BETTER if (difference > 0) == (better == "higher") else Answer.WORSE
