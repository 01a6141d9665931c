"""A picture as a handful of numbers, to tell whether two show the same thing."""

from __future__ import annotations

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Floats, Rect

SIDE = 24

Thumb = list[float]


def thumb_of(linear: Floats) -> Thumb:
    """The luma of `SIDE` x `SIDE` areas of a picture, row by row, whatever its shape;
    three decimals are plenty.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    height, width = linear.shape[:2]
    small = resample(linear, Rect(0, 0, width, height), SIDE, SIDE, "area")
    return [round(float(v), 3) for v in srgb.luma(np.clip(small, 0, 1)).ravel()]


def likeness(one: Thumb, other: Thumb) -> float:
    """The correlation of two thumbs, -1..1: exposure and contrast do not matter, noise
    and small shifts hardly do.

    Parameters
    ----------
    one : Thumb
        The first thumb.
    other : Thumb
        The second one.
    """
    a, b = (np.asarray(t, dtype=np.float64) - np.mean(t) for t in (one, other))
    spread = float(np.linalg.norm(a) * np.linalg.norm(b))
    return float(a @ b) / spread if spread > 0 else 0.0
