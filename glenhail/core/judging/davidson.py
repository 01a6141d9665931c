"""How much each contender is preferred: Bradley and Terry's model with ties after
Davidson (1970), and with a liking for one side after Davidson and Beaver (1977).

Davidson, R. R. (1970): On extending the Bradley-Terry model to accommodate ties in
paired comparison experiments. J. Am. Stat. Assoc. 65, 317-328. With worths w, the left
one is chosen as w_l * lean, the right one as w_r, no difference is said as
tie * sqrt(w_l * w_r * lean), each over the sum of the three.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.judging.calls import Counts
from glenhail.core.picture import Doubles

PRIOR = 3.0  # standard deviation of log worths: who was always chosen stays finite
ROUNDS, NEAR = 60, 1e-9
LONGEST = 2.0  # step


@dataclass(frozen=True)
class Preferences:
    """What a model makes of answers.

    ``worths`` are logarithms and sum to 0; ``tie`` and ``lean`` are logarithms too.
    ``information`` is of all of them in this order, shape (k + 2, k + 2).
    """

    worths: Doubles
    tie: float
    lean: float
    information: Doubles

    @property
    def covariance(self) -> Doubles:
        """Of the worths, were every answer independent, shape (k, k)."""
        k = self.worths.size
        return centred(np.asarray(np.linalg.inv(self.information))[:k, :k])

    def shares(self, left: int, right: int) -> Doubles:
        """Chances that left, right and no difference are said, without a liking for a
        side.
        """
        w = self.worths
        return _softmax(np.array([w[left], w[right], self.tie + (w[left] + w[right]) / 2]))


def centred(covariance: Doubles) -> Doubles:
    """The covariance of values of which their mean is taken off.

    Parameters
    ----------
    covariance : ndarray, shape (k, k)
        Of the values.
    """
    k = len(covariance)
    off = np.eye(k) - 1 / k
    return np.asarray(off @ covariance @ off)


def fit(answers: Counts, count: int) -> Preferences:
    """The most likely worths, given a weak normal prior on each parameter.

    Parameters
    ----------
    answers : Counts
        Answers.
    count : int
        How many contenders there are.
    """
    at, information = _climbed(_design(answers, count), answers.counts[None], count)
    worths = at[0, :count] - at[0, :count].mean()
    return Preferences(worths, float(at[0, count]), float(at[0, count + 1]), information[0])


def refitted(answers: Counts, drawn: Doubles, start: Preferences) -> Doubles:
    """Worths of many other counts of the same pairs, shape (b, k).

    Parameters
    ----------
    answers : Counts
        Which pairs the counts are of.
    drawn : ndarray, shape (b, n, 3)
        Counts, as the answers have them.
    start : Preferences
        Fitted to about such counts: where to begin.
    """
    count = start.worths.size
    first = np.concatenate([start.worths, [start.tie, start.lean]])
    at, _ = _climbed(_design(answers, count), drawn, count, first)
    return np.asarray(at[:, :count] - at[:, :count].mean(axis=1, keepdims=True))


def _climbed(
    design: Doubles, counts: Doubles, count: int, start: Doubles | None = None
) -> tuple[Doubles, Doubles]:
    """Parameters, shape (b, k + 2), and information, by Newton's steps.

    The logarithm of the likelihood is concave, so they find its top.
    """
    at = np.tile(np.zeros(count + 2) if start is None else start, (len(counts), 1))
    information = np.empty(0)
    for _ in range(ROUNDS):
        slope, information = _derivatives(design, counts, at)
        step = np.linalg.solve(information, slope[..., None])[..., 0]
        # A first step from far away may be too long for the quadratic to hold.
        length = np.abs(step).max(axis=1, keepdims=True)
        at = at + step * np.minimum(1.0, LONGEST / np.maximum(length, NEAR))
        if length.max() < NEAR:
            break
    return at, information


def scores(answers: Counts, found: Preferences) -> Doubles:
    """Each group's slope of the log-likelihood at what was found, shape
    (groups, k + 2): what a covariance over groups is made of.

    Parameters
    ----------
    answers : Counts
        Answers.
    found : Preferences
        Fitted to them.
    """
    at = np.concatenate([found.worths, [found.tie, found.lean]])
    design = _design(answers, found.worths.size)
    chances = _softmax(design @ at)
    rest = answers.groups - answers.groups.sum(axis=2, keepdims=True) * chances
    return np.asarray(np.einsum("grc,rcp->gp", rest, design))


def _design(answers: Counts, count: int) -> Doubles:
    """What each answer of each row takes from each parameter, shape (n, 3, k + 2)."""
    rows = np.arange(answers.left.size)
    design = np.zeros((answers.left.size, 3, count + 2))
    design[rows, 0, answers.left] = 1
    design[rows, 1, answers.right] = 1
    design[rows, 2, answers.left] = design[rows, 2, answers.right] = 0.5
    design[:, 2, count] = 1
    design[:, 0, count + 1], design[:, 2, count + 1] = 1, 0.5
    return design


def _softmax(values: Doubles) -> Doubles:
    powers = np.exp(values - values.max(axis=-1, keepdims=True))
    return np.asarray(powers / powers.sum(axis=-1, keepdims=True))


def _derivatives(design: Doubles, counts: Doubles, at: Doubles) -> tuple[Doubles, Doubles]:
    """Slope, shape (b, k + 2), and its slope's opposite."""
    total = counts.sum(axis=2)
    chances = _softmax(np.einsum("rcp,bp->brc", design, at))
    slope = np.einsum("brc,rcp->bp", counts - total[..., None] * chances, design) - at * PRIOR**-2
    rows, answers, many = design.shape
    flat = design.reshape(rows * answers, many)
    weight = (total[..., None] * chances).reshape(len(at), -1, 1)
    means = np.einsum("brc,rcp->brp", chances, design)
    curved = flat.T @ (weight * flat) - np.swapaxes(means, 1, 2) @ (total[..., None] * means)
    return slope, curved + np.eye(many) * PRIOR**-2
