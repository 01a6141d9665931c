"""Planes under sums of Gaussians, wide ones in much less time than their size asks for."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np

from glenhail.core.filters.blur import gaussian
from glenhail.core.picture import Floats

NARROW = 6.0  # px of deviation up to which a Gaussian is taken as it is
KEPT = 4.0  # px of deviation that a wide one still has on its smaller grid
LEAST_ACROSS = 24  # px that this grid has either way


def sum_of_gaussians(plane: Floats, parts: Sequence[tuple[float, float]]) -> Floats:
    """A plane under a weighted sum of Gaussians, float32.

    Weights are taken so that they add up to 1: an even plane stays as it is. Beyond its
    edge the plane goes on mirrored.

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        Of a picture.
    parts : sequence of (float, float)
        Weight and standard deviation, px, of each.
    """
    whole = sum(weight for weight, _ in parts)
    out = np.zeros_like(plane)
    for weight, sigma in parts:
        cv2.scaleAdd(blurred(plane, sigma), weight / whole, out, out)
    return out


def blurred(plane: Floats, sigma: float) -> Floats:
    """A plane under one Gaussian.

    Wide ones are taken on a grid of area averages, whose own widening, and that of
    going back by straight lines, is taken off the Gaussian's: variances of what follows
    upon each other add.

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        Of a picture.
    sigma : float
        Standard deviation, px.
    """
    if sigma <= NARROW:
        return gaussian(plane, sigma)
    step = min(int(sigma / KEPT) + 1, max(1, min(plane.shape) // LEAST_ACROSS))
    height, width = plane.shape
    down, across = (-(-side // step) for side in (height, width))
    small = cv2.resize(plane, (across, down), interpolation=cv2.INTER_AREA)
    narrower = _left(sigma, height / down), _left(sigma, width / across)
    back = gaussian(np.asarray(small, dtype=np.float32), narrower)
    return np.asarray(cv2.resize(back, (width, height), interpolation=cv2.INTER_LINEAR))


def _left(sigma: float, step: float) -> float:
    """What is left to blur on a grid of so many px.

    A box of n px has a variance of (n2 - 1) / 12, a tent of twice its width
    (n2 - 1) / 6.
    """
    return float(np.sqrt(max(0.0, sigma**2 - (step**2 - 1) / 4)) / step)
