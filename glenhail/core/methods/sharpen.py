"""Sharpening anybody has: unsharp mask, Laplacian, high-pass."""

from __future__ import annotations

import math

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.methods.denoise import GAUSSIAN_REACH
from glenhail.core.methods.method import Domain, Measured
from glenhail.core.parameters import Values
from glenhail.core.picture import Floats

LUMA, CHANNELS = "luma", "each channel"


def unsharp(plane: Floats, gain: float, reach: float, floor: float = 0.0) -> Floats:
    """Add back `gain` times what a Gaussian of `reach` px takes away, where that is
    more than `floor`.

    Common practice, no source; on an ideal edge of step s it gives the closed form s (1
    + gain) Q - gain s G, with the step Q and the Gaussian's integral G.

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    gain : float
        Times what was taken away.
    reach : float
        How far it is looked, px.
    floor : float
        Below which it is left alone, in the plane's unit.
    """
    lost = plane - scipy.ndimage.gaussian_filter(
        plane, reach, mode="nearest", truncate=GAUSSIAN_REACH
    )
    if floor > 0:
        lost = np.where(np.abs(lost) > floor, lost, 0)
    return np.asarray(plane + np.float32(gain) * lost, dtype=np.float32)


def unsharp_mask(linear: Floats, gain: float, reach: float) -> Floats:
    """`unsharp` on each encoded channel.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    gain : float
        1.0 adds back once what was taken away.
    reach : float
        Standard deviation of the Gaussian, px.

    Returns
    -------
    ndarray of float32
        Linear light, not clipped.
    """
    encoded = srgb.encode(linear)
    planes = [np.ascontiguousarray(encoded[..., i]) for i in range(encoded.shape[-1])]
    sharp = np.stack([unsharp(p, gain, reach) for p in planes], axis=-1)
    return np.asarray(srgb.decode(sharp), dtype=np.float32)


def domain(values: Values) -> Domain:
    """Luma alone needs it apart from colour.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    """
    return Domain.LUMA_AND_COLOUR if values["on"] == LUMA else Domain.ENCODED


def _left_alone(index: int, values: Values) -> bool:
    return values["on"] == LUMA and index > 0


def unsharp_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """`unsharp` with a floor in 8-bit levels.

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    index : int
        Which plane: 0 is luma, 1 and 2 are colour differences.
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    if _left_alone(index, values):
        return plane
    return unsharp(
        plane, float(values["gain"]), float(values["reach"]), float(values["floor"]) / 255
    )


def laplacian_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """Take away the Laplacian of the Gaussian-smoothed plane, scaled by the Gaussian's
    variance (scipy).

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    index : int
        Which plane: 0 is luma, 1 and 2 are colour differences.
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    if _left_alone(index, values):
        return plane
    sigma = float(values["reach"])
    curved = scipy.ndimage.gaussian_laplace(plane, sigma, mode="nearest", truncate=GAUSSIAN_REACH)
    return np.asarray(
        plane - np.float32(float(values["gain"]) * sigma**2) * curved, dtype=np.float32
    )


def high_pass_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """What a Gaussian takes away, about mid grey, laid over the plane by "overlay" (W3C
    Compositing and Blending Level 1).

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    index : int
        Which plane: 0 is luma, 1 and 2 are colour differences.
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    if _left_alone(index, values):
        return plane
    blurred = scipy.ndimage.gaussian_filter(
        plane, float(values["reach"]), mode="nearest", truncate=GAUSSIAN_REACH
    )
    layer = np.clip(0.5 + float(values["gain"]) * (plane - blurred), 0, 1)
    made = np.where(plane <= 0.5, 2 * plane * layer, 1 - 2 * (1 - plane) * (1 - layer))
    return np.asarray(made, dtype=np.float32)


def support(values: Values, measured: Measured) -> int:
    """As far as the Gaussian is kept.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    return math.ceil(GAUSSIAN_REACH * float(values["reach"]) + 0.5)
