"""Differences that are seen at a distance: S-CIELAB with CIEDE2000.

Both pictures are taken apart into three opponent planes, each is blurred as much as the
eye blurs it at so many pixels a degree, and what is left is told apart as colours are.
Fine noise in colour is gone then, a blotch of the same strength is not.

Zhang and Wandell, "A spatial extension of CIELAB for digital color-image reproduction",
Journal of the SID 5 (1997) 61-63; CIEDE2000 as Johnson and Fairchild, "A top down
description of S-CIELAB and CIEDE2000", Color Research and Application 28 (2003)
425-435. The numbers of both tables are from memory.
"""

from __future__ import annotations

import math

import numpy as np

from glenhail.core.colour import roots
from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import EPSILON, KAPPA
from glenhail.core.colour.roots import kernel
from glenhail.core.colour.spaces import BT709_TO_XYZ
from glenhail.core.parallel import FEW_ROWS, in_strips
from glenhail.core.picture import Floats
from glenhail.core.seeing.codes import LIGHT, check_sizes
from glenhail.core.seeing.sums import sum_of_gaussians

F = np.float32
# XYZ to luminance, red against green, blue against yellow.
OPPONENT = np.array(
    [
        [0.2787336, 0.7218031, -0.1065520],
        [-0.4487736, 0.2898056, 0.0771569],
        [0.0859513, -0.5899859, 0.5011089],
    ]
)
# Of each plane the weights and spreads, degrees, of exp(-r2 / spread2): a spread is the root of
# two of a standard deviation.
FILTERS = (
    ((0.921, 0.0283), (0.105, 0.133), (-0.108, 4.336)),
    ((0.531, 0.0392), (0.330, 0.494)),
    ((0.488, 0.0536), (0.371, 0.386)),
)
_TO_OPPONENT = (OPPONENT @ BT709_TO_XYZ).astype(np.float32)
# Straight to XYZ over white's.
_FROM_OPPONENT = (np.linalg.inv(OPPONENT) / BT709_TO_XYZ.sum(axis=1)[:, None]).astype(np.float32)
_EPSILON, _KAPPA, _THIRD, _OFFSET = F(EPSILON), F(KAPPA), F(1 / 3), F(4 / 29)


def widths(plane: int, pixels_per_degree: float) -> list[tuple[float, float]]:
    """Weight and standard deviation, px, of the Gaussians of an opponent plane.

    Parameters
    ----------
    plane : int
        0 luminance, 1 red against green, 2 blue against yellow.
    pixels_per_degree : float
        Of the picture as it is looked at.
    """
    return [(w, spread * pixels_per_degree / math.sqrt(2)) for w, spread in FILTERS[plane]]


def scielab(one: np.ndarray, two: np.ndarray, pixels_per_degree: float) -> np.ndarray:
    """CIEDE2000 of each pixel as it is seen.

    Parameters
    ----------
    one, two : ndarray, shape (h, w, 3), uint8
        sRGB codes, of one size.
    pixels_per_degree : float
        Of both as they are looked at.

    Returns
    -------
    ndarray of float64, shape (h, w)
    """
    check_sizes(one, two)
    return ciede2000(*(_seen(codes, pixels_per_degree) for codes in (one, two)))


def _seen(codes: np.ndarray, pixels_per_degree: float) -> Floats:
    """CIELAB of what the eye's blur leaves."""
    planes = np.empty((3, *codes.shape[:2]), dtype=np.float32)
    source = np.ascontiguousarray(codes)
    in_strips(
        codes.shape[0],
        lambda a, b: _take_apart(source[a:b], LIGHT, _TO_OPPONENT, planes[:, a:b]),
        FEW_ROWS,
    )
    for i in range(3):
        planes[i] = sum_of_gaussians(planes[i], widths(i, pixels_per_degree))
    out = np.empty(codes.shape, dtype=np.float32)
    in_strips(
        codes.shape[0], lambda a, b: _to_lab(planes[:, a:b], _FROM_OPPONENT, out[a:b]), FEW_ROWS
    )
    return out


@kernel
def _take_apart(codes: np.ndarray, table: Floats, matrix: Floats, out: Floats) -> None:
    for y in range(codes.shape[0]):
        for x in range(codes.shape[1]):
            r, g, b = table[codes[y, x, 0]], table[codes[y, x, 1]], table[codes[y, x, 2]]
            for i in range(3):
                out[i, y, x] = matrix[i, 0] * r + matrix[i, 1] * g + matrix[i, 2] * b


@kernel
def _to_lab(planes: Floats, matrix: Floats, out: Floats) -> None:
    for y in range(planes.shape[1]):
        for x in range(planes.shape[2]):
            a, b, c = planes[0, y, x], planes[1, y, x], planes[2, y, x]
            u = _root(matrix[0, 0] * a + matrix[0, 1] * b + matrix[0, 2] * c)
            v = _root(matrix[1, 0] * a + matrix[1, 1] * b + matrix[1, 2] * c)
            w = _root(matrix[2, 0] * a + matrix[2, 1] * b + matrix[2, 2] * c)
            out[y, x, 0] = F(116) * v - F(16)
            out[y, x, 1] = F(500) * (u - v)
            out[y, x, 2] = F(200) * (v - w)


@roots.inlined
def _root(x: Floats) -> Floats:
    return roots.power(x, _THIRD) if x > _EPSILON else _KAPPA * x + _OFFSET
