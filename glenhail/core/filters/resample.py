"""Resampling with an antialiased separable filter, by area averages or nearest pixels.

Pillow's box filter takes whole pixels only, which moves things by up to half a pixel
where the ratio is not whole. Its nearest pixel depends on rounding where two are as
near, and so on which part of a picture is asked for.
"""

from __future__ import annotations

import numba
import numpy as np

from glenhail.core.filters.taps import KERNELS, separable
from glenhail.core.parallel import FEW_ROWS, in_strips
from glenhail.core.picture import Floats, Rect

FILTERS = ("nearest", *KERNELS, "area")


@numba.njit(cache=True, nogil=True)
def _average_rows(source: Floats, start: float, step: float, out: Floats, first: int) -> None:
    """Some rows of the result from the one numbered `first`, of the rows of (h, n)."""
    for i in range(out.shape[0]):
        top = start + (first + i) * step
        bottom = min(top + step, float(source.shape[0]))
        out[i] = 0
        for k in range(int(top), min(int(np.ceil(bottom - 1e-9)), source.shape[0])):
            share = (min(bottom, k + 1.0) - max(top, float(k))) / (bottom - top)
            for j in range(source.shape[1]):
                out[i, j] += np.float32(share) * source[k, j]


@numba.njit(cache=True, nogil=True)
def _average_columns(source: Floats, start: float, step: float, out: Floats) -> None:
    """The columns of (height, width, channels) out of those of (height, w, channels)."""
    out[:] = 0
    for y in range(out.shape[0]):
        for i in range(out.shape[1]):
            left = start + i * step
            right = min(left + step, float(source.shape[1]))
            for k in range(int(left), min(int(np.ceil(right - 1e-9)), source.shape[1])):
                share = np.float32((min(right, k + 1.0) - max(left, float(k))) / (right - left))
                for c in range(out.shape[2]):
                    out[y, i, c] += share * source[y, k, c]


BAND = 16  # rows averaged across while they are still in the cache


def _area(
    values: Floats, box: tuple[float, float, float, float], width: int, height: int
) -> Floats:
    """Exact averages over the area of each new pixel; of a plane, or of all colours of
    a picture at once.
    """
    left, top, right, bottom = box
    flat = values.reshape(values.shape[0], -1)
    channels = values.shape[2] if values.ndim == 3 else 1
    out = np.empty((height, width, channels), dtype=np.float32)

    def strip(first: int, end: int) -> None:
        for a in range(first, end, BAND):
            b = min(end, a + BAND)
            rows = np.empty((b - a, flat.shape[1]), dtype=np.float32)
            _average_rows(flat, top, (bottom - top) / height, rows, a)
            _average_columns(
                rows.reshape(b - a, -1, channels), left, (right - left) / width, out[a:b]
            )

    in_strips(height, strip, FEW_ROWS)
    return out.reshape(height, width, *values.shape[2:])


def _nearest(
    plane: Floats, box: tuple[float, float, float, float], width: int, height: int
) -> Floats:
    """The pixel that each new pixel's centre lies in; on a border the one after it."""
    left, top, right, bottom = box
    columns = np.floor(left + (np.arange(width) + 0.5) * (right - left) / width + 1e-9).astype(int)
    rows = np.floor(top + (np.arange(height) + 0.5) * (bottom - top) / height + 1e-9).astype(int)
    return np.ascontiguousarray(
        plane[
            np.minimum(rows, plane.shape[0] - 1)[:, None], np.minimum(columns, plane.shape[1] - 1)
        ]
    )


OWN = {"area": _area, "nearest": _nearest}


def resample(values: Floats, box: Rect, width: int, height: int, method: str = "lanczos") -> Floats:
    """Bring a part of a picture or plane to a given size.

    Parameters
    ----------
    values : ndarray, shape (h, w) or (h, w, 3)
    box : Rect
        The part, in pixels of `values`; floats allowed, must lie within it.
    width, height : int
        Size of the result in pixels.
    method : str
        One of `FILTERS`; all but nearest widen with the reduction, so that nothing
        aliases.

    Returns
    -------
    ndarray of float32, shape (height, width) or (height, width, 3)
    """
    if method not in FILTERS:
        raise ValueError(f"unknown filter {method!r}, one of {', '.join(FILTERS)} wanted")
    # Only the part that matters is brought into one piece of memory.
    margin = 8 * max(1.0, box.w / width, box.h / height)
    part = Rect(box.x - margin, box.y - margin, box.w + 2 * margin, box.h + 2 * margin)
    part = Rect(np.floor(part.x), np.floor(part.y), np.ceil(part.w) + 1, np.ceil(part.h) + 1)
    part = part.clipped(Rect(0, 0, values.shape[1], values.shape[0]))
    x, y = int(part.x), int(part.y)
    plane = np.ascontiguousarray(values[y : y + int(part.h), x : x + int(part.w)], dtype=np.float32)
    edges = (
        max(0.0, box.x - x),
        max(0.0, box.y - y),
        min(float(plane.shape[1]), box.x - x + box.w),
        min(float(plane.shape[0]), box.y - y + box.h),
    )
    if method in OWN:
        return OWN[method](plane, edges, width, height)
    return separable(plane, edges, width, height, method)
