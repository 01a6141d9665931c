"""Structural similarity (Wang, Bovik, Sheikh and Simoncelli 2004)."""

from __future__ import annotations

import math

import numba
import numpy as np

from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.intervals import block_mean, jackknife
from glenhail.core.measures.places import of_mean, pseudo, sums
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.picture import Floats, Rect
from glenhail.core.strips import in_strips

# As the paper writes them.
K1, K2, SIGMA, RADIUS = 0.01, 0.03, 1.5, 5
C1, C2 = (K1 * CODES) ** 2, (K2 * CODES) ** 2
_C1, _C2 = np.float32(C1), np.float32(C2)
# Wang et al. 2003, section 3.2: finest scale first.
SCALES = (0.0448, 0.2856, 0.3001, 0.2363, 0.1333)
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
def _similarity(one: Floats, two: Floats, weights: Floats, out: Floats, contrast: Floats) -> None:
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
            structure = (np.float32(2) * cov + _C2) / (vx + vy + _C2)
            contrast[row, j] = structure
            out[row, j] = structure * (np.float32(2) * mx * my + _C1) / (mx * mx + my * my + _C1)


def ssim_map(one: Floats, two: Floats) -> Floats:
    """Local similarity of two luma planes in 8-bit codes, shape (h - 10, w - 10).

    11 x 11 Gaussian window, population covariance, the border of 5 px left out.
    """
    return ssim_maps(one, two)[0]


def ssim_maps(one: Floats, two: Floats) -> tuple[Floats, Floats]:
    """The same, and beside it the part for contrast and structure alone (the paper's c times s)."""
    height, width = one.shape
    out = np.empty((height - 2 * RADIUS, width - 2 * RADIUS), dtype=np.float32)
    contrast = np.empty_like(out)

    def strip(start: int, end: int) -> None:
        rows = slice(start, end + 2 * RADIUS)
        _similarity(one[rows], two[rows], WINDOW, out[start:end], contrast[start:end])

    in_strips(out.shape[0], strip)
    return out, contrast


def _maps(subject: Subject, rect: Rect) -> tuple[Floats, Floats]:
    return subject.once("similarity", rect, lambda: ssim_maps(*subject.pair(rect).lumas))


def ssim(subject: Subject, rect: Rect) -> Measured:
    """Mean structural similarity of luma against the truth, 0..1."""
    pair = subject.pair(rect)
    least = 2 * RADIUS + 2
    if min(pair.rect.w, pair.rect.h) < least:
        raise NotMeasurable(f"the patch is too small, needs {least} x {least} frame px")
    likeness = _maps(subject, rect)[0]
    found = block_mean(likeness)
    return Measured(found.value, found.low, min(1.0, found.high), pair.grid, parts=of_mean(likeness))


def ms_ssim(subject: Subject, rect: Rect) -> Measured:
    """Similarity of luma over five scales against the truth, 0..1.

    Contrast and structure at each scale, luminance at the coarsest, averages of 2 x 2 pixels between scales.

    References
    ----------
    Wang, Simoncelli and Bovik, Asilomar Conference 2003, eq. 7 and section 3.2.
    """
    pair = subject.pair(rect)
    least = (2 * RADIUS + 1) * 2 ** (len(SCALES) - 1)
    if min(pair.rect.w, pair.rect.h) < least:
        raise NotMeasurable(f"the patch is too small for five scales, needs {least} x {least} frame px")
    planes, maps = pair.lumas, _maps(subject, rect)
    means, parts = [], []
    for scale in range(len(SCALES)):
        if scale:
            planes = (_halved(planes[0]), _halved(planes[1]))
            maps = ssim_maps(*planes)
        kept = maps[0] if scale == len(SCALES) - 1 else maps[1]
        means.append(max(0.0, float(kept.mean(dtype=np.float64))))
        total, count = sums(kept)
        parts.append(np.maximum(0, (total.sum() - total) / (count.sum() - count)))
    value = math.prod(m**w for m, w in zip(means, SCALES, strict=True))
    left_out = np.prod([p**w for p, w in zip(parts, SCALES, strict=True)], axis=0)
    found = jackknife(value, left_out)
    return Measured(value, found.low, min(1.0, found.high), pair.grid, {"by_scale": means}, pseudo(value, left_out))


def _halved(plane: Floats) -> Floats:
    height, width = (side // 2 * 2 for side in plane.shape)
    p = plane[:height, :width]
    return np.asarray((p[::2, ::2] + p[1::2, ::2] + p[::2, 1::2] + p[1::2, 1::2]) * np.float32(0.25))
