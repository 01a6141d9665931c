"""Planes of a picture that need a pixel's neighbours: its finest octave, and the noise
left.

Both work on sRGB-encoded values, as the eye is shown them, and give differences about
0.
"""

from __future__ import annotations

from enum import StrEnum

import cv2
import numpy as np

from glenhail.core.picture import Floats

# The generating kernel with a = 0.375: Burt and Adelson 1983, "The Laplacian pyramid as a compact
# image code", IEEE Trans. Communications 31(4).
BINOMIAL = np.array([1, 4, 6, 4, 1], dtype=np.float32) / 16
MEAN_SIDE = 15  # px of the local mean; common practice, no source


class Plane(StrEnum):
    """Which plane."""

    OCTAVE = "octave"
    NOISE = "noise"


#: How many px around a part each plane looks at.
REACH = {Plane.OCTAVE: 2, Plane.NOISE: MEAN_SIDE // 2}


def finest_octave(encoded: Floats) -> Floats:
    """What a picture has between a half and a quarter cycle per pixel: itself less
    itself through the binomial low-pass (Burt and Adelson 1983).

    Parameters
    ----------
    encoded : ndarray, shape (h, w, 3), float32
        sRGB-encoded values; beyond its edge the picture goes on mirrored.

    Returns
    -------
    ndarray, shape (h, w, 3), float32
        Differences about 0.
    """
    low = cv2.sepFilter2D(encoded, cv2.CV_32F, BINOMIAL, BINOMIAL, borderType=cv2.BORDER_REFLECT)
    return np.asarray(encoded - low, dtype=np.float32)


def noise_left(encoded: Floats) -> Floats:
    """A picture less its local mean over a square of 15 px.

    Parameters
    ----------
    encoded : ndarray, shape (h, w, 3), float32
        sRGB-encoded values; beyond its edge the picture goes on mirrored.

    Returns
    -------
    ndarray, shape (h, w, 3), float32
        Differences about 0: noise where the part is even, and detail where it is not.
    """
    mean = cv2.blur(encoded, (MEAN_SIDE, MEAN_SIDE), borderType=cv2.BORDER_REFLECT)
    return np.asarray(encoded - mean, dtype=np.float32)


MADE = {Plane.OCTAVE: finest_octave, Plane.NOISE: noise_left}
