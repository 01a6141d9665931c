"""Colour error against a truth: CIEDE2000."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from glenhail.core.colour.roots import kernel
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.places import of_mean
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Floats, Rect
from glenhail.core.statistics.cells import gathered
from glenhail.core.statistics.intervals import block_mean
from glenhail.core.statistics.ordered import ordered, quantile

LEAST_SIDE = 4


def de00_mean(subject: Subject, rect: Rect) -> MeasuredValue:
    """Mean CIEDE2000 against the truth; its 95th percentile among the details.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    pair = subject.pair(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(
            f"the patch is too small, needs {LEAST_SIDE} × {LEAST_SIDE} px of the truth"
        )
    differences = pair.differences
    found = block_mean(differences)
    return MeasuredValue(
        found.value, max(0.0, found.low), found.high, pair.grid, parts=of_mean(differences)
    )


def de00_p95(subject: Subject, rect: Rect) -> MeasuredValue:
    """95th percentile of CIEDE2000 against the truth: how far the worst places are off.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    pair = subject.pair(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(
            f"the patch is too small, needs {LEAST_SIDE} × {LEAST_SIDE} px of the truth"
        )
    differences = pair.differences
    at = _quantiles_of(differences)
    value = at(95.0)
    # The interval of the share that lies above (it varies from block to block), carried over to the
    # quantile (Woodruff 1952).
    share = block_mean(
        gathered(
            differences.shape, 1, lambda a, b, out: np.greater(differences[a:b], value, out=out[0])
        )[0]
    )
    levels = np.clip([1 - share.high, 1 - share.low], 0, 1)
    low, high = (at(100 * float(v)) for v in levels)
    return MeasuredValue(value, min(low, value), max(high, value), pair.grid)


# Of a whole frame quantiles are read off a histogram this fine, instead of ordering millions of
# values.
STEP, MANY = 1 / 4096, 1_000_000


@kernel
def _histogram(values: Floats, counts: np.ndarray) -> None:
    for i in range(values.shape[0]):
        for j in range(values.shape[1]):
            counts[min(int(values[i, j] / STEP), counts.size - 1)] += 1


def _quantiles_of(differences: Floats) -> Callable[[float], float]:
    """Quantiles of a map, by per cent; of a large one to half a step of the histogram."""
    if differences.size < MANY:
        in_order = ordered(differences)
        return lambda per_cent: quantile(in_order, per_cent / 100)
    counts = np.zeros(int(128 / STEP), dtype=np.int64)
    _histogram(differences, counts)
    below = np.cumsum(counts)
    return lambda per_cent: float(
        (np.searchsorted(below, per_cent / 100 * (differences.size - 1), side="right") + 0.5) * STEP
    )
