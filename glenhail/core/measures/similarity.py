"""Structural similarity (Wang, Bovik, Sheikh and Simoncelli 2004)."""

from __future__ import annotations

import numba
import numpy as np

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
_C1, _C2 = np.float32(C1), np.float32(C2)
# Taking a common level off keeps single precision exact enough and changes no variance.
LEVEL = np.float32(128)
_GAUSS = np.exp(-0.5 * (np.arange(-RADIUS, RADIUS + 1) / SIGMA) ** 2)
WINDOW = (_GAUSS / _GAUSS.sum()).astype(np.float32)


@numba.njit(cache=True, nogil=True, fastmath=True)
def _down(one: Floats, two: Floats, weights: Floats, row: int, sums: Floats) -> None:
    """The window's columns over one row of the result: five weighted sums for every column."""
    sums[:] = 0
    for k in range(weights.size):
        w = weights[k]
        for j in range(one.shape[1]):
            x, y = one[row + k, j] - LEVEL, two[row + k, j] - LEVEL
            sums[0, j] += w * x
            sums[1, j] += w * y
            sums[2, j] += w * x * x
            sums[3, j] += w * y * y
            sums[4, j] += w * x * y


@numba.njit(cache=True, nogil=True, fastmath=True)
def _similarity(one: Floats, two: Floats, weights: Floats, out: Floats) -> None:
    width = out.shape[1]
    sums = np.empty((5, one.shape[1]), dtype=np.float32)
    means = np.empty((5, width), dtype=np.float32)
    for row in range(out.shape[0]):
        _down(one, two, weights, row, sums)
        means[:] = 0
        for m in range(5):
            for k in range(weights.size):
                w = weights[k]
                for j in range(width):
                    means[m, j] += w * sums[m, j + k]
        for j in range(width):
            mx, my = means[0, j], means[1, j]
            vx, vy, cov = means[2, j] - mx * mx, means[3, j] - my * my, means[4, j] - mx * my
            mx, my = mx + LEVEL, my + LEVEL
            top = (np.float32(2) * mx * my + _C1) * (np.float32(2) * cov + _C2)
            out[row, j] = top / ((mx * mx + my * my + _C1) * (vx + vy + _C2))


def ssim_map(one: Floats, two: Floats) -> Floats:
    """Local similarity of two luma planes in 8-bit codes, shape (h - 10, w - 10).

    11 x 11 Gaussian window, population covariance, the border of 5 px left out.
    """
    height, width = one.shape
    out = np.empty((height - 2 * RADIUS, width - 2 * RADIUS), dtype=np.float32)

    def strip(start: int, end: int) -> None:
        rows = slice(start, end + 2 * RADIUS)
        _similarity(one[rows], two[rows], WINDOW, out[start:end])

    in_strips(out.shape[0], strip)
    return out


def ssim(subject: Subject, rect: Rect) -> Measured:
    """Mean structural similarity of luma against the truth, 0..1."""
    pair = subject.pair(rect)
    least = 2 * RADIUS + 2
    if min(pair.rect.w, pair.rect.h) < least:
        raise NotMeasurable(f"the patch is too small, needs {least} x {least} frame px")
    one, two = (np.ascontiguousarray(p @ LUMA, dtype=np.float32) for p in (pair.output, pair.truth))
    found = block_mean(ssim_map(one, two))
    return Measured(found.value, found.low, min(1.0, found.high), pair.grid)
