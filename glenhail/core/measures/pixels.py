"""Pixel by pixel, in as few passes over the pictures as there can be: luma and errors
in codes, and CIEDE2000.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from glenhail.core.colour.lab import EPSILON, KAPPA
from glenhail.core.colour.roots import inlined, kernel, power
from glenhail.core.colour.spaces import BT709_TO_XYZ
from glenhail.core.colour.srgb import LUMA, encoded
from glenhail.core.parallel import FEW_ROWS, in_strips
from glenhail.core.picture import Floats
from glenhail.core.statistics.cells import Cells, gathered

F = np.float32
_CODES, _THIRD = F(255), F(1 / 3)
_RED, _GREEN, _BLUE = (F(v) for v in LUMA)


@dataclass(frozen=True)
class Errors:
    """Luma of both, 8-bit codes, float32 (h, w); squared and absolute error averaged
    over the channels, summed over cells.
    """

    output: Floats
    truth: Floats
    squared: Cells
    absolute: Cells


@kernel
def _split(row: Floats, planes: Floats) -> None:
    """Red, green and blue of a row beside each other, so that what follows is done to
    eight pixels at a time.
    """
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        red[j], green[j], blue[j] = row[j, 0], row[j, 1], row[j, 2]


@kernel
def _to_codes(values: Floats) -> None:
    for j in range(values.size):
        values[j] = _CODES * encoded(values[j])


@kernel
def _row_errors(
    one: Floats, two: Floats, luma_one: Floats, luma_two: Floats, squared: Floats, absolute: Floats
) -> None:
    for j in range(squared.size):
        r1, g1, b1, r2, g2, b2 = one[0, j], one[1, j], one[2, j], two[0, j], two[1, j], two[2, j]
        luma_one[j] = _RED * r1 + _GREEN * g1 + _BLUE * b1
        luma_two[j] = _RED * r2 + _GREEN * g2 + _BLUE * b2
        r, g, b = r1 - r2, g1 - g2, b1 - b2
        squared[j] = (r * r + g * g + b * b) * _THIRD
        absolute[j] = (abs(r) + abs(g) + abs(b)) * _THIRD


@kernel
def _errors(
    one: Floats, two: Floats, luma_one: Floats, luma_two: Floats, squared: Floats, absolute: Floats
) -> None:
    width = one.shape[1]
    planes_one, planes_two = (
        np.empty((3, width), dtype=np.float32),
        np.empty((3, width), dtype=np.float32),
    )
    for i in range(one.shape[0]):
        _split(one[i], planes_one)
        _split(two[i], planes_two)
        _to_codes(planes_one.reshape(-1))
        _to_codes(planes_two.reshape(-1))
        _row_errors(planes_one, planes_two, luma_one[i], luma_two[i], squared[i], absolute[i])


def errors(one: Floats, two: Floats) -> Errors:
    """Errors of two linear pictures of one size, shape (h, w, 3), in one pass.

    Parameters
    ----------
    one : ndarray, float32
        The first picture or plane.
    two : ndarray, float32
        The second, of the same shape.
    """
    lumas = np.empty((2, *one.shape[:2]), dtype=np.float32)
    one, two = np.asarray(one, dtype=np.float32), np.asarray(two, dtype=np.float32)

    def fill(a: int, b: int, out: Floats) -> None:
        _errors(one[a:b], two[a:b], lumas[0, a:b], lumas[1, a:b], out[0], out[1])

    return Errors(lumas[0], lumas[1], *gathered(lumas.shape[1:], 2, fill))


_M = tuple(F(v) for v in (BT709_TO_XYZ / BT709_TO_XYZ.sum(axis=1, keepdims=True)).ravel())
_XR, _XG, _XB, _YR, _YG, _YB, _ZR, _ZG, _ZB = _M
_EPSILON, _KAPPA, _FOOT, _ROOT = F(EPSILON), F(KAPPA), F(4 / 29), F(1 / 3)


@inlined
def _f(t: Any) -> Any:
    return power(t, _ROOT) if t > _EPSILON else _KAPPA * t + _FOOT


_0, _HALF, _1, _2, _3, _4 = (F(v) for v in (0, 0.5, 1, 2, 3, 4))
_TINY = F(1e-12)
_COS30, _SIN30 = (F(f(math.radians(30))) for f in (math.cos, math.sin))
_COS6, _SIN6 = (F(f(math.radians(6))) for f in (math.cos, math.sin))
_COS63, _SIN63 = (F(f(math.radians(63))) for f in (math.cos, math.sin))
_COS275, _SIN275 = (F(f(math.radians(275))) for f in (math.cos, math.sin))
_W1, _W2, _W3, _W4 = F(0.17), F(0.24), F(0.32), F(0.20)
_SL, _SC, _TWENTY, _FIFTY, _25TH, _500, _200, _116, _16 = (
    F(v) for v in (0.015, 0.045, 20, 50, 1 / 25, 500, 200, 116, 16)
)
# arctan over -1..1 to 1e-5, Abramowitz and Stegun 4.4.47.
_A1, _A3, _A5, _A7, _A9 = (F(v) for v in (0.9998660, -0.3302995, 0.1801410, -0.0851330, 0.0208351))
_SPREAD = F(
    -((math.degrees(2) / 25) ** 2) / math.log(2)
)  # exp(-(h / 25)^2) as a power of two, h from the tangent of its half
_TURN = F(math.radians(60))
_S3, _S5, _S7 = F(-1 / 6), F(1 / 120), F(-1 / 5040)
_LOWEST = F(-40)


@inlined
def _seventh(c: Any) -> Any:
    """Root of C^7 / (C^7 + 25^7)."""
    x = c * _25TH
    x2 = x * x
    x7 = x2 * x2 * x2 * x
    return math.sqrt(x7 / (x7 + _1))


@inlined
def _rotation(c: Any, s: Any, cm: Any) -> Any:
    """R_T from the cosine and sine of the mean hue; beyond 90 degrees from 275 it is
    under 1e-5.
    """
    near, across = c * _COS275 + s * _SIN275, s * _COS275 - c * _SIN275
    t = across / max(_1 + near, _TINY)
    t = min(_1, max(-_1, t))
    s2 = t * t
    half = t * (_A1 + s2 * (_A3 + s2 * (_A5 + s2 * (_A7 + s2 * _A9))))
    turn = _TURN * power(_2, max(_LOWEST, _SPREAD * half * half))
    t2 = turn * turn
    return -turn * (_1 + t2 * (_S3 + t2 * (_S5 + t2 * _S7))) * _2 * _seventh(cm)


@inlined
def _difference(l1: Any, a1: Any, b1: Any, l2: Any, a2: Any, b2: Any) -> Any:
    """CIEDE2000 without an angle: the mean hue is the direction of the two hues' unit
    vectors added.
    """
    g = _1 + _HALF * (
        _1 - _seventh((math.sqrt(a1 * a1 + b1 * b1) + math.sqrt(a2 * a2 + b2 * b2)) * _HALF)
    )
    p1, p2 = g * a1, g * a2
    c1, c2 = math.sqrt(p1 * p1 + b1 * b1), math.sqrt(p2 * p2 + b2 * b2)
    cc, dot = c1 * c2, p1 * p2 + b1 * b2
    # The cross product by differences: of near colours it is near zero, and must not drown in
    # rounding.
    cross = p1 * (b2 - b1) - b1 * (p2 - p1)
    near = cross / math.sqrt(max(_HALF * (cc + dot), _TINY))
    far = math.sqrt(max(_2 * (cc - dot), _0))
    d_h = near if dot > _0 else (far if cross >= _0 else -far)
    # Grey has no hue: the other colour's counts.
    u = p1 * c2 + p2 * c1 if cc > _TINY else p1 + p2
    v = b1 * c2 + b2 * c1 if cc > _TINY else b1 + b2
    length = math.sqrt(u * u + v * v)
    c, s = (u / length, v / length) if length > _TINY else (_1, _0)
    lm, cm = (l1 + l2) * _HALF - _FIFTY, (c1 + c2) * _HALF
    cos2, sin2 = _2 * c * c - _1, _2 * s * c
    cos3, sin3 = c * (_4 * c * c - _3), s * (_3 - _4 * s * s)
    cos4, sin4 = _2 * cos2 * cos2 - _1, _2 * sin2 * cos2
    t = (
        _1
        - _W1 * (c * _COS30 + s * _SIN30)
        + _W2 * cos2
        + _W3 * (cos3 * _COS6 - sin3 * _SIN6)
        - _W4 * (cos4 * _COS63 + sin4 * _SIN63)
    )
    lm2 = lm * lm
    x = (l2 - l1) / (_1 + _SL * lm2 / math.sqrt(_TWENTY + lm2))
    y = (c2 - c1) / (_1 + _SC * cm)
    z = d_h / (_1 + _SL * cm * t)
    return math.sqrt(max(_0, x * x + y * y + z * z + _rotation(c, s, cm) * y * z))


@kernel
def _to_lab(planes: Floats) -> None:
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        r, g, b = red[j], green[j], blue[j]
        x, y, z = (
            _f(_XR * r + _XG * g + _XB * b),
            _f(_YR * r + _YG * g + _YB * b),
            _f(_ZR * r + _ZG * g + _ZB * b),
        )
        red[j], green[j], blue[j] = _116 * y - _16, _500 * (x - y), _200 * (y - z)


@kernel
def _labs(pixels: Floats, out: Floats) -> None:
    planes = np.empty((3, pixels.shape[1]), dtype=np.float32)
    for i in range(pixels.shape[0]):
        _split(pixels[i], planes)
        _to_lab(planes)
        out[:, i] = planes


def lab_planes(pixels: Floats) -> Floats:
    """CIELAB of a linear picture as three planes, float32 (3, h, w); within 1e-3 of the
    exact formula.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    out = np.empty((3, *pixels.shape[:2]), dtype=np.float32)
    _labs(np.asarray(pixels, dtype=np.float32), out)
    return out


@kernel
def _row_differences(one: Floats, two: Floats, out: Floats) -> None:
    for j in range(out.size):
        out[j] = _difference(one[0, j], one[1, j], one[2, j], two[0, j], two[1, j], two[2, j])


@kernel
def _differences(one: Floats, two: Floats, out: Floats) -> None:
    width = one.shape[1]
    planes_one, planes_two = (
        np.empty((3, width), dtype=np.float32),
        np.empty((3, width), dtype=np.float32),
    )
    for i in range(one.shape[0]):
        _split(one[i], planes_one)
        _split(two[i], planes_two)
        _to_lab(planes_one)
        _to_lab(planes_two)
        _row_differences(planes_one, planes_two, out[i])


def differences(one: Floats, two: Floats) -> Floats:
    """CIEDE2000 of two linear pictures of one size, float32 (h, w), in one pass; to
    about 1e-3 of the exact formula.

    Parameters
    ----------
    one : ndarray, float32
        The first picture or plane.
    two : ndarray, float32
        The second, of the same shape.
    """
    out = np.empty((one.shape[0], one.shape[1]), dtype=np.float32)
    one, two = np.asarray(one, dtype=np.float32), np.asarray(two, dtype=np.float32)
    in_strips(out.shape[0], lambda a, b: _differences(one[a:b], two[a:b], out[a:b]), FEW_ROWS)
    return out
