"""FLIP: where two pictures differ when one flickers into the other.

Andersson, Nilsson, Akenine-Moller, Oskarsson, Astrom, Fairchild, "FLIP: A Difference
Evaluator for Alternating Images", Proceedings of the ACM on Computer Graphics and
Interactive Techniques 3 (2020) 15:1-15:23, for pictures of low dynamic range.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.lab import EPSILON, KAPPA
from glenhail.core.colour.spaces import BT709_TO_XYZ
from glenhail.core.picture import Floats

F = np.float32
# Section 4.1.1, table 1: a and b of each Gaussian's a sqrt(pi / b) exp(-pi2 r2 / b), degrees.
CONTRAST = (((1.0, 0.0047),), ((1.0, 0.0053),), ((34.1, 0.04), (13.5, 0.025)))
WIDEST = 0.04  # all kernels end where this one's three deviations do
COLOUR_POWER, FEATURE_POWER = 0.7, 0.5  # qc and qf
BENT, LEVEL = 0.4, 0.95  # pc and pt: where the scale of colour differences bends
FEATURE = 0.082  # w, degrees: as wide as what the eye tells as an edge
_CODES = srgb.decode(np.arange(256, dtype=np.float32) / F(255))
_WHITE = BT709_TO_XYZ.sum(axis=1)
_TO_XYZ = (BT709_TO_XYZ / _WHITE[:, None]).astype(np.float32)
_FROM_XYZ = np.linalg.inv(_TO_XYZ.astype(np.float64)).astype(np.float32)


def flip(one: np.ndarray, two: np.ndarray, pixels_per_degree: float) -> Floats:
    """FLIP of each pixel, 0 to 1.

    Parameters
    ----------
    one, two : ndarray, shape (h, w, 3), uint8
        sRGB codes, of one size.
    pixels_per_degree : float
        Of both as they are looked at.

    Returns
    -------
    ndarray of float32, shape (h, w)
    """
    if one.shape != two.shape:
        raise ValueError(f"two pictures of one size wanted: {one.shape}, {two.shape}")
    lights = [_opponent(codes) for codes in (one, two)]
    features = _features(lights[0][0], lights[1][0], pixels_per_degree)
    seen = [_filtered(light, pixels_per_degree) for light in lights]
    colours = _colours(seen[0], seen[1])
    return np.asarray(colours ** (1 - features), dtype=np.float32)


def _opponent(codes: np.ndarray) -> list[Floats]:
    """Y, and red against green, blue against yellow: X - Y and Y - Z, white's at 1."""
    xyz = cv2.transform(cv2.LUT(np.ascontiguousarray(codes), _CODES), _TO_XYZ)
    x, y, z = (np.asarray(plane, dtype=np.float32) for plane in cv2.split(xyz))
    return [y, x - y, y - z]


def _filtered(light: Sequence[Floats], ppd: float) -> Floats:
    """CIELAB of what contrast sensitivity leaves, Hunt's effect in it, (h, w, 3)."""
    y, xy, yz = (_seen(plane, CONTRAST[i], ppd) for i, plane in enumerate(light))
    linear = cv2.transform(cv2.merge([xy + y, y, y - yz]), _FROM_XYZ)
    return _hunt(np.asarray(np.clip(linear, 0, 1), dtype=np.float32))


def _hunt(linear: Floats) -> Floats:
    """CIELAB with colours the weaker the darker they are."""
    xyz = cv2.transform(linear, _TO_XYZ)
    f = np.where(xyz > EPSILON, np.cbrt(xyz), F(KAPPA) * xyz + F(4 / 29))
    x, y, z = (f[..., i] for i in range(3))
    lightness = F(116) * y - F(16)
    weight = F(0.01) * lightness
    return np.stack([lightness, weight * F(500) * (x - y), weight * F(200) * (y - z)], axis=-1)


def _seen(plane: Floats, parts: Sequence[tuple[float, float]], ppd: float) -> Floats:
    """A plane under its contrast sensitivity: a sum of Gaussians, of unit sum."""
    radius = math.ceil(3 * math.sqrt(WIDEST / (2 * math.pi**2)) * ppd)
    at = np.arange(-radius, radius + 1) / ppd
    lines = [np.exp(-(math.pi**2) * at**2 / b) for _, b in parts]
    weights = [
        a * math.sqrt(math.pi / b) * line.sum() ** 2
        for (a, b), line in zip(parts, lines, strict=True)
    ]
    out = np.zeros_like(plane)
    for weight, line in zip(weights, lines, strict=True):
        even = line / line.sum()
        out += F(weight / sum(weights)) * _over(plane, even, even)
    return out


def _over(plane: Floats, across: np.ndarray, down: np.ndarray) -> Floats:
    """A plane under a separable kernel; beyond its edge it is held."""
    return np.asarray(
        cv2.sepFilter2D(plane, cv2.CV_32F, across, down, borderType=cv2.BORDER_REPLICATE)
    )


def _colours(one: Floats, two: Floats) -> Floats:
    """HyAB distances, bent so that large ones take the last twentieth of the scale."""
    green, blue = (_hunt(np.eye(3, dtype=np.float32)[None, i : i + 1]) for i in (1, 2))
    largest = _distance(green, blue).item() ** COLOUR_POWER
    bend = BENT * largest
    apart = _distance(one, two) ** F(COLOUR_POWER)
    return np.asarray(
        np.where(
            apart < bend,
            apart * F(LEVEL / bend),
            F(LEVEL) + (apart - F(bend)) * F((1 - LEVEL) / (largest - bend)),
        )
    )


def _distance(one: Floats, two: Floats) -> Floats:
    apart = one - two
    return np.asarray(np.abs(apart[..., 0]) + np.hypot(apart[..., 1], apart[..., 2]))


def _features(one: Floats, two: Floats, ppd: float) -> Floats:
    """How much edges and points of lightness differ, 0 to 1."""
    sigma = 0.5 * FEATURE * ppd
    radius = math.ceil(3 * sigma)
    at = np.arange(-radius, radius + 1) / sigma
    bell = np.exp(-0.5 * at**2)
    even = bell / bell.sum()
    edge, point = (_balanced(line) for line in (-at * bell, (at**2 - 1) * bell))
    edges, points = (
        [np.hypot(_over(plane, line, even), _over(plane, even, line)) for plane in (one, two)]
        for line in (edge, point)
    )
    apart = np.maximum(np.abs(edges[0] - edges[1]), np.abs(points[0] - points[1]))
    return np.asarray((apart / F(math.sqrt(2))) ** F(FEATURE_POWER))


def _balanced(line: np.ndarray) -> np.ndarray:
    """With what is positive adding up to 1 and what is negative to -1."""
    even = np.where(line < 0, line / -line[line < 0].sum(), line / line[line > 0].sum())
    return np.asarray(even)
