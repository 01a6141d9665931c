"""What the rules for one output are given, and the shapes of check that they share."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

from glenhail.core.audit.examine import USUAL, Examination
from glenhail.core.audit.finding import COMMON, Remedy, Rule, RuleBreach, Weight
from glenhail.core.interval import Interval
from glenhail.core.lineup.border import Border
from glenhail.core.picture import Mapping

SPOILS, COLOURS, HARMLESS = Weight.SPOILS, Weight.COLOURS, Weight.HARMLESS


@dataclass(frozen=True)
class AuditedOutput:
    """All that the rules for one output may ask for.

    ``refused`` and ``doubts`` are of its line-up; ``asked`` is the enlargement its
    treatment tells, None where it tells none; ``keeps_size`` that none of its steps is
    of a kind that changes sizes; ``works`` the kinds of work that its tools are for:
    'denoise', 'sharpen', 'enlarge'; ``another_shot`` says that it was not made from the
    frame but is another body's shot of the scene.
    """

    width: int
    height: int
    mapping: Mapping = field(default_factory=Mapping)
    border: Border = field(default_factory=Border)
    residual: float = 0.0
    refused: str = ""
    doubts: tuple[str, ...] = ()
    examination: Examination = field(default_factory=Examination)
    asked: float | None = None
    works: frozenset[str] = frozenset()
    another_shot: bool = False
    keeps_size: bool = False


Checked = Callable[[Rule, AuditedOutput], "RuleBreach | None"]


@dataclass(frozen=True)
class OutputRule:
    """A rule with what checks it."""

    rule: Rule
    of: Checked

    def check(self, seen: AuditedOutput) -> RuleBreach | None:
        """What it says of one output; None where it is kept."""
        return self.of(self.rule, seen)


def rule_of(
    id: str, title: str, tolerance: str, weight: Weight, evidence: str, *remedies: Remedy
) -> Rule:
    """A rule whose tolerance is a fact of the trade.

    Parameters
    ----------
    id : str
        By which it is known everywhere.
    title : str
        What is wrong where it is not kept.
    tolerance : str
        Its tolerance in words.
    weight : Weight
        What breaking it does to a comparison.
    evidence : str
        What shows it, as in `Rule`.
    *remedies : Remedy
        What can be done about it.
    """
    return Rule(id, title, tolerance, COMMON, weight, evidence, remedies)


def table(rows: Iterable[tuple[Rule, Checked]]) -> tuple[OutputRule, ...]:
    """Rules with their checks.

    Parameters
    ----------
    rows : iterable of (Rule, Checked)
        Each rule with what checks it.
    """
    return tuple(OutputRule(rule, check) for rule, check in rows)


def beyond(
    e: Interval | None, tolerance: float, at: float = 0.0, usual: Interval | None = None
) -> bool:
    """Whether a value lies further than the tolerance from where it may, and its
    interval does not reach back over half of that.

    It may lie anywhere between `at` and `usual`, which is what taking noise off does by
    itself.

    Parameters
    ----------
    e : Interval or None
        The value with its interval; None where there is none.
    tolerance : float
        How far off is taken for equal, in the value's unit.
    at : float
        Where the value lies when nothing was done.
    usual : Interval, optional
        What averaging noise off does by itself.
    """
    return (
        e is not None
        and abs(off(e, at, usual)) > tolerance
        and _nearest(e, at, usual) > tolerance / 2
    )


def off(e: Interval, at: float = 0.0, usual: Interval | None = None) -> float:
    """How far outside of what is allowed a value lies, signed.

    Parameters
    ----------
    e : Interval
        The value with its interval.
    at : float
        Where the value lies when nothing was done.
    usual : Interval, optional
        What averaging noise off does by itself.
    """
    low, high = _allowed(at, usual)
    return e.value - high if e.value > high else min(0.0, e.value - low)


def _nearest(e: Interval, at: float, usual: Interval | None) -> float:
    low, high = _allowed(at, usual)
    return max(0.0, e.low - high, low - e.high)


def _allowed(at: float, usual: Interval | None) -> tuple[float, float]:
    return (min(at, usual.value), max(at, usual.value)) if usual is not None else (at, at)


def outward(value: float, digits: int, tolerance: float) -> float:
    """Rounded, but away from zero where it would read as if it lay within its
    tolerance.

    Parameters
    ----------
    value : float
        The value, in its measure's unit.
    digits : int
        Decimals it is told with.
    tolerance : float
        How far off is taken for equal, in the value's unit.
    """
    shown = round(value, digits)
    if abs(shown) > tolerance:
        return shown
    step = 10.0**-digits
    return math.copysign(math.ceil(abs(value) / step - 1e-9) * step, value)


@dataclass(frozen=True)
class Wording:
    """How a value beyond its tolerance is told: a text with one ``{}`` for its size,
    another where it lies below, and with how many decimals.
    """

    more: str
    less: str = ""
    digits: int = 2

    def of(self, size: float, tolerance: float, at: float = 0.0) -> str:
        """A size, signed, from `at`; never as if it lay within the tolerance."""
        shown = at + outward(abs(size), self.digits, tolerance)
        words = self.more if size > 0 else self.less
        return words.format(f"{shown:.{self.digits}f}")


def value_check(
    name: str, tolerance: float, words: Wording, at: float = 0.0, spoils: float | None = None
) -> Checked:
    """A check of one examined value: further than `tolerance` from `at`.

    Parameters
    ----------
    name : str
        By which it is known.
    tolerance : float
        How far off is taken for equal, in the value's unit.
    words : Wording
        How it is told.
    at : float
        Where the value lies when nothing was done.
    spoils : float, optional
        From which amount on the comparison is void.
    """

    def check(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
        e, usual = (s.examination.values.get(n) for n in (name, name + USUAL))
        if e is None or not beyond(e, tolerance, at, usual):
            return None
        amount = off(e, at, usual)
        heavy = spoils is not None and abs(amount) > spoils
        return RuleBreach(
            rule,
            abs(amount),
            words.of(e.value - at, tolerance),
            SPOILS if heavy else rule.weight,
        )

    return check


def excess_check(name: str, tolerance: float, words: Wording, at: float = 0.0) -> Checked:
    """A check of what can be too much only.

    Parameters
    ----------
    name : str
        By which it is known.
    tolerance : float
        How far off is taken for equal, in the value's unit.
    words : Wording
        How it is told.
    at : float
        Where the value lies when nothing was done.
    """

    def check(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
        e = s.examination.values.get(name)
        if not beyond(e, tolerance, at) or e is None or e.value < at:
            return None
        return RuleBreach(
            rule,
            e.value - at,
            words.of(e.value - at, tolerance, at),
            rule.weight,
        )

    return check
