"""Medians of many patches or frames with intervals, whatever the values' distribution."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import scipy.special

LEVEL = 0.95


@dataclass(frozen=True)
class Median:
    """Median of some values with an interval;

    ``level`` is its true confidence, 0 where there are too few for any.
    """

    value: float
    low: float
    high: float
    count: int
    level: float


def median(values: Sequence[float]) -> Median:
    """Median with the narrowest symmetric interval of order statistics that holds it in
    95 of 100 cases, or else the whole range.

    The confidence of an interval from the k-th smallest to the k-th largest is
    binomial, whatever the values' distribution (Thompson 1936). Fewer than six values
    can not give 95 %: the range is told with the confidence that it has.

    Parameters
    ----------
    values : sequence of float
        Values, at least one.

    Raises
    ------
    ValueError
        If there are no values.
    """
    ordered = np.sort(np.asarray(values, dtype=np.float64))
    if ordered.size == 0:
        raise ValueError("a median of nothing")
    n = ordered.size
    # Chance that fewer than k of n values lie below the median, for each k, twice for both ends.
    levels = [1 - 2 * float(scipy.special.bdtr(k - 1, n, 0.5)) for k in range(1, n // 2 + 1)]
    fitting = [k for k, level in enumerate(levels, 1) if level >= LEVEL]
    k = fitting[-1] if fitting else 1
    level = levels[k - 1] if levels else 0.0
    return Median(float(np.median(ordered)), float(ordered[k - 1]), float(ordered[n - k]), n, level)
