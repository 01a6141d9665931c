"""Denoising anybody has: the self-guided edge-preserving filter."""

from __future__ import annotations

import numpy as np
import scipy.ndimage

from glenhail.core.picture import Floats


def guided(plane: Floats, radius: int, epsilon: float) -> Floats:
    """Smooth a plane where its local variance is below `epsilon` (He, Sun and Tang 2010, self-guided).

    Parameters
    ----------
    plane : ndarray, shape (h, w)
    radius : int
        Half the side of the square window, px.
    epsilon : float
        Variance, in the plane's units squared, at which half of the structure is kept.
    """
    size = 2 * radius + 1
    mean = scipy.ndimage.uniform_filter(plane, size, mode="nearest")
    variance = scipy.ndimage.uniform_filter(plane * plane, size, mode="nearest") - mean * mean
    a = np.maximum(variance, 0) / (np.maximum(variance, 0) + epsilon)
    b = mean * (1 - a)
    a, b = (scipy.ndimage.uniform_filter(p, size, mode="nearest") for p in (a, b))
    return np.asarray(a * plane + b, dtype=np.float32)
