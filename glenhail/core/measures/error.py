"""Error against a truth: mean absolute, root mean square, PSNR."""

from __future__ import annotations

import math

import numpy as np

from glenhail.core.errors import NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.measures.places import of_mean
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.subject import CODES, Pair, Subject
from glenhail.core.picture import Doubles, Rect
from glenhail.core.statistics.intervals import block_mean

LEAST_SIDE = 4


def _checked(subject: Subject, rect: Rect) -> Pair:
    pair = subject.pair(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(
            f"the patch is too small, needs {LEAST_SIDE} × {LEAST_SIDE} px of the truth"
        )
    return pair


def mae(subject: Subject, rect: Rect) -> MeasuredValue:
    """Mean absolute error over all channels, 8-bit codes.

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
    pair = _checked(subject, rect)
    errors = pair.errors.absolute
    found = block_mean(errors)
    return MeasuredValue(
        found.value, max(0.0, found.low), found.high, pair.grid, parts=of_mean(errors)
    )


def rmse(subject: Subject, rect: Rect) -> MeasuredValue:
    """Root mean square error over all channels, 8-bit codes.

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
    pair = _checked(subject, rect)
    squares = pair.errors.squared
    found = block_mean(squares)
    low, value, high = (math.sqrt(max(0.0, v)) for v in (found.low, found.value, found.high))
    return MeasuredValue(value, low, high, pair.grid, parts=of_mean(squares, np.sqrt))


def psnr(subject: Subject, rect: Rect) -> MeasuredValue:
    """Peak signal to noise ratio, dB: 20 log10(255 / rmse).

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

    Raises
    ------
    NotMeasurable
        Where output and truth are the same: the ratio is infinite.
    """
    pair = _checked(subject, rect)
    squares = pair.errors.squared
    found = block_mean(squares)
    if found.value == 0:
        raise NotMeasurable("no error at all: the ratio is infinite")
    value, low, high = (_decibels(v, found) for v in (found.value, found.high, found.low))
    return MeasuredValue(value, low, high, pair.grid, parts=of_mean(squares, _all_decibels))


def _all_decibels(mean_squares: Doubles) -> Doubles:
    with np.errstate(divide="ignore"):
        return np.asarray(10 * np.log10(CODES**2 / mean_squares))


def _decibels(mean_square: float, found: Interval) -> float:
    # A wide interval of few blocks may reach below zero; a tenth of the estimate is the floor then.
    return 10 * math.log10(CODES**2 / max(mean_square, found.value / 10))
