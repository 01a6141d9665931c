"""Which pairs a sitting shows, drawn by a seeded plan.

Sides are balanced at random, at most three in a row have the same contender's side; one
of ten pairs comes a second time with its sides changed, one of twenty is a contender
beside itself, and an obvious pair tells who does not look. After what ITU-R BT.500-15
asks of a session: a random order, with repeats to hold judges against themselves.
"""

from __future__ import annotations

import math
import random
from collections import Counter
from dataclasses import dataclass
from enum import StrEnum
from itertools import combinations, pairwise

REPEATS, EQUALS = 0.10, 0.05
MOST_RUNNING = 3
APART = 4  # pairs between a pair and its repeat
TRIES = 400


class Purpose(StrEnum):
    """Why a pair is shown."""

    ASKED = "asked"
    REPEAT = "repeat"
    EQUAL = "equal"
    OBVIOUS = "obvious"


@dataclass(frozen=True)
class ShownPair:
    """One pair of a plan. ``of`` is the place of the pair that a repeat repeats."""

    left: str
    right: str
    spot: str
    purpose: Purpose = Purpose.ASKED
    of: int | None = None

    def turned(self) -> ShownPair:
        """With its sides changed."""
        return ShownPair(self.right, self.left, self.spot, self.purpose, self.of)


@dataclass(frozen=True)
class Shares:
    """How many pairs of each purpose a plan of a length has."""

    asked: int
    repeats: int
    equal: int
    obvious: int


def shares_of(count: int, obvious: bool) -> Shares:
    """How a plan's pairs divide.

    Parameters
    ----------
    count : int
        Pairs shown in all, at least 1.
    obvious : bool
        Whether there is a pair that everybody can tell.
    """
    repeats, equal = round(REPEATS * count), round(EQUALS * count)
    known = 1 + count // 40 if obvious and count >= 10 else 0
    return Shares(count - repeats - equal - known, repeats, equal, known)


def drawn_pairs(
    contenders: list[str],
    spots: list[str],
    count: int,
    seed: int,
    obvious: tuple[str, str] | None = None,
) -> list[ShownPair]:
    """A plan of pairs in the order in which they are shown.

    Every pair of contenders comes as often as any other, within one; so does every
    spot.

    Parameters
    ----------
    contenders : list of str
        At least two.
    spots : list of str
        At least one.
    count : int
        Pairs in all, checks and repeats included, at least 1.
    seed : int
        The same seed draws the same plan.
    obvious : tuple of str, optional
        The better and the worse of a pair that everybody can tell; they need not be
        contenders.
    """
    rng = random.Random(seed)  # noqa: S311
    parts = shares_of(count, obvious is not None)
    asked = _asked(contenders, spots, parts.asked, rng)
    checks = [_equal(contenders, spots, i, rng) for i in range(parts.equal)]
    if obvious is not None:
        checks += [
            ShownPair(*obvious, rng.choice(spots), Purpose.OBVIOUS) for _ in range(parts.obvious)
        ]
    best: list[ShownPair] = []
    for _ in range(TRIES):
        order = _mended(_balanced(rng.sample([*asked, *checks], len(asked) + len(checks)), rng))
        made = _with_repeats(order, parts.repeats, rng)
        if not best or longest_run(made) < longest_run(best):
            best = made
        if longest_run(best) <= MOST_RUNNING:
            break
    return best


def _asked(
    contenders: list[str], spots: list[str], count: int, rng: random.Random
) -> list[ShownPair]:
    """Every pair at every spot in turn, so that no part of a plan lacks one of them."""
    pairs = list(combinations(contenders, 2))
    rng.shuffle(pairs)
    places = list(spots)
    rng.shuffle(places)
    # Pairs and spots go round together; once both begin anew, spots go one further, so that all
    # combinations come, and each spot as often as any other within one.
    turn = math.lcm(len(pairs), len(places))
    return [
        ShownPair(*pairs[i % len(pairs)], places[(i + i // turn) % len(places)])
        for i in range(count)
    ]


def _equal(contenders: list[str], spots: list[str], i: int, rng: random.Random) -> ShownPair:
    one = contenders[(i + rng.randrange(len(contenders))) % len(contenders)]
    return ShownPair(one, one, rng.choice(spots), Purpose.EQUAL)


def _balanced(pairs: list[ShownPair], rng: random.Random) -> list[ShownPair]:
    """Each contender as often on the left as on the right, within what its count lets."""
    left: Counter[str] = Counter()
    turned = []
    for pair in pairs:
        more = left[pair.left] - left[pair.right]
        if more > 0 or (more == 0 and rng.random() < 0.5):
            turned.append(pair.turned())
        else:
            turned.append(pair)
        left[turned[-1].left] += 1
        left[turned[-1].right] -= 1
    return turned


def _mended(order: list[ShownPair]) -> list[ShownPair]:
    """A pair that would be a fourth is changed for a later one."""
    order = list(order)
    for i in range(MOST_RUNNING, len(order)):
        if longest_run(order[i - MOST_RUNNING : i + 1]) <= MOST_RUNNING:
            continue
        for j in range(i + 1, len(order)):
            tried = [*order[i - MOST_RUNNING : i], order[j]]
            if longest_run(tried) <= MOST_RUNNING:
                order[i], order[j] = order[j], order[i]
                break
    return order


def longest_run(order: list[ShownPair]) -> int:
    """How often running one contender stands on the same side at most.

    Parameters
    ----------
    order : list of ShownPair
        As they are shown.
    """
    most = 0
    for side in ("left", "right"):
        running = 1
        for before, after in pairwise(getattr(p, side) for p in order):
            running = running + 1 if before == after else 1
            most = max(most, running)
    return max(most, min(1, len(order)))


def _with_repeats(order: list[ShownPair], count: int, rng: random.Random) -> list[ShownPair]:
    """Some pairs once more, a while after the first time, their sides changed."""
    asked = [i for i, p in enumerate(order) if p.purpose == Purpose.ASKED]
    early = [i for i in asked if i + APART < len(order)]
    enough = early if len(early) >= count else asked
    chosen = sorted(rng.sample(enough, min(count, len(enough))))
    if not chosen:
        return order
    # Where a repeat comes, counted in pairs that are no repeats; the last may end the sitting.
    after: dict[int, list[int]] = {}
    for i in chosen:
        latest = len(order) - 1
        after.setdefault(rng.randint(min(i + APART, latest), latest), []).append(i)
    made: list[ShownPair] = []
    places: dict[int, int] = {}
    for i, pair in enumerate(order):
        places[i] = len(made)
        made.append(pair)
        for first in after.get(i, []):
            of = order[first]
            made.append(ShownPair(of.right, of.left, of.spot, Purpose.REPEAT, places[first]))
    return made
