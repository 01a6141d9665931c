"""Pairs chosen by what is least known, while a judge answers.

Each next pair is the one whose answer is expected to shrink the covariance of the
worths most (sequential D-optimum design: Wynn, H. P. (1970), Ann. Math. Stat. 41,
1655-1664; from memory). Asking about the pair whose order is least certain instead was
tried: it asks of two equals for ever, and its intervals held the truth in 76 % only.
The spots, checks and repeats of a plan stay as they were drawn.
"""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from itertools import combinations

import numpy as np

from glenhail.core.judging.calls import Call, counted
from glenhail.core.judging.davidson import Preferences, fit
from glenhail.core.judging.drawing import MOST_RUNNING, Purpose
from glenhail.core.judging.setup import ShownPlace
from glenhail.core.picture import Doubles


def chosen_anew(
    places: Sequence[ShownPlace],
    start: int,
    calls: Sequence[Call],
    letters: Sequence[str],
    seed: int,
) -> list[ShownPlace]:
    """A judge's plan, its pairs from a place on chosen by what all answers so far leave
    unknown; a repeat follows what it repeats.

    Parameters
    ----------
    places : sequence of ShownPlace
        The judge's plan.
    start : int
        The first place that may change.
    calls : sequence of Call
        What all judges said so far, checks and repeats left out.
    letters : sequence of str
        Contenders, at least two.
    seed : int
        Decides between sides, and between pairs that are as little known.
    """
    rng = random.Random(seed)  # noqa: S311
    made = list(places)
    changed: set[int] = set()
    free = [i for i in range(start, len(made)) if made[i].purpose == Purpose.ASKED]
    for at, pair in zip(free, least_known(calls, letters, len(free), rng), strict=True):
        made[at] = replace(made[at], letters=_sided(made, at, pair, rng))
        changed.add(at)
    for i in range(start, len(made)):
        if made[i].purpose == Purpose.REPEAT and made[i].of in changed:
            made[i] = replace(made[i], letters=made[made[i].of or 0].letters[::-1])
    return made


def least_known(
    calls: Sequence[Call], letters: Sequence[str], count: int, rng: random.Random
) -> list[tuple[str, str]]:
    """The next pairs to ask, each as if those before it had been answered as expected.

    Parameters
    ----------
    calls : sequence of Call
        What was said so far.
    letters : sequence of str
        Contenders, at least two.
    count : int
        How many pairs are wanted.
    rng : random.Random
        Decides between pairs that are as little known.
    """
    found = fit(counted([list(calls)], list(letters)), len(letters))
    information = found.information.copy()
    pairs = list(combinations(range(len(letters)), 2))
    rng.shuffle(pairs)
    news = {pair: _news(found, *pair) for pair in pairs}
    chosen = []
    for _ in range(count):
        covariance = np.linalg.inv(information)
        # det(M + N) / det(M) = det(1 + covariance N): the larger, the more is learnt.
        gains = {p: float(np.linalg.det(np.eye(len(n)) + covariance @ n)) for p, n in news.items()}
        best = max(pairs, key=lambda p: gains[p])
        information = information + news[best]
        chosen.append((letters[best[0]], letters[best[1]]))
    return chosen


def _news(found: Preferences, left: int, right: int) -> Doubles:
    """What one answer to a pair tells of worths and tie, as it is expected by what was
    found, shape (k + 2, k + 2).
    """
    k = found.worths.size
    design = np.zeros((3, k + 2))
    design[0, left] = design[1, right] = 1
    design[2, left] = design[2, right] = 0.5
    design[2, k] = 1
    chances = found.shares(left, right)
    mean = chances @ design
    return np.asarray((design * chances[:, None]).T @ design - np.outer(mean, mean))


def _sided(
    made: Sequence[ShownPlace], at: int, pair: tuple[str, str], rng: random.Random
) -> tuple[str, str]:
    """Which of the two stands on the left: who did so less often, unless the same one
    would then stand there too often running.
    """
    left = Counter(place.letters[0] for place in made[:at])
    right = Counter(place.letters[-1] for place in made[:at])
    more = (left[pair[0]] - right[pair[0]]) - (left[pair[1]] - right[pair[1]])
    turned = more > 0 or (more == 0 and rng.random() < 0.5)
    sides = (pair[1], pair[0]) if turned else pair
    before = made[max(0, at - MOST_RUNNING) : at]
    running = len(before) == MOST_RUNNING and (
        all(place.letters[0] == sides[0] for place in before)
        or all(place.letters[-1] == sides[1] for place in before)
    )
    return (sides[1], sides[0]) if running else sides
