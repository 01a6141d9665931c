"""Colour error against a truth: CIEDE2000."""

from __future__ import annotations

import math

import numba
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.difference import de00
from glenhail.core.colour.lab import EPSILON, KAPPA
from glenhail.core.colour.spaces import BT709_TO_XYZ
from glenhail.core.colour.srgb import ENCODED_KNEE, GAMMA, OFFSET, SLOPE
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.intervals import block_mean
from glenhail.core.measures.places import of_mean
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import CODES, Pair, Subject
from glenhail.core.picture import Floats, Rect
from glenhail.core.strips import in_strips

LEAST_SIDE = 4
# From linear RGB to X/Xn, Y/Yn, Z/Zn.
RELATIVE = BT709_TO_XYZ / BT709_TO_XYZ.sum(axis=1, keepdims=True)


# The two curves as tables with linear interpolation between entries; the error in CIELAB stays
# below 5e-5. Beyond the tables' ends the curves themselves are used.
DECODED = srgb.decode(np.arange(4097) / 4096)
_STEPS = np.arange(16385) / 16384
ROOTS = np.where(_STEPS > EPSILON, np.cbrt(_STEPS), KAPPA * _STEPS + 4 / 29)


@numba.njit(cache=True, nogil=True)
def _looked_up(table: np.ndarray, at: float) -> float:
    i = int(at)
    return float(table[i] + (at - i) * (table[i + 1] - table[i]))


@numba.njit(cache=True, nogil=True)
def _decode(code: float) -> float:
    v = code / CODES
    if 0.0 <= v < 1.0:
        return _looked_up(DECODED, v * 4096)
    a = abs(v)
    linear = a / SLOPE if a <= ENCODED_KNEE else ((a + OFFSET) / (1 + OFFSET)) ** GAMMA
    return math.copysign(linear, v)


@numba.njit(cache=True, nogil=True)
def _f(t: float) -> float:
    if t < EPSILON + 1e-4:
        return math.exp(math.log(t) / 3) if t > EPSILON else KAPPA * t + 4 / 29
    return _looked_up(ROOTS, t * 16384) if t < 1.0 else math.exp(math.log(t) / 3)


@numba.njit(cache=True, nogil=True)
def _lab(red: float, green: float, blue: float, m: np.ndarray) -> tuple[float, float, float]:
    r, g, b = _decode(red), _decode(green), _decode(blue)
    x = _f(m[0, 0] * r + m[0, 1] * g + m[0, 2] * b)
    y = _f(m[1, 0] * r + m[1, 1] * g + m[1, 2] * b)
    z = _f(m[2, 0] * r + m[2, 1] * g + m[2, 2] * b)
    return 116 * y - 16, 500 * (x - y), 200 * (y - z)


@numba.njit(cache=True, nogil=True)
def _map(one: np.ndarray, two: np.ndarray, m: np.ndarray, out: np.ndarray) -> None:
    for row in range(one.shape[0]):
        for column in range(one.shape[1]):
            l1, a1, b1 = _lab(one[row, column, 0], one[row, column, 1], one[row, column, 2], m)
            l2, a2, b2 = _lab(two[row, column, 0], two[row, column, 1], two[row, column, 2], m)
            out[row, column] = de00(l1, a1, b1, l2, a2, b2)


def de00_map(pair: Pair) -> Floats:
    """CIEDE2000 of every pixel, float32 (h, w), in one pass: CIELAB of a large picture would take much room."""
    out = np.empty((pair.output.shape[0], pair.output.shape[1]), dtype=np.float32)
    in_strips(out.shape[0], lambda a, b: _map(pair.output[a:b], pair.truth[a:b], RELATIVE, out[a:b]))
    return out


def de00_mean(subject: Subject, rect: Rect) -> Measured:
    """Mean CIEDE2000 against the truth; its 95th percentile among the details."""
    pair = subject.pair(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} x {LEAST_SIDE} frame px")
    differences = _differences(subject, rect)
    found = block_mean(differences)
    return Measured(found.value, max(0.0, found.low), found.high, pair.grid, parts=of_mean(differences))


def _differences(subject: Subject, rect: Rect) -> Floats:
    return subject.once("differences", rect, lambda: de00_map(subject.pair(rect)))


def de00_p95(subject: Subject, rect: Rect) -> Measured:
    """95th percentile of CIEDE2000 against the truth: how far the worst places are off."""
    pair = subject.pair(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} x {LEAST_SIDE} frame px")
    differences = _differences(subject, rect)
    value = float(np.percentile(differences, 95))
    # The interval of the share that lies above (it varies from block to block), carried over to the quantile (Woodruff 1952).
    share = block_mean((differences > value).astype(np.float32))
    levels = np.clip([1 - share.high, 1 - share.low], 0, 1)
    low, high = np.percentile(differences, 100 * levels)
    return Measured(value, float(min(low, value)), float(max(high, value)), pair.grid)
