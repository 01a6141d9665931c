"""Colour error against a truth: CIEDE2000."""

from __future__ import annotations

import numpy as np

from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.intervals import block_mean
from glenhail.core.measures.places import of_mean
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Rect

LEAST_SIDE = 4


def de00_mean(subject: Subject, rect: Rect) -> Measured:
    """Mean CIEDE2000 against the truth; its 95th percentile among the details."""
    pair = subject.pair(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} x {LEAST_SIDE} frame px")
    differences = pair.differences
    found = block_mean(differences)
    return Measured(found.value, max(0.0, found.low), found.high, pair.grid, parts=of_mean(differences))


def de00_p95(subject: Subject, rect: Rect) -> Measured:
    """95th percentile of CIEDE2000 against the truth: how far the worst places are off."""
    pair = subject.pair(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} x {LEAST_SIDE} frame px")
    differences = pair.differences
    value = float(np.percentile(differences, 95))
    # The interval of the share that lies above (it varies from block to block), carried over to the quantile (Woodruff 1952).
    share = block_mean((differences > value).astype(np.float32))
    levels = np.clip([1 - share.high, 1 - share.low], 0, 1)
    low, high = np.percentile(differences, 100 * levels)
    return Measured(value, float(min(low, value)), float(max(high, value)), pair.grid)
