"""Structural similarity (Wang, Bovik, Sheikh and Simoncelli 2004)."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from glenhail.core.colour.roots import inlined, kernel
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.places import of_mean, pseudo
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.parallel import in_strips
from glenhail.core.picture import Floats, Rect
from glenhail.core.statistics.cells import ACROSS, Cells, gathered
from glenhail.core.statistics.intervals import block_mean, jackknife

# As the paper writes them.
K1, K2, SIGMA, RADIUS = 0.01, 0.03, 1.5, 5
C1, C2 = (K1 * CODES) ** 2, (K2 * CODES) ** 2
_C1, _C2 = float(C1), float(C2)
# Wang et al. 2003, section 3.2: finest scale first.
SCALES = (0.0448, 0.2856, 0.3001, 0.2363, 0.1333)
# Taking a common level off keeps single precision exact enough and changes no variance.
LEVEL = 128.0
_GAUSS = np.exp(-0.5 * (np.arange(-RADIUS, RADIUS + 1) / SIGMA) ** 2)
WINDOW = _GAUSS / _GAUSS.sum()


# The window is symmetric: its middle, and each weight that stands on both sides of it.
_W0, _W1, _W2, _W3, _W4, _W5 = (float(w) for w in WINDOW[RADIUS:])
_TWO, _QUARTER = 2.0, np.float32(0.25)
ROWS = 256  # rows that are done at a time: ten more have to be filtered for each such strip
# columns that are done at a time, so that what a window needs stays in the processor's cache
TILE = 256


@inlined
def _window(v: Floats, j: int) -> Any:
    """The window's sum along a row."""
    return (
        _W0 * v[j + 5]
        + _W1 * (v[j + 4] + v[j + 6])
        + _W2 * (v[j + 3] + v[j + 7])
        + _W3 * (v[j + 2] + v[j + 8])
        + _W4 * (v[j + 1] + v[j + 9])
        + _W5 * (v[j] + v[j + 10])
    )


@kernel
def _across(one: Floats, two: Floats, products: Floats, out: Floats) -> None:
    """Five sums along one row: of both, of their squares, and of their product; from
    them, the sum and difference of squares.
    """
    x, y, squares, product = products[0], products[1], products[2], products[3]
    for j in range(x.size):
        a, b = one[j] - LEVEL, two[j] - LEVEL
        x[j], y[j], squares[j], product[j] = a, b, a * a + b * b, a * b
    for j in range(out.shape[1]):
        out[0, j] = _window(x, j)
    for j in range(out.shape[1]):
        out[1, j] = _window(y, j)
    for j in range(out.shape[1]):
        out[2, j] = _window(squares, j)
    for j in range(out.shape[1]):
        out[3, j] = _window(product, j)


@kernel
def _down(ring: Floats, row: int, sums: Floats) -> None:
    """The same down the columns, over eleven rows kept in a ring of which `row` is the
    oldest.
    """
    n = 2 * RADIUS + 1
    r0, r1, r2, r3, r4, r5 = (
        row % n,
        (row + 1) % n,
        (row + 2) % n,
        (row + 3) % n,
        (row + 4) % n,
        (row + 5) % n,
    )
    r6, r7, r8, r9, r10 = (row + 6) % n, (row + 7) % n, (row + 8) % n, (row + 9) % n, (row + 10) % n
    a0, a1, a2, a3, a4, a5 = ring[r0], ring[r1], ring[r2], ring[r3], ring[r4], ring[r5]
    a6, a7, a8, a9, a10 = ring[r6], ring[r7], ring[r8], ring[r9], ring[r10]
    for m in range(4):
        for j in range(sums.shape[1]):
            sums[m, j] = (
                _W0 * a5[m, j]
                + _W1 * (a4[m, j] + a6[m, j])
                + _W2 * (a3[m, j] + a7[m, j])
                + _W3 * (a2[m, j] + a8[m, j])
                + _W4 * (a1[m, j] + a9[m, j])
                + _W5 * (a0[m, j] + a10[m, j])
            )


@kernel
def _told(sums: Floats, out: Floats, contrast: Floats) -> None:
    for j in range(out.size):
        mx, my = sums[0, j], sums[1, j]
        variances, covariance = sums[2, j] - mx * mx - my * my, sums[3, j] - mx * my
        mx, my = mx + LEVEL, my + LEVEL
        structure = (_TWO * covariance + _C2) / (variances + _C2)
        contrast[j] = structure
        out[j] = structure * (_TWO * mx * my + _C1) / (mx * mx + my * my + _C1)


@kernel
def _similarity(one: Floats, two: Floats, out: Floats, contrast: Floats) -> None:
    rows = 2 * RADIUS + 1
    for left in range(0, out.shape[1], TILE):
        width = min(TILE, out.shape[1] - left)
        ring = np.empty((rows, 4, width), dtype=np.float64)
        products = np.empty((4, width + 2 * RADIUS), dtype=np.float64)
        sums = np.empty((4, width), dtype=np.float64)
        for row in range(one.shape[0]):
            _across(
                one[row, left : left + width + 2 * RADIUS],
                two[row, left : left + width + 2 * RADIUS],
                products,
                ring[row % rows],
            )
            done = row - 2 * RADIUS
            if done >= 0:
                _down(ring, done, sums)
                _told(sums, out[done, left : left + width], contrast[done, left : left + width])


def ssim_map(one: Floats, two: Floats) -> Floats:
    """Local similarity of two luma planes in 8-bit codes, shape (h - 10, w - 10).

    11 x 11 Gaussian window, population covariance, the border of 5 px left out.

    Parameters
    ----------
    one : ndarray, float32
        The first picture or plane.
    two : ndarray, float32
        The second, of the same shape.
    """
    height, width = one.shape
    out = np.empty((height - 2 * RADIUS, width - 2 * RADIUS), dtype=np.float32)
    contrast = np.empty_like(out)

    def strip(start: int, end: int) -> None:
        rows = slice(start, end + 2 * RADIUS)
        _similarity(one[rows], two[rows], out[start:end], contrast[start:end])

    in_strips(out.shape[0], strip)
    return out


def _cells(one: Floats, two: Floats) -> tuple[Cells, Cells]:
    """The same, and its part for contrast and structure alone (the paper's c times s),
    summed over cells while they are made.
    """

    def fill(a: int, b: int, out: Floats) -> None:
        rows = slice(a, b + 2 * RADIUS)
        _similarity(one[rows], two[rows], out[0], out[1])

    height, width = one.shape
    whole, contrast = gathered((height - 2 * RADIUS, width - 2 * RADIUS), 2, fill, ROWS)
    return whole, contrast


def _of_pair(subject: Subject, rect: Rect) -> tuple[Cells, Cells]:
    return subject.once("similarity", rect, lambda: _cells(*subject.pair(rect).lumas))


def ssim(subject: Subject, rect: Rect) -> MeasuredValue:
    """Mean structural similarity of luma against the truth, 0..1.

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
    least = 2 * RADIUS + 2
    if min(pair.rect.w, pair.rect.h) < least:
        raise NotMeasurable(f"the patch is too small, needs {least} × {least} px of the truth")
    likeness = _of_pair(subject, rect)[0]
    found = block_mean(likeness)
    return MeasuredValue(
        found.value, found.low, min(1.0, found.high), pair.grid, parts=of_mean(likeness)
    )


def ms_ssim(subject: Subject, rect: Rect) -> MeasuredValue:
    """Similarity of luma over five scales against the truth, 0..1.

    Contrast and structure at each scale, luminance at the coarsest, averages of 2 x 2
    pixels between scales.

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

    References
    ----------
    Wang, Simoncelli and Bovik, Asilomar Conference 2003, eq. 7 and section 3.2.
    """
    pair = subject.pair(rect)
    least = (2 * RADIUS + 1) * 2 ** (len(SCALES) - 1)
    if min(pair.rect.w, pair.rect.h) < least:
        raise NotMeasurable(
            f"the patch is too small for five scales, needs {least} × {least} px of the truth"
        )
    planes, found_at = pair.lumas, _of_pair(subject, rect)
    means, parts = [], []
    for scale in range(len(SCALES)):
        if scale:
            planes = (_halved(planes[0]), _halved(planes[1]))
            found_at = _cells(*planes)
        total, count = found_at[0 if scale == len(SCALES) - 1 else 1].parts
        means.append(max(0.0, float(total.sum() / count.sum())))
        # The coarsest map of a small patch has too few values to leave some out of.
        some = (
            (total.sum() - total) / (count.sum() - count)
            if count.size == ACROSS**2
            else np.full(ACROSS**2, means[-1])
        )
        parts.append(np.maximum(0, some))
    value = math.prod(m**w for m, w in zip(means, SCALES, strict=True))
    left_out = np.prod([p**w for p, w in zip(parts, SCALES, strict=True)], axis=0)
    found = jackknife(value, left_out)
    return MeasuredValue(
        value,
        found.low,
        min(1.0, found.high),
        pair.grid,
        {"by_scale": means},
        pseudo(value, left_out),
    )


@kernel
def _average(plane: Floats, out: Floats) -> None:
    for i in range(out.shape[0]):
        for j in range(out.shape[1]):
            out[i, j] = (
                plane[2 * i, 2 * j]
                + plane[2 * i, 2 * j + 1]
                + plane[2 * i + 1, 2 * j]
                + plane[2 * i + 1, 2 * j + 1]
            ) * _QUARTER


def _halved(plane: Floats) -> Floats:
    out = np.empty((plane.shape[0] // 2, plane.shape[1] // 2), dtype=np.float32)
    in_strips(out.shape[0], lambda a, b: _average(plane[2 * a : 2 * b], out[a:b]))
    return out
