"""Ranks with ties: contenders whose intervals overlap are not told apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Estimate:
    """A value with its interval."""

    value: float
    low: float
    high: float


@dataclass(frozen=True)
class Place:
    """A rank from 1, and whether another has it too."""

    rank: int
    tied: bool


def places(estimates: Sequence[Estimate | None], better: str) -> list[Place | None]:
    """Rank estimates; None stays without a place.

    A rank is one more than the number of estimates that are clearly better: whose whole interval
    lies on the better side.

    Parameters
    ----------
    better : str
        'higher' or 'lower'.
    """
    if better not in ("higher", "lower"):
        raise ValueError(f"better is 'higher' or 'lower', not {better!r}")
    ranks = [None if e is None else 1 + sum(_clearly(o, e, better) for o in estimates if o) for e in estimates]
    return [None if r is None else Place(r, ranks.count(r) > 1) for r in ranks]


def _clearly(one: Estimate, other: Estimate, better: str) -> bool:
    return one.low > other.high if better == "higher" else one.high < other.low
