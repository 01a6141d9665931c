"""Quantiles of a map by sorting it whole: numpy sorts single precision eight at a time,
faster than it finds one quantile.
"""

from __future__ import annotations

import numpy as np

NORMAL = 1.4826  # deviations of a Gaussian to one median absolute deviation


def ordered(values: np.ndarray) -> np.ndarray:
    """All values from the least to the largest, flat.

    Parameters
    ----------
    values : ndarray
        Values, any shape, not empty.
    """
    return np.sort(values, axis=None)


def quantile(in_order: np.ndarray, share: float) -> float:
    """The value below which a share of 0 to 1 of the ordered values lies, interpolated
    linearly.

    Parameters
    ----------
    in_order : ndarray, shape (n,)
        Values from the least to the largest.
    share : float
        Which share lies below, 0..1.
    """
    place = share * (in_order.size - 1)
    first = min(int(place), max(0, in_order.size - 2))
    low, high = float(in_order[first]), float(in_order[min(first + 1, in_order.size - 1)])
    return low + (place - first) * (high - low)


def median(values: np.ndarray) -> float:
    """The middle value, or the mean of the two.

    Parameters
    ----------
    values : ndarray
        Values, any shape, not empty.
    """
    return quantile(ordered(values), 0.5)


def robust_deviation(values: np.ndarray) -> float:
    """Standard deviation by the median distance from the median: what lies far out has
    no part in it.

    Parameters
    ----------
    values : ndarray
        Values, any shape, not empty.
    """
    return NORMAL * median(np.abs(values - values.dtype.type(median(values))))
