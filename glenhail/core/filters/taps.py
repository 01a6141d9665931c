"""Separable filters that resample: their weights, and both passes, all colours at once.

Weights, their order and the depth that sums are taken at are those of Pillow's float
path, so that results equal its own; only that does one plane at a time, on one
processor.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import lru_cache

import numba
import numpy as np
import numpy.typing as npt

from glenhail.core.parallel import FEW_ROWS, in_strips
from glenhail.core.picture import Floats

Starts = npt.NDArray[np.int64]
Doubles = npt.NDArray[np.float64]
BLOCK = 2048  # sums under way at once: they stay in the cache
LANES = 24  # values that lie beside each other: rows of one channel, or of three


def _tent(x: float) -> float:
    return max(0.0, 1.0 - abs(x))


def _cubic(x: float) -> float:
    """Keys 1981 (IEEE Transactions on Acoustics, Speech and Signal Processing 29), a of
    -1/2.
    """
    a, x = -0.5, abs(x)
    if x < 1.0:
        return ((a + 2.0) * x - (a + 3.0)) * x * x + 1
    return (((x - 5) * x + 8) * x - 4) * a if x < 2.0 else 0.0


def _sinc(x: float) -> float:
    return 1.0 if x == 0.0 else math.sin(x * math.pi) / (x * math.pi)


def _lanczos(x: float) -> float:
    """Duchon 1979 (Journal of Applied Meteorology 18), three lobes."""
    return _sinc(x) * _sinc(x / 3) if -3.0 <= x < 3.0 else 0.0


KERNELS: dict[str, tuple[Callable[[float], float], float]] = {
    "bilinear": (_tent, 1.0),
    "bicubic": (_cubic, 2.0),
    "lanczos": (_lanczos, 3.0),
}


@lru_cache(maxsize=64)
def weights(
    method: str, size: int, start: float, end: float, wanted: int
) -> tuple[Starts, Doubles]:
    """What each new pixel takes of the old ones along one axis.

    Parameters
    ----------
    method : str
        One of `KERNELS`.
    size : int
        Old pixels there are.
    start, end : float
        The part of them that is taken.
    wanted : int
        New pixels.

    Returns
    -------
    ndarray of int64, shape (wanted, 2)
        The first old pixel each takes, and the one after the last.
    ndarray of float64, shape (wanted, n)
        Weights, of unit sum; zeros where fewer are taken.
    """
    kernel, reach = KERNELS[method]
    # As exact as Pillow takes them: published crops are made again to the last code.
    first_edge, last_edge = np.float32(start), np.float32(end)
    start, scale = float(first_edge), float(last_edge - first_edge) / wanted
    wide = max(scale, 1.0)
    support = reach * wide
    bounds = np.zeros((wanted, 2), dtype=np.int64)
    out = np.zeros((wanted, math.ceil(support) * 2 + 1))
    for i in range(wanted):
        centre = start + (i + 0.5) * scale
        first = max(0, int(centre - support + 0.5))
        last = min(size, int(centre + support + 0.5))
        line = [kernel((x - centre + 0.5) * (1.0 / wide)) for x in range(first, last)]
        whole = 0.0
        for value in line:
            whole += value
        bounds[i] = first, last
        out[i, : last - first] = [value / whole for value in line] if whole else line
    return bounds, out


@numba.njit(cache=True, nogil=True)
def _across(source: Floats, bounds: Starts, taps: Doubles, out: Floats) -> None:
    """Rows of (h, w, channels): some at a time, turned so that what lies at one column
    lies beside each other, which a processor multiplies at once.
    """
    channels = source.shape[2]
    rows = LANES // channels
    turned = np.empty((source.shape[1], LANES))
    sums = np.empty(LANES)
    for y in range(0, out.shape[0], rows):
        n = min(rows, out.shape[0] - y)
        for r in range(rows):
            at = y + min(r, n - 1)
            for x in range(source.shape[1]):
                for c in range(channels):
                    turned[x, r * channels + c] = source[at, x, c]
        for i in range(out.shape[1]):
            first, last = bounds[i]
            sums[:] = 0.0
            for k in range(first, last):
                w = taps[i, k - first]
                for j in range(LANES):
                    sums[j] += turned[k, j] * w
            for r in range(n):
                for c in range(channels):
                    out[y + r, i, c] = sums[r * channels + c]


@numba.njit(cache=True, nogil=True)
def _down(source: Floats, bounds: Starts, taps: Doubles, out: Floats) -> None:
    """Some new rows, (h, n), of all old ones; the bounds and weights of those rows."""
    sums = np.empty(BLOCK)
    for i in range(out.shape[0]):
        first, last = bounds[i]
        for a in range(0, out.shape[1], BLOCK):
            n = min(BLOCK, out.shape[1] - a)
            sums[:n] = 0.0
            for k in range(first, last):
                w = taps[i, k - first]
                for j in range(n):
                    sums[j] += source[k, a + j] * w
            for j in range(n):
                out[i, a + j] = sums[j]


def separable(
    values: Floats, box: tuple[float, float, float, float], width: int, height: int, method: str
) -> Floats:
    """A part of a picture or plane at another size, through a filter of `KERNELS`.

    Parameters
    ----------
    values : ndarray of float32, shape (h, w) or (h, w, 3)
        The old pixels.
    box : (float, float, float, float)
        Left, top, right and bottom of the part, px.
    width, height : int
        Of the result, px.
    method : str
        One of `KERNELS`; it widens with the reduction, so that nothing aliases.

    Returns
    -------
    ndarray of float32, shape (height, width) or (height, width, 3)
    """
    left, top, right, bottom = box
    source = values if values.ndim == 3 else values[..., None]
    rows, columns = source.shape[:2]
    if (width, left, right) != (columns, 0.0, float(columns)):
        source = _each_row(source, *weights(method, columns, left, right, width))
    if (height, top, bottom) != (rows, 0.0, float(rows)):
        source = _each_column(source, *weights(method, rows, top, bottom, height))
    own = source.copy() if np.may_share_memory(source, values) else source
    return own.reshape(height, width, *values.shape[2:])


def _each_row(source: Floats, bounds: Starts, taps: Doubles) -> Floats:
    out = np.empty((source.shape[0], bounds.shape[0], source.shape[2]), dtype=np.float32)
    in_strips(source.shape[0], lambda a, b: _across(source[a:b], bounds, taps, out[a:b]), FEW_ROWS)
    return out


def _each_column(source: Floats, bounds: Starts, taps: Doubles) -> Floats:
    flat = source.reshape(source.shape[0], -1)
    out = np.empty((bounds.shape[0], flat.shape[1]), dtype=np.float32)
    in_strips(out.shape[0], lambda a, b: _down(flat, bounds[a:b], taps[a:b], out[a:b]), FEW_ROWS)
    return out.reshape(bounds.shape[0], *source.shape[1:])
