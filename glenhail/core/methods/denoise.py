"""Denoising anybody has, on one plane at a time; brightness and colour have their own
amounts.

Amounts that compare values are told as multiples of the plane's own measured noise, so
that one setting means the same at every ISO. What was measured is kept with the result.
"""

from __future__ import annotations

import math

import cv2
import numpy as np
import pywt
import scipy.ndimage

from glenhail.core.colour.lumachroma import noise_level
from glenhail.core.methods.method import Domain, Measured, take_apart
from glenhail.core.parameters import Values
from glenhail.core.picture import Floats

GAUSSIAN_REACH = 4.0  # standard deviations that scipy keeps
TV_STEPS = 60
WAVELET, LEVELS = "db2", 4
# Rows that the noise is measured on, whatever the picture's height.
SAMPLED_ROWS = 400


def amount(values: Values, index: int) -> float:
    """What was asked for this plane: luma's or colour's.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    index : int
        Which plane: 0 is luma, 1 and 2 are colour differences.
    """
    return float(values["luma" if index == 0 else "colour"])


def measure_noise(linear: Floats, values: Values) -> Measured:
    """Each plane's noise, in its own units (Immerkaer 1996, robust).

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    values : Mapping
        Parameters by name, checked.
    """
    rows = linear[:: max(1, linear.shape[0] // SAMPLED_ROWS)]
    return {"noise": [noise_level(p) for p in take_apart(rows, Domain.LUMA_AND_COLOUR)]}


def guided(plane: Floats, radius: int, epsilon: float) -> Floats:
    """Smooth a plane where its local variance is below `epsilon` (He, Sun and Tang
    2010, self-guided).

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


def guided_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """`guided` on an encoded channel.

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
    return guided(plane, int(values["radius"]), float(values["variance"]))


def gaussian_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """A Gaussian of a given standard deviation in px (scipy).

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
    sigma = amount(values, index)
    return (
        np.asarray(
            scipy.ndimage.gaussian_filter(plane, sigma, mode="reflect", truncate=GAUSSIAN_REACH)
        )
        if sigma
        else plane
    )


def gaussian_reach(values: Values, measured: Measured) -> int:
    """As far as the wider of the two Gaussians is kept.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    return math.ceil(GAUSSIAN_REACH * max(amount(values, 0), amount(values, 1)) + 0.5)


def median_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """The median of a square window (OpenCV; borders repeated).

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
    side = str(values["luma" if index == 0 else "colour"])
    return plane if side == "none" else np.asarray(cv2.medianBlur(plane, int(side[0])))


def bilateral_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """Mean of near pixels of like value (Tomasi and Manduchi 1998; OpenCV).

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
    spread = amount(values, index) * measured["noise"][index]
    if spread == 0:
        return plane
    side = 2 * bilateral_reach(values, measured) + 1
    return np.asarray(
        cv2.bilateralFilter(
            plane, side, spread, float(values["space"]), borderType=cv2.BORDER_REFLECT_101
        )
    )


def bilateral_reach(values: Values, measured: Measured) -> int:
    """Half the window: one and a half standard deviations in space, as OpenCV chooses
    it by itself.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    return max(1, round(1.5 * float(values["space"])))


def means_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """Non-local means (Buades, Coll and Morel 2005; scikit-image's fast mode after
    Darbon et al. 2008).

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
    from skimage.restoration import denoise_nl_means  # slow to import

    h = amount(values, index) * measured["noise"][index]
    if h == 0:
        return plane
    # In double precision: its running sums would otherwise depend on how much is summed.
    made = denoise_nl_means(
        plane.astype(np.float64),
        patch_size=int(values["patch"]),
        patch_distance=int(values["distance"]),
        h=h,
        fast_mode=True,
    )
    return np.asarray(made, dtype=np.float32)


def means_reach(values: Values, measured: Measured) -> int:
    """A patch at the end of the search.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    return int(values["distance"]) + int(values["patch"]) // 2 + 1


def variation_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """Least total variation (Rudin, Osher and Fatemi 1992;

    Chambolle 2004 in scikit-image), a fixed number of steps.

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
    from skimage.restoration import denoise_tv_chambolle  # slow to import

    weight = amount(values, index) * measured["noise"][index]
    if weight == 0:
        return plane
    # No stopping early: when to stop would depend on what else is in the picture.
    return np.asarray(
        denoise_tv_chambolle(plane, weight=weight, eps=0, max_num_iter=TV_STEPS), dtype=np.float32
    )


def wavelet_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """Soft thresholding of wavelet details (Donoho and Johnstone 1994;

    PyWavelets, db2, 4 levels).

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
    threshold = amount(values, index) * measured["noise"][index]
    if threshold == 0:
        return plane
    levels = min(LEVELS, pywt.dwtn_max_level(plane.shape, WAVELET))
    base, *details = pywt.wavedec2(plane, WAVELET, level=levels)
    soft = [tuple(pywt.threshold(d, threshold, "soft") for d in level) for level in details]
    made = pywt.waverec2([base, *soft], WAVELET)
    return np.asarray(made[: plane.shape[0], : plane.shape[1]], dtype=np.float32)


def wavelet_reach(values: Values, measured: Measured) -> int:
    """Down and up again through filters of 4 taps, each level twice as wide as the one
    before.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    return int(2 * 3 * (2**LEVELS - 1) + 2**LEVELS)
