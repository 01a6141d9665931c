"""Judges held against themselves: whom it is proposed to leave out, and why.

What is asked of a judge after ITU-R BT.500-15 and Kendall and Babington Smith (1940);
where each limit lies is common practice, no source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.interval import Interval
from glenhail.core.judging.agreement import consistence, share_of, triads_of
from glenhail.core.judging.calls import Call, Said
from glenhail.core.judging.drawing import Purpose, ShownPair

LEAST_REPEATS = 4
# Of repeats, even by the upper end of the interval: honest judges of near equals waver.
SAME = 0.5
LEAST_EQUAL, EQUAL_TOLD = 4, 0.75
LEAST_SIDES, ONE_SIDE = 12, 0.85
CONSISTENT = 0.4


@dataclass(frozen=True)
class Answered:
    """A pair as it was shown, and what was said."""

    shown: ShownPair
    said: Said
    first: Said | None = None
    """Of a repeat: what was said the first time."""

    @property
    def call(self) -> Call:
        """It as a call."""
        return Call(self.shown.left, self.shown.right, self.said, self.shown.spot)


@dataclass(frozen=True)
class Steadiness:
    """What a judge's own answers say of them; shares with intervals, where asked."""

    repeats: Interval | None
    equal: Interval | None
    obvious: Interval | None
    left: Interval | None
    consistence: float | None
    reasons: tuple[str, ...]

    @property
    def proposed_out(self) -> bool:
        """Whether leaving the judge out is proposed."""
        return bool(self.reasons)


def same_again(first: Said, again: Said) -> bool:
    """Whether an answer to a pair with sides changed chooses the same.

    Parameters
    ----------
    first, again : Said
        Answers.
    """
    turned = {Said.LEFT: Said.RIGHT, Said.RIGHT: Said.LEFT, Said.NEITHER: Said.NEITHER}
    return again == turned[first]


def steadiness(
    answers: Sequence[Answered], contenders: Sequence[str], better: str | None = None
) -> Steadiness:
    """One judge held against themself.

    Parameters
    ----------
    answers : sequence of Answered
        Of one judge.
    contenders : sequence of str
        Everyone.
    better : str, optional
        The one that everybody should choose of an obvious pair.
    """
    by = {p: [a for a in answers if a.shown.purpose == p] for p in Purpose}
    repeated = [same_again(a.first, a.said) for a in by[Purpose.REPEAT] if a.first is not None]
    equal = [a.said == Said.NEITHER for a in by[Purpose.EQUAL]]
    known = [a.call.chosen == better for a in by[Purpose.OBVIOUS]]
    sides = [a.said == Said.LEFT for a in answers if a.said != Said.NEITHER]
    triads = triads_of([a.call for a in by[Purpose.ASKED]], contenders)
    zetas = [consistence(t, len(contenders)) for t in triads] if len(contenders) > 2 else []
    zeta = sum(zetas) / len(zetas) if zetas else None
    told = {
        "repeats": _share(repeated),
        "equal": _share(equal),
        "obvious": _share(known),
        "left": _share(sides),
    }
    return Steadiness(
        **told, consistence=zeta, reasons=_reasons(repeated, equal, known, sides, zeta)
    )


def _share(found: Sequence[bool]) -> Interval | None:
    return share_of(sum(found), len(found))


def _reasons(
    repeated: list[bool],
    equal: list[bool],
    known: list[bool],
    sides: list[bool],
    zeta: float | None,
) -> tuple[str, ...]:
    made = []
    same = _share(repeated)
    if same is not None and len(repeated) >= LEAST_REPEATS and same.high < SAME:
        made.append(f"chose the same in {sum(repeated)} of {len(repeated)} repeats")
    seen = equal.count(False)
    if len(equal) >= LEAST_EQUAL and seen > EQUAL_TOLD * len(equal):
        made.append(f"saw a difference in {seen} of {len(equal)} pairs that were equal")
    if known and 2 * sum(known) < len(known) + (len(known) == 1):
        made.append(f"chose the better one in {sum(known)} of {len(known)} obvious pairs")
    one_side = max(sum(sides), len(sides) - sum(sides))
    if len(sides) >= LEAST_SIDES and one_side > ONE_SIDE * len(sides):
        side = "left" if 2 * sum(sides) > len(sides) else "right"
        made.append(f"chose the {side} one in {one_side} of {len(sides)} choices")
    if zeta is not None and zeta < CONSISTENT:
        made.append(f"chose in circles (consistence {zeta:.2f})")
    return tuple(made)
