"""Many patches and frames together: medians with intervals, and who wins how often and
how consistently.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import scipy.special

from glenhail.core.inquiries.paired import Comparison

LEVEL = 0.95


@dataclass(frozen=True)
class Middle:
    """Median of some values with an interval;

    ``level`` is its true confidence, 0 where there are too few for any.
    """

    value: float
    low: float
    high: float
    count: int
    level: float


def median(values: Sequence[float]) -> Middle:
    """Median with the narrowest symmetric interval of order statistics that holds it in
    95 of 100 cases, or else the whole range.

    The confidence of an interval from the k-th smallest to the k-th largest is
    binomial, whatever the values' distribution (Thompson 1936). Fewer than six values
    can not give 95 %: the range is told with the confidence that it has.

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
    return Middle(float(np.median(ordered)), float(ordered[k - 1]), float(ordered[n - k]), n, level)


@dataclass(frozen=True)
class Tally:
    """How one contender fared against another over many places.

    ``same`` is the largest share of places that gave one answer: "same in 20 of 22".
    """

    counts: dict[str, int]
    places: int
    same: int
    answer: str
    difference: Middle


def tally(found: Sequence[Comparison]) -> Tally:
    """Count the answers; measurable differences that can not be seen are told apart
    from none.

    The answer over all is the commonest one if it holds at more than half of the
    places, else "it depends".
    """
    counts = Counter(str(c.answer) for c in found)
    answer, same = counts.most_common(1)[0]
    return Tally(
        dict(counts),
        len(found),
        same,
        answer if 2 * same > len(found) else "it depends",
        median([c.difference for c in found]),
    )
