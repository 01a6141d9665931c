"""CIEDE2000 colour difference (CIE 142-2001), formulas as in Sharma, Wu and Dalal 2005."""

from __future__ import annotations

import math

import numba
import numpy as np

from glenhail.core.strips import in_strips

TWENTY_FIVE_7 = 25.0**7


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
def de00(l1: float, a1: float, b1: float, l2: float, a2: float, b2: float) -> float:
    """One difference, for use inside other compiled kernels; see `ciede2000`."""
    # Step 1: C'ab and h'ab (equations 2 to 7).
    c7 = _seventh((_length(a1, b1) + _length(a2, b2)) / 2)
    g = 0.5 * (1 - math.sqrt(c7 / (c7 + TWENTY_FIVE_7)))
    ap1, ap2 = (1 + g) * a1, (1 + g) * a2
    cp1, cp2 = _length(ap1, b1), _length(ap2, b2)
    hp1, hp2 = _hue(ap1, b1), _hue(ap2, b2)
    # Step 2: differences (8 to 11).
    dh = hp2 - hp1
    if cp1 * cp2 == 0.0:
        dh = 0.0
    elif dh > 180:
        dh -= 360
    elif dh < -180:
        dh += 360
    d_l, d_c = l2 - l1, cp2 - cp1
    d_h = 2 * math.sqrt(cp1 * cp2) * math.sin(math.radians(dh / 2))
    # Step 3: weights (12 to 22).
    lm, cm = (l1 + l2) / 2, (cp1 + cp2) / 2
    hm = hp1 + hp2
    if cp1 * cp2 != 0.0:
        if abs(hp1 - hp2) <= 180:
            hm /= 2
        elif hm < 360:
            hm = (hm + 360) / 2
        else:
            hm = (hm - 360) / 2
    t = (
        1
        - 0.17 * math.cos(math.radians(hm - 30))
        + 0.24 * math.cos(math.radians(2 * hm))
        + 0.32 * math.cos(math.radians(3 * hm + 6))
        - 0.20 * math.cos(math.radians(4 * hm - 63))
    )
    turn = 30 * math.exp(-(((hm - 275) / 25) ** 2))
    cm7 = _seventh(cm)
    r_c = 2 * math.sqrt(cm7 / (cm7 + TWENTY_FIVE_7))
    s_l = 1 + 0.015 * (lm - 50) ** 2 / math.sqrt(20 + (lm - 50) ** 2)
    s_c = 1 + 0.045 * cm
    s_h = 1 + 0.015 * cm * t
    r_t = -math.sin(math.radians(2 * turn)) * r_c
    x, y, z = d_l / s_l, d_c / s_c, d_h / s_h
    return math.sqrt(max(0.0, x * x + y * y + z * z + r_t * y * z))


def ciede2000(one: np.ndarray, two: np.ndarray) -> np.ndarray:
    """CIEDE2000 between two CIELAB arrays of the same shape (..., 3), kL = kC = kH = 1.

    Returns
    -------
    ndarray of float64, shape (...)

    References
    ----------
    CIE 142-2001; Sharma, Wu, Dalal, Color Research and Application 30 (2005) 21-30.
    """
    if one.shape != two.shape or one.shape[-1] != 3:
        raise ValueError(f"two CIELAB arrays of one shape (..., 3) wanted: {one.shape}, {two.shape}")
    flat_one = np.ascontiguousarray(one, dtype=np.float64).reshape(-1, 3)
    flat_two = np.ascontiguousarray(two, dtype=np.float64).reshape(-1, 3)
    out = np.empty(flat_one.shape[0])
    in_strips(out.size, lambda a, b: _rows(flat_one[a:b], flat_two[a:b], out[a:b]))
    return out.reshape(one.shape[:-1])
