"""Structural similarity (Wang, Bovik, Sheikh and Simoncelli 2004)."""

from __future__ import annotations

import numpy as np
import scipy.ndimage

from glenhail.core.colour.srgb import LUMA
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.intervals import block_mean
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.picture import Floats, Rect
from glenhail.core.strips import in_strips

# As the paper writes them.
K1, K2, SIGMA, RADIUS = 0.01, 0.03, 1.5, 5
C1, C2 = (K1 * CODES) ** 2, (K2 * CODES) ** 2


def ssim_map(one: Floats, two: Floats) -> Floats:
    """Local similarity of two luma planes in 8-bit codes, shape (h - 10, w - 10).

    11 x 11 Gaussian window, population covariance, the border of 5 px left out.
    """
    height, width = one.shape
    out = np.empty((height - 2 * RADIUS, width - 2 * RADIUS), dtype=np.float32)

    def strip(start: int, end: int) -> None:
        rows = slice(start, end + 2 * RADIUS)
        out[start:end] = _similarity(one[rows], two[rows])

    in_strips(out.shape[0], strip)
    return out


def _similarity(one: Floats, two: Floats) -> Floats:
    # Taking a common level off keeps single precision exact enough and changes no variance.
    level = np.float32(128)
    x, y = one - level, two - level
    mx, my = _mean(x), _mean(y)
    vx = _mean(x * x) - mx * mx
    vy = _mean(y * y) - my * my
    cov = _mean(x * y) - mx * my
    mx, my = mx + level, my + level
    bottom = (mx * mx + my * my + C1) * (vx + vy + C2)
    return np.asarray((2 * mx * my + C1) * (2 * cov + C2) / bottom, dtype=np.float32)


def _mean(plane: Floats) -> Floats:
    smooth = scipy.ndimage.gaussian_filter(plane, SIGMA, truncate=RADIUS / SIGMA, mode="nearest")
    return np.asarray(smooth[RADIUS:-RADIUS, RADIUS:-RADIUS])


def ssim(subject: Subject, rect: Rect) -> Measured:
    """Mean structural similarity of luma against the truth, 0..1."""
    pair = subject.pair(rect)
    least = 2 * RADIUS + 2
    if min(pair.rect.w, pair.rect.h) < least:
        raise NotMeasurable(f"the patch is too small, needs {least} x {least} frame px")
    one, two = (np.asarray(p @ LUMA, dtype=np.float32) for p in (pair.output, pair.truth))
    found = block_mean(ssim_map(one, two))
    return Measured(found.value, found.low, min(1.0, found.high), pair.grid)
