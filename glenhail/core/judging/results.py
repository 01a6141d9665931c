"""What a sitting's answers carry: worths with intervals, who can be told from whom, and
a winner only where there is one.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import combinations

import numpy as np
import scipy.special

from glenhail.core.interval import Interval
from glenhail.core.judging.calls import Call, Counts, counted
from glenhail.core.judging.davidson import Preferences, centred, fit, refitted, scores
from glenhail.core.picture import Doubles

LEVEL = 0.95
ENOUGH_JUDGES = 6  # to speak for judges like them
ENOUGH_SCENES = 6
DRAWS = 400
# Of the model's own error, below which an interval never falls: answers that all say one thing
# differ over nobody. With more of it the truth lies within in over 97 % of simulated sittings.
FLOOR = 0.85
NORMAL = 1.959963984540054
ENDLESS = 1e6  # degrees of freedom: Student's distribution is the normal one


class SpokenFor(StrEnum):
    """Over what the intervals are taken, and so for whom they speak."""

    JUDGES = "judges"
    SCENES = "scenes"
    ANSWERS = "answers"


@dataclass(frozen=True)
class Standing:
    """One contender: the logarithm of its worth, and the chance to be chosen over the
    others where a difference is seen, each with its interval.
    """

    contender: str
    worth: Interval
    chance: Interval


@dataclass(frozen=True)
class Duel:
    """Two contenders, the better one first: the chance that it is chosen where a
    difference is seen, and that none is seen.
    """

    better: str
    worse: str
    chance: Interval
    no_difference: float
    told_apart: bool


@dataclass(frozen=True)
class Results:
    """What answers carry, the best contender first.

    ``groups`` holds those that can not be told apart; ``lean`` is the chance that the
    left one of two equals is chosen, where one is.
    """

    standings: tuple[Standing, ...]
    duels: tuple[Duel, ...]
    groups: tuple[tuple[str, ...], ...]
    winner: str | None
    spread: SpokenFor
    judges: int
    scenes: int
    answers: int
    no_difference: float
    lean: Interval


def results_of(judges: Mapping[str, Sequence[Call]], contenders: Sequence[str]) -> Results | None:
    """Results over all answers.

    With six judges or more the intervals come from drawing judges again and speak for
    judges like them; with fewer they come from how answers differ over scenes and speak
    for these judges on scenes like these; with fewer than six scenes as well, from the
    model alone, as if every answer were independent.

    Parameters
    ----------
    judges : mapping
        Each judge's calls; pairs of one contender with itself are passed over.
    contenders : sequence of str
        Everyone who stands; calls with others are passed over.

    Returns
    -------
    Results or None
        None where nothing was answered.
    """
    known = {
        judge: [c for c in calls if len(c.pair) == 2 and c.pair <= set(contenders)]
        for judge, calls in judges.items()
    }
    known = {judge: calls for judge, calls in known.items() if calls}
    if not known:
        return None
    by_scene: dict[str, list[Call]] = defaultdict(list)
    for calls in known.values():
        for call in calls:
            by_scene[call.spot].append(call)
    spread = _spread(len(known), len(by_scene))
    groups = list(known.values() if spread == SpokenFor.JUDGES else by_scene.values())
    answers = counted(groups, contenders)
    found = fit(answers, len(contenders))
    free = ENDLESS if spread == SpokenFor.ANSWERS else len(groups) - 1
    judged = _Judged(contenders, found, _covariance(answers, found, spread), free)
    # Equals stay in their own order, whatever the last digits.
    order = np.argsort(-found.worths.round(9), kind="stable")
    duels = judged.duels(order)
    given = int(answers.counts.sum())
    return Results(
        standings=tuple(judged.standing(i) for i in order),
        duels=duels,
        groups=_groups([contenders[i] for i in order], duels),
        winner=_winner(contenders[order[0]], duels),
        spread=spread,
        judges=len(known),
        scenes=len(by_scene),
        answers=given,
        no_difference=float(answers.counts[:, 2].sum()) / given,
        lean=judged.lean(),
    )


def _spread(judges: int, scenes: int) -> SpokenFor:
    if judges >= ENOUGH_JUDGES:
        return SpokenFor.JUDGES
    return SpokenFor.SCENES if scenes >= ENOUGH_SCENES else SpokenFor.ANSWERS


def _covariance(answers: Counts, found: Preferences, spread: SpokenFor) -> Doubles | None:
    """Of the worths, over groups of answers; none where only the model's own is had."""
    k, many = found.worths.size, len(answers.groups)
    if spread == SpokenFor.ANSWERS:
        return None
    if spread == SpokenFor.SCENES:
        slopes = scores(answers, found)
        bread = np.linalg.inv(found.information)
        return centred((bread @ slopes.T @ slopes @ bread)[:k, :k]) * (many / (many - 1))
    rng = np.random.default_rng(many)
    drawn = rng.multinomial(many, np.full(many, 1 / many), size=DRAWS).astype(np.float64)
    counts = np.einsum("bg,grc->brc", drawn, answers.groups)
    return np.atleast_2d(np.cov(refitted(answers, counts, found).T)) * (many / (many - 1))


@dataclass(frozen=True)
class _Judged:
    contenders: Sequence[str]
    found: Preferences
    spread: Doubles | None
    free: float

    @property
    def student(self) -> float:
        return float(scipy.special.stdtrit(self.free, 1 - (1 - LEVEL) / 2))

    def error(self, contrast: Doubles) -> float:
        """Standard error of a contrast of worths."""
        own = float(np.sqrt(contrast @ self.found.covariance @ contrast))
        if self.spread is None:
            return own
        over = float(np.sqrt(contrast @ self.spread @ contrast))
        return max(FLOOR * own * NORMAL / self.student, over)

    def interval(self, value: float, error: float) -> Interval:
        reach = self.student * error
        return Interval(value, value - reach, value + reach)

    def standing(self, i: int) -> Standing:
        w = self.found.worths
        k = w.size
        own = np.eye(k)[i]
        worth = self.interval(float(w[i]), self.error(own))
        others = [j for j in range(k) if j != i]
        shares = _logistic(w[i] - w[others])
        # Its slope in the worths gives the chance's own error; on the logistic scale, so that it
        # stays a chance.
        mean = float(shares.mean())
        slope = np.zeros(k)
        slope[others] = -shares * (1 - shares) / len(others)
        slope[i] = -slope.sum()
        logit = float(np.log(mean / (1 - mean)))
        told = self.interval(logit, self.error(slope) / (mean * (1 - mean)))
        return Standing(self.contenders[i], worth, _as_chance(told))

    def duels(self, order: np.ndarray) -> tuple[Duel, ...]:
        w = self.found.worths
        pairs = list(combinations(order, 2))
        errors = [self.error(np.eye(w.size)[i] - np.eye(w.size)[j]) for i, j in pairs]
        apart = [float(w[i] - w[j]) for i, j in pairs]
        t = np.array(apart) / np.array(errors)
        chances = [float(c) for c in 2 * scipy.special.stdtr(self.free, -t)]
        told = _holm(chances)
        return tuple(
            Duel(
                self.contenders[i],
                self.contenders[j],
                _as_chance(self.interval(a, e)),
                float(self.found.shares(int(i), int(j))[2]),
                t,
            )
            for (i, j), a, e, t in zip(pairs, apart, errors, told, strict=True)
        )

    def lean(self) -> Interval:
        error = float(np.sqrt(np.linalg.inv(self.found.information)[-1, -1]))
        return _as_chance(self.interval(self.found.lean, error))


def _logistic(value: Doubles) -> Doubles:
    return np.asarray(scipy.special.expit(value))


def _as_chance(told: Interval) -> Interval:
    low, value, high = (float(scipy.special.expit(v)) for v in (told.low, told.value, told.high))
    return Interval(value, low, high)


def _holm(chances: Sequence[float]) -> list[bool]:
    """Which of many are told apart, all of them together wrong in 5 % at most:
    Holm (1979), Scand. J. Stat. 6, 65-70.
    """
    told = [False] * len(chances)
    for passed, i in enumerate(np.argsort(chances, kind="stable")):
        if chances[i] > (1 - LEVEL) / (len(chances) - passed):
            break
        told[i] = True
    return told


def _winner(best: str, duels: Sequence[Duel]) -> str | None:
    own = [duel for duel in duels if best in (duel.better, duel.worse)]
    return best if own and all(duel.told_apart for duel in own) else None


def _groups(order: Sequence[str], duels: Sequence[Duel]) -> tuple[tuple[str, ...], ...]:
    """Runs of the order within which no two are told apart, none within another."""
    apart = {(d.better, d.worse) for d in duels if d.told_apart}
    runs: list[tuple[str, ...]] = []
    for i in range(len(order)):
        end = i + 1
        while end < len(order) and not any((a, order[end]) in apart for a in order[i:end]):
            end += 1
        run = tuple(order[i:end])
        if not runs or not set(run) <= set(runs[-1]):
            runs.append(run)
    return tuple(runs)
