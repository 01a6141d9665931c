"""Brightness and colour apart, as the stand-ins work on them."""

from __future__ import annotations

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.picture import Floats


def split(linear: Floats) -> tuple[Floats, Floats]:
    """Encoded luma (h, w) and the colour left beside it (h, w, 3)."""
    encoded = srgb.encode(linear)
    y = np.asarray(encoded @ srgb.LUMA, dtype=np.float32)
    return y, np.asarray(encoded - y[..., None], dtype=np.float32)


def join(luma: Floats, colour: Floats) -> Floats:
    """Back to linear light."""
    return np.asarray(srgb.decode(luma[..., None] + colour), dtype=np.float32)


def noise_level(plane: Floats) -> float:
    """Standard deviation of a plane's noise, from the median of its finest diagonal differences (Immerkaer 1996, robust)."""
    kernel = np.array([[1, -2, 1], [-2, 4, -2], [1, -2, 1]], dtype=np.float32)
    fine = scipy.ndimage.convolve(plane[::2], kernel, mode="nearest")
    return float(np.median(np.abs(fine))) / 0.6745 / 6
