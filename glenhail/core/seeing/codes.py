"""sRGB codes of two pictures that are held against each other."""

from __future__ import annotations

import numpy as np

from glenhail.core.colour import srgb

# Linear light of each code.
LIGHT = srgb.decode(np.arange(256, dtype=np.float32) / np.float32(255))


def check_sizes(one: np.ndarray, two: np.ndarray) -> None:
    """Both are of one size.

    Parameters
    ----------
    one, two : ndarray, shape (h, w, 3), uint8
        sRGB codes.

    Raises
    ------
    ValueError
        If they are not.
    """
    if one.shape != two.shape:
        raise ValueError(f"two pictures of one size wanted: {one.shape}, {two.shape}")
