"""Brightness and colour apart: encoded luma and the two colour differences, and how
noisy a plane is.
"""

from __future__ import annotations

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.picture import Floats


def split(linear: Floats) -> tuple[Floats, list[Floats]]:
    """Encoded luma and the two colour differences R' - Y', B' - Y', each (h, w) and in
    one piece of memory.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    encoded = srgb.encode(linear)
    luma = np.asarray(encoded @ srgb.LUMA, dtype=np.float32)
    return luma, [np.ascontiguousarray(encoded[..., i] - luma) for i in (0, 2)]


def join(luma: Floats, colour: list[Floats]) -> Floats:
    """Back to linear light.

    Parameters
    ----------
    luma : ndarray, shape (h, w), float32
        Encoded luma.
    colour : list of ndarray, shape (h, w)
        R' - Y' and B' - Y'.
    """
    red, blue = (luma + c for c in colour)
    green = (luma - srgb.LUMA[0] * red - srgb.LUMA[2] * blue) / srgb.LUMA[1]
    return np.asarray(srgb.decode(np.stack([red, green, blue], axis=-1)), dtype=np.float32)


def noise_level(plane: Floats) -> float:
    """Standard deviation of a plane's noise, from the median of its finest diagonal
    differences (Immerkaer 1996, robust).

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    """
    sample = plane[:: max(1, plane.shape[0] // 400)]
    kernel = np.array([1, -2, 1], dtype=np.float32)
    fine = scipy.ndimage.convolve1d(sample, kernel, axis=1, mode="nearest")
    # The second difference of white noise has 6 times its variance.
    return float(np.median(np.abs(fine)) / 0.6745 / np.sqrt(6))
