"""A Gaussian over a plane for measuring:

OpenCV's separable filter, several times faster than the general one of scipy.
"""

from __future__ import annotations

from functools import cache
from typing import Literal

import cv2
import numpy as np

from glenhail.core.picture import Floats

TRUNCATED = 4.0  # standard deviations at which the kernel ends
Border = Literal["mirrored", "held"]
BORDERS = {"mirrored": cv2.BORDER_REFLECT, "held": cv2.BORDER_REPLICATE}


def gaussian(
    plane: np.ndarray, sigma: float | tuple[float, float], border: Border = "mirrored"
) -> Floats:
    """A plane under a sampled Gaussian, float32, shape as given.

    ``sigma`` in px, one or (down, across). Beyond its edge the plane goes on
    ``mirrored``, or ``held`` at its last value.

    Parameters
    ----------
    plane : ndarray, shape (h, w)
        One plane of a picture.
    sigma : float or (float, float)
        Standard deviation, px; one, or down and across.
    border : str
        'mirrored' or 'held'.
    """
    down, across = sigma if isinstance(sigma, tuple) else (sigma, sigma)
    values = np.ascontiguousarray(plane, dtype=np.float32)
    return np.asarray(
        cv2.sepFilter2D(
            values, cv2.CV_32F, _kernel(across), _kernel(down), borderType=BORDERS[border]
        )
    )


@cache
def _kernel(sigma: float) -> Floats:
    radius = int(TRUNCATED * sigma + 0.5)
    weights = np.exp(-0.5 * (np.arange(-radius, radius + 1) / sigma) ** 2) if radius else np.ones(1)
    return np.asarray(weights / weights.sum(), dtype=np.float32)
