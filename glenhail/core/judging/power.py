"""What so many answers can tell: the exact binomial test of one half, two-sided."""

from __future__ import annotations

from functools import cache

import numpy as np
from scipy.special import bdtr, bdtrik

from glenhail.core.picture import Doubles

TAIL = 0.025
POWER = 0.8
MOST = 5000  # answers; nobody asks for more
SECONDS = 6.0  # common practice, no source: what an answer takes
SHARES = np.arange(0.99, 0.5, -0.01)


@cache
def _critical() -> tuple[Doubles, Doubles]:
    """So many answers, and up to how few of one kind reject one half."""
    answers = np.arange(1.0, MOST + 1)
    most = np.floor(bdtrik(TAIL, answers, 0.5))
    # The inverse may be off by one where the chance is met almost exactly.
    most += bdtr(most + 1, answers, 0.5) <= TAIL
    most -= (most >= 0) & (bdtr(np.maximum(most, 0), answers, 0.5) > TAIL)
    return answers, most


def powers(share: float) -> Doubles:
    """Chance that 1, 2, 3 ... decisive answers tell a share from its opposite.

    Parameters
    ----------
    share : float
        Chance that the better one is chosen, above 0.5 and below 1.
    """
    answers, most = _critical()
    k = np.maximum(most, 0)
    either = bdtr(k, answers, share) + bdtr(k, answers, 1 - share)
    return np.where(most < 0, 0.0, either)


def needed(share: float) -> int:
    """The fewest decisive answers that tell a share from its opposite with 8 of 10
    chance; 5000 stands for as many and more.

    Parameters
    ----------
    share : float
        Chance that the better one is chosen, above 0.5 and below 1.
    """
    enough = np.flatnonzero(powers(share) >= POWER)
    return int(enough[0]) + 1 if enough.size else MOST


def told_apart(answers: int) -> float | None:
    """The smallest share that so many decisive answers tell from its opposite with 8 of
    10 chance, in whole per cent; none if not even 99 %.

    Parameters
    ----------
    answers : int
        Decisive ones.
    """
    if answers < 1:
        return None
    most = _critical()[1][min(answers, MOST) - 1]
    if most < 0:
        return None
    either = bdtr(most, min(answers, MOST), SHARES) + bdtr(most, min(answers, MOST), 1 - SHARES)
    told = SHARES[either >= POWER]
    return round(float(told[-1]), 2) if told.size else None
