"""What the audit finds, and the rules that find it."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum


class Weight(StrEnum):
    """What a difference does to a comparison."""

    SPOILS = "spoils"  # what is compared is not the same thing any more
    COLOURS = "colours"  # some numbers or looks come out better or worse for it
    HARMLESS = "harmless"  # taken account of, or part of what is compared


class Remedy(StrEnum):
    """What can be done about it besides accepting it with a reason."""

    POINTS = "place points by hand"
    EXPOSURE = "match exposure"
    TONE = "match exposure and tone"
    SIZE = "bring to a common size"
    AGAIN = "make it again"


@dataclass(frozen=True)
class Rule:
    """One thing that should be equal, with the tolerance up to which it is taken for
    equal, and where that comes from.

    ``evidence`` names what shows it: 'line-up', 'tone', 'colour', 'edge', 'noise',
    'facts', 'treatment'.
    """

    id: str
    title: str
    tolerance: str
    source: str
    weight: Weight
    evidence: str
    remedies: tuple[Remedy, ...] = ()


@dataclass(frozen=True)
class FindingPlace:
    """A frame on which something was found: how much, in the rule's own measure, and in
    words. ``frame`` is None for all of them.
    """

    frame: int | None
    amount: float
    words: str


@dataclass(frozen=True)
class Finding:
    """A rule that is not kept by a contender, on one frame or more; of several weights
    the heaviest counts.
    """

    rule: Rule
    contender: int
    weight: Weight
    places: tuple[FindingPlace, ...] = field(default=())

    @property
    def key(self) -> str:
        """What it is known by while its amounts change."""
        return f"{self.rule.id}:{self.contender}"

    @property
    def worst(self) -> FindingPlace:
        """The place with the largest amount."""
        return max(self.places, key=lambda p: abs(p.amount))


@dataclass(frozen=True)
class RuleBreach:
    """What one rule says of one output."""

    rule: Rule
    amount: float
    words: str
    weight: Weight


COMMON = "common practice, no source"
