"""Sharpening anybody has: the unsharp mask."""

from __future__ import annotations

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.picture import Floats


def unsharp_mask(linear: Floats, amount: float, radius: float) -> Floats:
    """Add back `amount` times what a Gaussian of `radius` px (sigma) takes away, on encoded values.

    Parameters
    ----------
    amount : float
        1.0 is 100 %.
    radius : float
        Standard deviation of the Gaussian, px.

    Returns
    -------
    ndarray of float32
        Linear light, not clipped.
    """
    encoded = srgb.encode(linear)
    planes = [np.ascontiguousarray(encoded[..., i]) for i in range(encoded.shape[-1])]
    blurred = [scipy.ndimage.gaussian_filter(p, radius, mode="nearest") for p in planes]
    sharp = np.stack([p + amount * (p - b) for p, b in zip(planes, blurred, strict=True)], axis=-1)
    return np.asarray(srgb.decode(sharp), dtype=np.float32)
