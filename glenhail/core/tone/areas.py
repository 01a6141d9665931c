"""Sums over a grid of areas in one pass over a picture, where the grid's lines fall on
whole pixels.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from glenhail.core.colour.roots import F, kernel, power
from glenhail.core.parallel import in_strips
from glenhail.core.picture import Doubles, Floats

PARTS = 4  # across and down, of each area
# IEC 61966-2-1.
_EXPONENT, _SCALE, _OFFSET, _LINEAR, _KNEE = F(1 / 2.4), F(1.055), F(0.055), F(12.92), F(0.0031308)


@dataclass(frozen=True)
class Sums:
    """Of each area, shape (down, across, 3) and by channel: mean linear light, mean of
    encoded values, shares of values at black and at white; and mean linear light of its
    sixteen parts, shape (4 down, 4 across, 3).
    """

    light: Doubles
    encoded: Doubles
    black: Doubles
    white: Doubles
    parts: Doubles


@kernel
def _encode(values: Floats) -> None:
    for i in range(values.size):
        v = values[i]
        size = max(abs(v), F(1e-12))
        code = _SCALE * power(size, _EXPONENT) - _OFFSET if size > _KNEE else _LINEAR * size
        values[i] = code if v >= 0 else -code


@kernel
def _gather(
    pixels: Floats,
    row_of: np.ndarray,
    cuts: np.ndarray,
    black: float,
    white: float,
    coded: bool,
    light: np.ndarray,
    encoded: np.ndarray,
    ends: np.ndarray,
) -> None:
    low, high, width = F(black), F(white), pixels.shape[1]
    planes = np.empty((3, width), dtype=np.float32)
    for y in range(pixels.shape[0]):
        r, row = row_of[y], pixels[y]
        # Channels beside each other, so that what follows is done to several pixels at a time.
        for x in range(width):
            planes[0, x], planes[1, x], planes[2, x] = row[x, 0], row[x, 1], row[x, 2]
        for k in range(3):
            for c in range(cuts.size - 1):
                part = planes[k, cuts[c] : cuts[c + 1]]
                total, dark, bright = 0.0, 0, 0
                for x in range(part.size):
                    total += part[x]
                    dark += part[x] <= low
                    bright += part[x] >= high
                light[r, c, k] += total
                ends[r, c, 0, k] += dark
                ends[r, c, 1, k] += bright
        if coded:
            _encode(planes.reshape(-1))
            for k in range(3):
                for c in range(cuts.size - 1):
                    part = planes[k, cuts[c] : cuts[c + 1]]
                    total = 0.0
                    for x in range(part.size):
                        total += part[x]
                    encoded[r, c, k] += total


def sums(
    pixels: Floats, rows: np.ndarray, columns: np.ndarray, black: float, white: float, coded: bool
) -> Sums:
    """Sums over areas whose lines are given in whole pixels;

    `coded` adds the encoded values.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    rows : ndarray, shape (n + 1,)
        Where the areas are cut, down.
    columns : ndarray, shape (n + 1,)
        Where the areas are cut, across.
    black : float
        At or below which a channel is cut off.
    white : float
        At or above which it is.
    coded : bool
        Whether encoded values are summed too.
    """
    fine = [_quartered(cuts) for cuts in (rows, columns)]
    row_of = np.repeat(np.arange(fine[0].size - 1), np.diff(fine[0]))
    across = fine[1] - fine[1][0]
    part = pixels[rows[0] : rows[-1], columns[0] : columns[-1]]
    shape = (fine[0].size - 1, fine[1].size - 1)
    pieces: list[tuple[np.ndarray, np.ndarray, np.ndarray]] = []

    def strip(start: int, end: int) -> None:
        made = np.zeros((*shape, 3)), np.zeros((*shape, 3)), np.zeros((*shape, 2, 3))
        _gather(part[start:end], row_of[start:end], across, black, white, coded, *made)
        pieces.append(made)

    in_strips(part.shape[0], strip)
    light, encoded, ends = (np.sum([p[i] for p in pieces], axis=0) for i in range(3))
    count = np.outer(*(np.diff(cuts) for cuts in fine)).astype(np.float64)
    whole = _gathered(count)
    share = _gathered(ends) / whole[..., None, None]
    return Sums(
        _gathered(light) / whole[..., None],
        _gathered(encoded) / whole[..., None],
        share[..., 0, :],
        share[..., 1, :],
        light / count[..., None],
    )


def _quartered(cuts: np.ndarray) -> np.ndarray:
    """Each interval in four, on whole pixels."""
    inner = [a + (b - a) * np.arange(PARTS) // PARTS for a, b in pairwise(cuts)]
    return np.asarray(np.concatenate([*inner, cuts[-1:]]), dtype=np.int64)


def _gathered(values: np.ndarray) -> Doubles:
    """Sums of parts as sums of areas."""
    down, across = values.shape[0] // PARTS, values.shape[1] // PARTS
    return np.asarray(
        values.reshape(down, PARTS, across, PARTS, *values.shape[2:]).sum(axis=(1, 3)),
        dtype=np.float64,
    )
