"""Noise as a camera makes it, for trying the intervals: numpy alone, sharing no code
with what is tried.

A mosaic (RG over GB) of Poisson counts with Gaussian read noise, white-balanced by
nothing, demosaiced by bilinear interpolation and encoded by sRGB's curve, all written
out here once more.
"""

from __future__ import annotations

import math

import numpy as np

Planes = np.ndarray
GREEN = np.array([[0, 1, 0], [1, 4, 1], [0, 1, 0]]) / 4
OTHER = np.array([[1, 2, 1], [2, 4, 2], [1, 2, 1]]) / 4


def filtered(plane: Planes, kernel: Planes) -> Planes:
    """A plane under a small kernel; what lies outside is mirrored."""
    reach_y, reach_x = (n // 2 for n in kernel.shape)
    padded = np.pad(plane, ((reach_y, reach_y), (reach_x, reach_x)), mode="reflect")
    made = np.zeros(plane.shape)
    for i in range(kernel.shape[0]):
        for j in range(kernel.shape[1]):
            if kernel[i, j]:
                made += kernel[i, j] * padded[i : i + plane.shape[0], j : j + plane.shape[1]]
    return made


def blurred(plane: Planes, sigma: float) -> Planes:
    """A plane under a Gaussian of sigma px, cut at five sigma."""
    x = np.arange(-math.ceil(5 * sigma), math.ceil(5 * sigma) + 1)
    line = np.exp(-(x**2) / (2 * sigma**2))
    line /= line.sum()
    return filtered(filtered(plane, line[None, :]), line[:, None])


def mosaic(light: Planes, electrons: float, read: float, rng: np.random.Generator) -> Planes:
    """Linear RGB, shape (h, w, 3) with even sides, as a sensor with a filter before
    each pixel counts it and bilinear interpolation fills it in; 1 is `electrons`.
    """
    made = np.empty(light.shape)
    places = {0: ((0, 0),), 1: ((0, 1), (1, 0)), 2: ((1, 1),)}
    for channel, offsets in places.items():
        counted = np.zeros(light.shape[:2])
        for row, column in offsets:
            here = light[row::2, column::2, channel]
            counted[row::2, column::2] = (
                rng.poisson(here * electrons) + rng.normal(0, read, here.shape)
            ) / electrons
        made[..., channel] = filtered(counted, GREEN if channel == 1 else OTHER)
    return made


def encoded(linear: Planes) -> Planes:
    """sRGB's curve (IEC 61966-2-1), odd beyond 0."""
    size = np.abs(linear)
    return np.asarray(
        np.sign(linear)
        * np.where(size <= 0.0031308, 12.92 * size, 1.055 * size ** (1 / 2.4) - 0.055)
    )


def luma(linear: Planes) -> Planes:
    """BT.709 luma of encoded values, 8-bit levels."""
    return np.asarray(255 * encoded(linear) @ np.array([0.2126, 0.7152, 0.0722]))


def lab(linear: Planes) -> Planes:
    """CIELAB (CIE 15:2004) of linear BT.709 light, D65."""
    matrix = np.array(
        [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]
    )
    share = linear @ matrix.T / matrix.sum(axis=1)
    f = np.where(share > (6 / 29) ** 3, np.cbrt(share), share / (3 * (6 / 29) ** 2) + 4 / 29)
    return np.stack(
        [116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])],
        axis=-1,
    )
