"""CIELAB (CIE 15:2018) of linear BT.709 light, D65 white."""

from __future__ import annotations

import numpy as np

from glenhail.core.colour.spaces import BT709_TO_XYZ

# CIE 15:2018, 8.2.1.
EPSILON = (6 / 29) ** 3
KAPPA = (29 / 6) ** 2 / 3


def lab(linear: np.ndarray) -> np.ndarray:
    """L*, a*, b* of linear RGB, shape (..., 3), float64; white (1, 1, 1) gives (100, 0,
    0).

    Parameters
    ----------
    linear : ndarray, shape (..., 3)
        Linear light, BT.709 primaries.
    """
    white = BT709_TO_XYZ.sum(axis=1)
    xyz = (np.asarray(linear, dtype=np.float64) @ BT709_TO_XYZ.T) / white
    f = np.where(xyz > EPSILON, np.cbrt(xyz), KAPPA * xyz + 4 / 29)
    x, y, z = f[..., 0], f[..., 1], f[..., 2]
    return np.stack([116 * y - 16, 500 * (x - y), 200 * (y - z)], axis=-1)
