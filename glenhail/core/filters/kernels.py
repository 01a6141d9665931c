"""Blurs by a known kernel: uniform, Gaussian, defocus disc, motion line.

Borders are mirrored.
"""

from __future__ import annotations

import math

import numpy as np
import scipy.fft

from glenhail.core.picture import Doubles, Floats

FINE = 8  # samples across a kernel pixel, in each direction
SEPARABLE_REACH = 4.0  # standard deviations of a Gaussian that are kept


def uniform_kernel(side: int) -> Doubles:
    """All of `side` x `side` pixels alike; `side` is odd.

    Parameters
    ----------
    side : int
        Pixels a side, odd.
    """
    return np.full((side, side), 1 / side**2)


def gaussian_kernel(sigma: float) -> Doubles:
    """A Gaussian of `sigma` px, sampled.

    Parameters
    ----------
    sigma : float
        Standard deviation of the Gaussian, px; above 0.
    """
    reach = math.ceil(SEPARABLE_REACH * sigma)
    line = np.exp(-0.5 * (np.arange(-reach, reach + 1) / sigma) ** 2)
    line /= line.sum()
    return np.outer(line, line)


def disc_kernel(radius: float) -> Doubles:
    """An out-of-focus point of light: a disc of `radius` px, each pixel by the share of
    it that is covered.

    Parameters
    ----------
    radius : float
        Radius, px.
    """
    reach = math.ceil(radius)
    at = _fine_grid(reach)
    covered = np.hypot(at[:, None], at[None, :]) <= radius
    return _pooled(covered.astype(np.float64))


def motion_kernel(length: float, angle_deg: float) -> Doubles:
    """A straight move of `length` px at `angle_deg` from the horizontal, counted
    anticlockwise; 1 px wide.

    Parameters
    ----------
    length : float
        Length of the move, px.
    angle_deg : float
        Its direction, degrees anticlockwise from the horizontal.
    """
    reach = math.ceil(length / 2 + 1)
    at = _fine_grid(reach)
    x, y = at[None, :], -at[:, None]
    turn = math.radians(angle_deg)
    along, across = x * math.cos(turn) + y * math.sin(turn), y * math.cos(turn) - x * math.sin(turn)
    covered = (np.abs(along) <= max(length, 1) / 2) & (np.abs(across) <= 0.5)
    return _pooled(covered.astype(np.float64))


def _fine_grid(reach: int) -> Doubles:
    side = (2 * reach + 1) * FINE
    return (np.arange(side) + 0.5) / FINE - reach - 0.5


def _pooled(fine: Doubles) -> Doubles:
    side = fine.shape[0] // FINE
    kernel = fine.reshape(side, FINE, side, FINE).mean(axis=(1, 3))
    return np.asarray(kernel / kernel.sum())


def blur(values: Floats, kernel: Doubles) -> Floats:
    """Convolve every channel of a picture, shape (h, w, 3), with a kernel whose sum is
    1.

    Parameters
    ----------
    values : ndarray, shape (h, w) or (h, w, 3), float32
        Pixels.
    kernel : ndarray, shape (k, k)
        A kernel whose sum is 1, odd sides.

    Raises
    ------
    ValueError
        If the kernel is larger than the picture: there would be nothing to mirror.
    """
    reach = kernel.shape[0] // 2
    if reach >= min(values.shape[:2]):
        raise ValueError(f"a blur that reaches {reach} px needs a picture larger than that")
    padded = np.pad(values, ((reach, reach), (reach, reach), (0, 0)), mode="symmetric")
    height, width = values.shape[:2]
    size = [scipy.fft.next_fast_len(n, real=True) for n in padded.shape[:2]]
    spectrum = scipy.fft.rfft2(kernel.astype(np.float32), size)
    out = np.empty_like(values, dtype=np.float32)
    for c in range(values.shape[2]):
        # What wraps around lands in the first 2 x reach rows and columns, which are left out.
        whole = scipy.fft.irfft2(scipy.fft.rfft2(padded[..., c], size) * spectrum, size)
        out[..., c] = whole[2 * reach : 2 * reach + height, 2 * reach : 2 * reach + width]
    return out
