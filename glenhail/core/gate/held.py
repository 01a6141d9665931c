"""A build's outputs held against the last release's, rule by rule."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from glenhail.core.assess import readings_of
from glenhail.core.errors import NotMeasurable
from glenhail.core.gate.rules import Bound
from glenhail.core.level.costs import AtOneLevel, compared
from glenhail.core.level.way import LevelPair, Way
from glenhail.core.level.ways import brought
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.words import digits

WHOLE = "whole frame"
Values = Mapping[str, float | None]
Told = dict[str, dict[str, float | None]]  # by measure, then by place


class Outcome(StrEnum):
    """How a rule fared at a place."""

    HELD = "held"
    BROKEN = "broken"
    UNTOLD = "not told"


@dataclass(frozen=True)
class BoundHeld:
    """One rule at one place of one frame: what the build and the last release have, and
    the limit; ``why`` in words where it is not held.
    """

    rule: Bound
    frame: str
    place: str
    outcome: Outcome
    value: float | None = None
    last: float | None = None
    limit: float | None = None
    why: str = ""


def held(rules: Sequence[Bound], frame: str, pair: LevelPair) -> list[BoundHeld]:
    """Every rule at every place that tells its measure; both unable to tell it is no
    result, one alone is.

    Parameters
    ----------
    rules : sequence of Bound
        What may not become worse.
    frame : str
        What the frame is called.
    pair : LevelPair
        The build's output first, then the last release's.
    """
    plain = [rule for rule in rules if not rule.equal_noise]
    found = []
    if plain:
        new, last = (_values(pair, output, plain) for output in (pair.one, pair.other))
        for rule in plain:
            found += _of(rule, frame, new.get(rule.measure, {}), last.get(rule.measure, {}))
    level = [rule for rule in rules if rule.equal_noise]
    if level:
        try:
            new, last = _at_equal_noise(pair)
        except NotMeasurable as why:
            return [
                *found,
                *(BoundHeld(r, frame, WHOLE, Outcome.UNTOLD, why=f"{why}") for r in level),
            ]
        for rule in level:
            found += _of(rule, frame, new.get(rule.measure, {}), last.get(rule.measure, {}))
    return found


def _values(pair: LevelPair, output: AlignedPicture, rules: Sequence[Bound]) -> Told:
    measures = list(dict.fromkeys(rule.measure for rule in rules))
    taken = readings_of(pair.source, output, pair.truth, pair.patches, measures)
    values: Told = {}
    for r in taken:
        values.setdefault(r.measure, {})[r.patch or WHOLE] = r.value
    return values


def _at_equal_noise(pair: LevelPair) -> tuple[Told, Told]:
    """Both once the noisier is as clean as the other."""
    ahead = brought(Way.NOISE, pair)
    if ahead.sought.method:
        return _by_measure(ahead.readings, "made"), _by_measure(ahead.readings, "other")
    back = brought(Way.NOISE, replace(pair, one=pair.other, other=pair.one))
    if back.sought.method:
        return _by_measure(back.readings, "other"), _by_measure(back.readings, "made")
    as_they_are = pair.one, pair.one, pair.other
    rows = compared(pair.source, pair.truth, pair.patches, as_they_are)
    return _by_measure(rows, "made"), _by_measure(rows, "other")


def _by_measure(rows: Sequence[AtOneLevel], which: str) -> Told:
    values: Told = {}
    for row in rows:
        values.setdefault(row.measure, {})[row.patch] = getattr(row, which)
    return values


def _of(rule: Bound, frame: str, new: Values, last: Values) -> list[BoundHeld]:
    """A rule at each place that one of both tells."""
    return [
        _at(rule, frame, place, new.get(place), last.get(place))
        for place in dict.fromkeys((*new, *last))
        if rule.patch in ("", place) and not (new.get(place) is None and last.get(place) is None)
    ]


def _at(rule: Bound, frame: str, place: str, value: float | None, last: float | None) -> BoundHeld:
    limit = rule.limit(last)
    found = BoundHeld(rule, frame, place, Outcome.UNTOLD, value, last, limit)
    if value is None:
        return replace(found, why="the new one can not be measured there, the last one can")
    if limit is None:
        return replace(found, why="the last one can not be measured there")
    if rule.holds(value, limit):
        return replace(found, outcome=Outcome.HELD)
    word = "at least" if rule.at_least else "at most"
    why = f"{digits(value, 3)}, {word} {digits(limit, 3)} is wanted"
    if rule.of_last and last is not None:
        why += f" (the last one has {digits(last, 3)})"
    return replace(found, outcome=Outcome.BROKEN, why=why)


def untold(rules: Sequence[Bound], found: Sequence[BoundHeld]) -> list[BoundHeld]:
    """Rules that no frame told anything of: they hold nothing, which is no pass.

    Parameters
    ----------
    rules : sequence of Bound
        All there are.
    found : sequence of BoundHeld
        Of all frames.
    """
    told = {held.rule for held in found}
    why = "no frame has a place that tells it; draw a patch of a fitting role"
    return [
        BoundHeld(r, "all frames", WHOLE, Outcome.UNTOLD, why=why) for r in rules if r not in told
    ]
