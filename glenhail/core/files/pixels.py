"""What a file's pixels are, whatever the file around them: by their hash."""

from __future__ import annotations

import hashlib

import numpy as np

from glenhail.core.picture import Floats


def pixels_hash(pixels: Floats) -> str:
    """SHA-256 of decoded pixels: linear light, float32 little-endian, row by row.

    Parameters
    ----------
    pixels : ndarray
        Rows x columns x 3, linear light.
    """
    return hashlib.sha256(np.ascontiguousarray(pixels, dtype="<f4").data.cast("B")).hexdigest()
