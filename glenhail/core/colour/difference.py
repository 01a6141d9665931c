"""CIEDE2000 colour difference (CIE 142-2001), formulas as in Sharma, Wu and Dalal 2005."""

from __future__ import annotations

import math

import numba
import numpy as np

from glenhail.core.parallel import in_strips

TWENTY_FIVE_7 = 25.0**7
COS30, SIN30 = math.cos(math.radians(30)), math.sin(math.radians(30))
COS6, SIN6 = math.cos(math.radians(6)), math.sin(math.radians(6))
COS63, SIN63 = math.cos(math.radians(63)), math.sin(math.radians(63))
NEARLY_OPPOSITE = -0.9999


@numba.njit(cache=True, nogil=True)
def _length(a: float, b: float) -> float:
    return math.sqrt(a * a + b * b)


@numba.njit(cache=True, nogil=True)
def _seventh(c: float) -> float:
    square = c * c
    return square * square * square * c


@numba.njit(cache=True, nogil=True)
def _hue(a: float, b: float) -> float:
    if a == 0.0 and b == 0.0:
        return 0.0
    h = math.degrees(math.atan2(b, a))
    return h + 360.0 if h < 0 else h


@numba.njit(cache=True, nogil=True)
def _rows(one: np.ndarray, two: np.ndarray, out: np.ndarray) -> None:
    for i in range(one.shape[0]):
        out[i] = de00(one[i, 0], one[i, 1], one[i, 2], two[i, 0], two[i, 1], two[i, 2])


@numba.njit(cache=True, nogil=True)
def _exact_hues(ap1: float, b1: float, ap2: float, b2: float) -> tuple[float, float, float]:
    """Sine of half the hue difference, cosine and sine of the mean hue, with angles
    (equations 10 and 14).
    """
    h1, h2 = _hue(ap1, b1), _hue(ap2, b2)
    gap = h2 - h1
    mean = (h1 + h2) / 2
    if gap > 180 or gap < -180:
        gap += 360 if gap < 0 else -360
        mean += 180 if h1 + h2 < 360 else -180
    mean = math.radians(mean)
    return math.sin(math.radians(gap / 2)), math.cos(mean), math.sin(mean)


@numba.njit(cache=True, nogil=True)
def _hues(
    ap1: float, b1: float, cp1: float, ap2: float, b2: float, cp2: float
) -> tuple[float, float, float]:
    """The same without an angle: the mean hue bisects the shorter arc, so it is the sum
    of two unit vectors.

    Nearly opposite hues, where that sum vanishes, go by their angles.
    """
    if cp1 * cp2 == 0.0:
        a, b, c = (ap1, b1, cp1) if cp1 > 0 else (ap2, b2, cp2)
        return (0.0, a / c, b / c) if c > 0 else (0.0, 1.0, 0.0)
    c1, s1, c2, s2 = ap1 / cp1, b1 / cp1, ap2 / cp2, b2 / cp2
    cosine, sine = c1 * c2 + s1 * s2, s2 * c1 - c2 * s1
    if cosine < NEARLY_OPPOSITE:
        return _exact_hues(ap1, b1, ap2, b2)
    length = _length(c1 + c2, s1 + s2)
    half = math.sqrt(max(0.0, (1 - cosine) / 2))
    return (half if sine >= 0 else -half), (c1 + c2) / length, (s1 + s2) / length


@numba.njit(cache=True, nogil=True)
def de00(l1: float, a1: float, b1: float, l2: float, a2: float, b2: float) -> float:
    """One difference, for use inside other compiled kernels; see `ciede2000`.

    Parameters
    ----------
    l1 : float
        L* of the first colour.
    a1 : float
        a* of the first colour.
    b1 : float
        b* of the first colour.
    l2 : float
        L* of the second colour.
    a2 : float
        a* of the second colour.
    b2 : float
        b* of the second colour.
    """
    # Step 1: C'ab (equations 2 to 6).
    c7 = _seventh((_length(a1, b1) + _length(a2, b2)) / 2)
    g = 0.5 * (1 - math.sqrt(c7 / (c7 + TWENTY_FIVE_7)))
    ap1, ap2 = (1 + g) * a1, (1 + g) * a2
    cp1, cp2 = _length(ap1, b1), _length(ap2, b2)
    # Step 2: differences (8 to 11).
    half, c, s = _hues(ap1, b1, cp1, ap2, b2, cp2)
    d_l, d_c, d_h = l2 - l1, cp2 - cp1, 2 * math.sqrt(cp1 * cp2) * half
    # Step 3: weights (12 to 22); cosines of multiples of the mean hue by their addition theorems.
    lm, cm = (l1 + l2) / 2, (cp1 + cp2) / 2
    cos2, sin2 = 2 * c * c - 1, 2 * s * c
    cos3, sin3 = c * (4 * c * c - 3), s * (3 - 4 * s * s)
    cos4, sin4 = 2 * cos2 * cos2 - 1, 2 * sin2 * cos2
    t = (
        1
        - 0.17 * (c * COS30 + s * SIN30)
        + 0.24 * cos2
        + 0.32 * (cos3 * COS6 - sin3 * SIN6)
        - 0.20 * (cos4 * COS63 + sin4 * SIN63)
    )
    s_l = 1 + 0.015 * (lm - 50) ** 2 / math.sqrt(20 + (lm - 50) ** 2)
    s_c = 1 + 0.045 * cm
    s_h = 1 + 0.015 * cm * t
    x, y, z = d_l / s_l, d_c / s_c, d_h / s_h
    return math.sqrt(max(0.0, x * x + y * y + z * z + _rotation(c, s, cm) * y * z))


@numba.njit(cache=True, nogil=True)
def _rotation(c: float, s: float, cm: float) -> float:
    """R_T; beyond 100 degrees from 275 it is under 1e-6, and no exponential is taken
    for nothing.
    """
    if s > 0.3:
        return 0.0
    hue = math.degrees(math.atan2(s, c)) % 360
    cm7 = _seventh(cm)
    turn = 30 * math.exp(-(((hue - 275) / 25) ** 2))
    return -math.sin(math.radians(2 * turn)) * 2 * math.sqrt(cm7 / (cm7 + TWENTY_FIVE_7))


def ciede2000(one: np.ndarray, two: np.ndarray) -> np.ndarray:
    """CIEDE2000 between two CIELAB arrays of the same shape (..., 3), kL = kC = kH = 1.

    Parameters
    ----------
    one : ndarray, shape (..., 3)
        The first colours.
    two : ndarray, shape (..., 3)
        The second ones.

    Returns
    -------
    ndarray of float64, shape (...)

    References
    ----------
    CIE 142-2001; Sharma, Wu, Dalal, Color Research and Application 30 (2005) 21-30.
    """
    if one.shape != two.shape or one.shape[-1] != 3:
        raise ValueError(
            f"two CIELAB arrays of one shape (..., 3) wanted: {one.shape}, {two.shape}"
        )
    flat_one = np.ascontiguousarray(one, dtype=np.float64).reshape(-1, 3)
    flat_two = np.ascontiguousarray(two, dtype=np.float64).reshape(-1, 3)
    out = np.empty(flat_one.shape[0])
    in_strips(out.size, lambda a, b: _rows(flat_one[a:b], flat_two[a:b], out[a:b]))
    return out.reshape(one.shape[:-1])
