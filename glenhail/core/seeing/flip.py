"""FLIP: where two pictures differ when one flickers into the other.

Andersson, Nilsson, Akenine-Moller, Oskarsson, Astrom, Fairchild, "FLIP: A Difference
Evaluator for Alternating Images", Proceedings of the ACM on Computer Graphics and
Interactive Techniques 3 (2020) 15:1-15:23, for pictures of low dynamic range.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

import cv2
import numpy as np

from glenhail.core.colour import roots
from glenhail.core.colour.lab import EPSILON, KAPPA, lab
from glenhail.core.colour.roots import inlined, kernel
from glenhail.core.colour.spaces import BT709_TO_XYZ
from glenhail.core.parallel import FEW_ROWS, in_strips
from glenhail.core.picture import Floats
from glenhail.core.seeing.codes import LIGHT, check_sizes

F = np.float32
# Section 4.1.1, table 1: a and b of each Gaussian's a sqrt(pi / b) exp(-pi2 r2 / b), degrees.
CONTRAST = (((1.0, 0.0047),), ((1.0, 0.0053),), ((34.1, 0.04), (13.5, 0.025)))
WIDEST = 0.04  # all kernels end where this one's three deviations do
COLOUR_POWER = 0.7  # qc; qf, of features, is a root
BENT, LEVEL = 0.4, 0.95  # pc and pt: where the scale of colour differences bends
FEATURE = 0.082  # w, degrees: as wide as what the eye tells as an edge
_EPSILON, _KAPPA, _THIRD, _OFFSET = F(EPSILON), F(KAPPA), F(1 / 3), F(4 / 29)
_HALF = F(1 / math.sqrt(2))
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
    check_sizes(one, two)
    lights = [_opponent(codes) for codes in (one, two)]
    lines = _feature_lines(pixels_per_degree)
    first, second = (
        (*_filtered(light, pixels_per_degree), *_features(light[0], lines)) for light in lights
    )
    out = np.empty(one.shape[:2], dtype=np.float32)
    scale = _scale()

    def strip(a: int, b: int) -> None:
        mine, theirs = [tuple(plane[a:b] for plane in planes) for planes in (first, second)]
        _apart(mine, theirs, _FROM_XYZ, _TO_XYZ, scale, out[a:b])

    in_strips(one.shape[0], strip, FEW_ROWS)
    return out


def _opponent(codes: np.ndarray) -> list[Floats]:
    """Y, and red against green, blue against yellow: X - Y and Y - Z, white's at 1."""
    xyz = cv2.transform(cv2.LUT(np.ascontiguousarray(codes), LIGHT), _TO_XYZ)
    x, y, z = (np.asarray(plane, dtype=np.float32) for plane in cv2.split(xyz))
    return [y, x - y, y - z]


def _filtered(light: Sequence[Floats], ppd: float) -> list[Floats]:
    """What contrast sensitivity leaves of each plane."""
    return [_seen(plane, CONTRAST[i], ppd) for i, plane in enumerate(light)]


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


def _scale() -> tuple[np.float32, np.float32]:
    """Where the scale of colour differences bends, and its end: green against blue."""
    ends = np.zeros((2, 3))
    for i in (0, 1):
        lightness, a, b = lab(np.eye(3)[i + 1])
        ends[i] = lightness, 0.01 * lightness * a, 0.01 * lightness * b
    apart = np.abs(ends[0] - ends[1])
    largest = (apart[0] + math.hypot(apart[1], apart[2])) ** COLOUR_POWER
    return F(BENT * largest), F(largest)


def _feature_lines(ppd: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Along edges and points, and across both: kernels of one line each."""
    sigma = 0.5 * FEATURE * ppd
    radius = math.ceil(3 * sigma)
    at = np.arange(-radius, radius + 1) / sigma
    bell = np.exp(-0.5 * at**2)
    return _balanced(-at * bell), _balanced((at**2 - 1) * bell), bell / bell.sum()


def _features(lightness: Floats, lines: tuple[np.ndarray, ...]) -> list[Floats]:
    """Edges across and down, points across and down."""
    edge, point, even = lines
    return [
        _over(lightness, *pair) for line in (edge, point) for pair in ((line, even), (even, line))
    ]


def _balanced(line: np.ndarray) -> np.ndarray:
    """With what is positive adding up to 1 and what is negative to -1."""
    even = np.where(line < 0, line / -line[line < 0].sum(), line / line[line > 0].sum())
    return np.asarray(even)


@inlined
def _root(x: Any) -> Any:
    return roots.power(x, _THIRD) if x > _EPSILON else _KAPPA * x + _OFFSET


@inlined
def _hunt(y: Any, xy: Any, yz: Any, to_rgb: Any, to_xyz: Any) -> tuple[Any, Any, Any]:
    """CIELAB of what can be shown, colours the weaker the darker they are."""
    x, z = y + xy, y - yz
    r = min(F(1), max(F(0), to_rgb[0, 0] * x + to_rgb[0, 1] * y + to_rgb[0, 2] * z))
    g = min(F(1), max(F(0), to_rgb[1, 0] * x + to_rgb[1, 1] * y + to_rgb[1, 2] * z))
    b = min(F(1), max(F(0), to_rgb[2, 0] * x + to_rgb[2, 1] * y + to_rgb[2, 2] * z))
    u = _root(to_xyz[0, 0] * r + to_xyz[0, 1] * g + to_xyz[0, 2] * b)
    v = _root(to_xyz[1, 0] * r + to_xyz[1, 1] * g + to_xyz[1, 2] * b)
    w = _root(to_xyz[2, 0] * r + to_xyz[2, 1] * g + to_xyz[2, 2] * b)
    lightness = F(116) * v - F(16)
    weight = F(0.01) * lightness
    return lightness, weight * F(500) * (u - v), weight * F(200) * (v - w)


@kernel
def _apart(
    one: tuple[Floats, ...],
    two: tuple[Floats, ...],
    to_rgb: Floats,
    to_xyz: Floats,
    scale: tuple[np.float32, np.float32],
    out: Floats,
) -> None:
    """HyAB distances, bent so that large ones take the last twentieth of the scale, to
    the power of what edges and points leave.
    """
    y1, xy1, yz1, ex1, ey1, px1, py1 = one
    y2, xy2, yz2, ex2, ey2, px2, py2 = two
    bend, largest = scale
    low, high = F(LEVEL) / bend, F(1 - LEVEL) / (largest - bend)
    for i in range(out.shape[0]):
        for j in range(out.shape[1]):
            l1, a1, b1 = _hunt(y1[i, j], xy1[i, j], yz1[i, j], to_rgb, to_xyz)
            l2, a2, b2 = _hunt(y2[i, j], xy2[i, j], yz2[i, j], to_rgb, to_xyz)
            far = abs(l1 - l2) + math.sqrt((a1 - a2) ** 2 + (b1 - b2) ** 2)
            colour = roots.power(far, F(COLOUR_POWER)) if far > F(1e-6) else F(0)
            colour = colour * low if colour < bend else F(LEVEL) + (colour - bend) * high
            edge = math.sqrt(ex1[i, j] ** 2 + ey1[i, j] ** 2)
            edge = abs(edge - math.sqrt(ex2[i, j] ** 2 + ey2[i, j] ** 2))
            point = math.sqrt(px1[i, j] ** 2 + py1[i, j] ** 2)
            point = abs(point - math.sqrt(px2[i, j] ** 2 + py2[i, j] ** 2))
            feature = math.sqrt(max(edge, point) * _HALF)
            out[i, j] = roots.power(colour, F(1) - feature) if colour > F(1e-9) else F(0)
