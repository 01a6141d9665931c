"""What people chose, beside what was measured."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.interval import Interval
from glenhail.core.judging.agreement import share_of
from glenhail.core.judging.calls import Call, Said

DRAWS = 1000
LEAST_SCENES = 3
LEAST_CHOICES, CLEAR = 3, 2 / 3
TAILS = (0.025, 0.975)

#: Readings of one measure by spot and contender, a higher number being better.
Goodness = Mapping[tuple[str, str], float]


@dataclass(frozen=True)
class Agreement:
    """How far a measure's order is that of people's choices.

    Goodman and Kruskal's gamma (1954), J. Am. Stat. Assoc. 49, 732-764: 1 always, 0 as
    by chance, -1 never.
    """

    gamma: float
    interval: Interval | None
    choices: int


@dataclass(frozen=True)
class Parting:
    """A spot at which people chose one and a measure says the other."""

    spot: str
    chosen: str
    measured: str
    share: Interval
    apart: float


@dataclass(frozen=True)
class Visibility:
    """Shares of no difference where a measure's difference is below what is held to be
    seen, and where it is not.
    """

    below: Interval | None
    above: Interval | None


def agreement_with(calls: Iterable[Call], goodness: Goodness, seed: int = 1) -> Agreement | None:
    """Gamma over all choices between two contenders that have readings at the spot.

    Parameters
    ----------
    calls : iterable of Call
        Those without a choice, and where both readings are equal, are passed over.
    goodness : mapping
        Readings, a higher number being better.
    seed : int
        Of the draws over scenes that give the interval.

    Returns
    -------
    Agreement or None
        None where there is no such choice; its interval is None with fewer than three
        scenes.
    """
    by_scene: dict[str, list[int]] = defaultdict(list)
    for call in calls:
        ahead = _ahead(call, goodness)
        if call.chosen is not None and ahead:
            by_scene[call.spot].append(1 if (ahead > 0) == (call.chosen == call.left) else -1)
    if not by_scene:
        return None
    sums = np.array([sum(v) for v in by_scene.values()], dtype=np.float64)
    counts = np.array([len(v) for v in by_scene.values()], dtype=np.float64)
    gamma, choices = float(sums.sum() / counts.sum()), int(counts.sum())
    if sums.size < LEAST_SCENES:
        return Agreement(gamma, None, choices)
    drawn = np.random.default_rng(seed).integers(0, sums.size, (DRAWS, sums.size))
    low, high = np.quantile(sums[drawn].sum(axis=1) / counts[drawn].sum(axis=1), TAILS)
    return Agreement(gamma, Interval(gamma, float(low), float(high)), choices)


def partings(calls: Iterable[Call], goodness: Goodness, least: float = 0.0) -> list[Parting]:
    """Where eyes and a measure part: at least three choices, two of three of them for
    the one that the measure puts second; the clearest first.

    Parameters
    ----------
    calls : iterable of Call
        Of all judges.
    goodness : mapping
        Readings, a higher number being better.
    least : float
        By how much readings must differ to count, in their unit.
    """
    chosen: dict[tuple[str, frozenset[str]], list[str]] = defaultdict(list)
    for call in calls:
        if call.chosen is not None and len(call.pair) == 2:
            chosen[call.spot, call.pair].append(call.chosen)
    found = [_parting(spot, sorted(pair), who, goodness) for (spot, pair), who in chosen.items()]
    told = [p for p in found if p is not None and p.apart > least]
    return sorted(told, key=lambda p: (-p.share.low, p.spot, p.chosen))


def _parting(
    spot: str, pair: Sequence[str], chosen: Sequence[str], goodness: Goodness
) -> Parting | None:
    if len(chosen) < LEAST_CHOICES or any((spot, c) not in goodness for c in pair):
        return None
    measured, other = sorted(pair, key=lambda c: -goodness[spot, c])
    share = share_of(chosen.count(other), len(chosen))
    apart = goodness[spot, measured] - goodness[spot, other]
    if share is None or share.value < CLEAR or apart <= 0:
        return None
    return Parting(spot, other, measured, share, apart)


def visibility(calls: Iterable[Call], goodness: Goodness, threshold: float) -> Visibility:
    """Whether what is held to be invisible was not seen.

    Parameters
    ----------
    calls : iterable of Call
        Of all judges.
    goodness : mapping
        Readings.
    threshold : float
        The smallest difference that is held to be seen, in the readings' unit.
    """
    said: dict[bool, list[bool]] = {True: [], False: []}
    for call in calls:
        ahead = _ahead(call, goodness)
        if ahead is not None:
            said[abs(ahead) < threshold].append(call.said == Said.NEITHER)
    below, above = (share_of(sum(said[side]), len(said[side])) for side in (True, False))
    return Visibility(below, above)


def _ahead(call: Call, goodness: Goodness) -> float | None:
    """By how much the left one is better; none where a reading lacks or both are one."""
    left, right = ((call.spot, c) for c in (call.left, call.right))
    if call.left == call.right or left not in goodness or right not in goodness:
        return None
    return goodness[left] - goodness[right]
