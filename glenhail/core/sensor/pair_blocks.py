"""The blocks of two frames of one exposure, summed in one pass over both mosaics."""

from __future__ import annotations

from dataclasses import dataclass

import numba
import numpy as np

from glenhail.core.parallel import in_strips
from glenhail.core.picture import Doubles

# Of a block's codes that may be cut off: a fiftieth of normal noise, cut at one end, makes its
# deviation 1.8 % too low, which is a twentieth of a stop; to leave such blocks out would choose
# those that chance made quieter.
CUT = 0.02
LEAST_ROWS = 2  # of blocks, worth a thread of their own


@dataclass(frozen=True)
class BlockSums:
    """By block, shape (down, across): means above black of both frames, their variances
    and covariance (codes, codes squared), and which have no more codes cut off than
    `CUT` allows.
    """

    one: Doubles
    other: Doubles
    variance_one: Doubles
    variance_other: Doubles
    covariance: Doubles
    whole: np.ndarray


def sums_of(
    one: np.ndarray, other: np.ndarray, side: int, black: float, ends: tuple[float, float]
) -> BlockSums:
    """BlockSums of two planes of one colour filter.

    Parameters
    ----------
    one, other : ndarray of uint16, shape (h, w)
        Codes, as views into their mosaics.
    side : int
        Pixels along a block's side; what is left over at the far edges is not read.
    black : float
        Code of no light.
    ends : tuple of float
        Codes at and beyond which one counts as cut off, below and above.
    """
    down, across = one.shape[0] // side, one.shape[1] // side
    made = np.empty((6, down, across))
    in_strips(down, lambda a, b: _sum(one, other, side, black, *ends, made, a, b), least=LEAST_ROWS)
    a, b, aa, bb, ab, whole = made
    return BlockSums(a, b, aa, bb, ab, whole > 0)


@numba.njit(cache=True, nogil=True, error_model="numpy")
def _sum(one, other, side, black, low, high, made, first, end):  # type: ignore[no-untyped-def]  # pragma: no cover
    count = side * side
    for r in range(first, end):
        for c in range(made.shape[2]):
            a = b = aa = bb = ab = np.int64(0)
            ends = 0
            for y in range(r * side, (r + 1) * side):
                for x in range(c * side, (c + 1) * side):
                    p, q = np.int64(one[y, x]), np.int64(other[y, x])
                    ends += int(p <= low or p >= high) + int(q <= low or q >= high)
                    a += p
                    b += q
                    aa += p * p
                    bb += q * q
                    ab += p * q
            made[0, r, c] = a / count - black
            made[1, r, c] = b / count - black
            # Whole numbers: nothing is lost before the division.
            made[2, r, c] = (count * aa - a * a) / (count * (count - 1.0))
            made[3, r, c] = (count * bb - b * b) / (count * (count - 1.0))
            made[4, r, c] = (count * ab - a * b) / (count * (count - 1.0))
            made[5, r, c] = 1.0 if ends <= CUT * 2 * count else 0.0


def shifted(
    one: np.ndarray, other: np.ndarray, side: int, ratio: float, blocks: np.ndarray
) -> tuple[Doubles, Doubles]:
    """Of chosen blocks: how much of their difference a shift of the scene between the
    two frames explains (0..1), and the variance of what is left, codes squared.

    A shift of part of a pixel shows as the scene's own slope in the difference of the
    two; both directions are fitted by least squares.

    Parameters
    ----------
    one, other : ndarray of uint16, shape (h, w)
        Codes of one colour filter.
    side : int
        Pixels along a block's side.
    ratio : float
        How much brighter the second frame is.
    blocks : ndarray of int, shape (n, 2)
        Which blocks: row and column.
    """
    explained, left = np.empty(len(blocks)), np.empty(len(blocks))
    if len(blocks):
        _fit(one, other, side, ratio, blocks, explained, left)
    return explained, left


@numba.njit(cache=True, nogil=True, error_model="numpy")
def _fit(one, other, side, ratio, blocks, explained, left):  # type: ignore[no-untyped-def]  # pragma: no cover
    height, width = one.shape
    n = side * side
    for i in range(blocks.shape[0]):
        top, start = blocks[i, 0] * side, blocks[i, 1] * side
        sd = sdd = sx = sy = sxx = syy = sxy = sxd = syd = 0.0
        for y in range(top, top + side):
            up, down = max(y - 1, 0), min(y + 1, height - 1)
            for x in range(start, start + side):
                before, after = max(x - 1, 0), min(x + 1, width - 1)
                d = one[y, x] - other[y, x] / ratio
                gx = 1.0 * one[y, after] - one[y, before]
                gx += (1.0 * other[y, after] - other[y, before]) / ratio
                gy = 1.0 * one[down, x] - one[up, x]
                gy += (1.0 * other[down, x] - other[up, x]) / ratio
                sd += d
                sdd += d * d
                sx += gx
                sy += gy
                sxx += gx * gx
                syy += gy * gy
                sxy += gx * gy
                sxd += gx * d
                syd += gy * d
        sdd -= sd * sd / n
        sxx -= sx * sx / n
        syy -= sy * sy / n
        sxy -= sx * sy / n
        sxd -= sx * sd / n
        syd -= sy * sd / n
        det = sxx * syy - sxy * sxy
        fitted = 0.0
        if det > 1e-9 * sxx * syy:
            fitted = (sxd * sxd * syy - 2 * sxd * syd * sxy + syd * syd * sxx) / det
        explained[i] = fitted / sdd if sdd > 0 else 0.0
        left[i] = (sdd - fitted) / (n - 3) / (1 + 1 / (ratio * ratio))
