"""Spectra of half overlapped Hann blocks (Welch 1967), and sums over rings of
frequencies: what every spectrum here is made of.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from itertools import pairwise

import numpy as np
import scipy.fft

from glenhail.core.picture import Doubles, Floats


def count(shape: tuple[int, ...], side: int) -> int:
    """How many half overlapped blocks of `side` px fit into a plane.

    Parameters
    ----------
    shape : tuple of int
        Rows and columns, perhaps channels.
    side : int
        Pixels a block's side.
    """
    return (shape[0] * 2 // side - 1) * (shape[1] * 2 // side - 1) if min(shape[:2]) >= side else 0


@cache
def window(side: int) -> Floats:
    """The two-dimensional Hann window, periodic, shape (side, side).

    Parameters
    ----------
    side : int
        Pixels a side.
    """
    hann = np.hanning(side + 1)[:side]
    return np.asarray(np.outer(hann, hann), dtype=np.float32)


@cache
def power_of(side: int) -> float:
    """The window's own power: 9/64 of its pixels.

    Parameters
    ----------
    side : int
        Pixels a side.
    """
    return float((window(side) ** 2).sum(dtype=np.float64))


def spectra(plane: np.ndarray, side: int, level: bool = True) -> np.ndarray:
    """Fourier transforms of a plane's blocks, in reading order; complex64, shape
    (blocks, side, side // 2 + 1).

    Each block's own mean is taken off first where `level` says so. Divided by
    `power_of`, their squares are densities over frequencies in cycles/px whose mean
    over the whole plane of them is the variance.

    Parameters
    ----------
    plane : ndarray, shape (h, w)
        One plane of a picture.
    side : int
        Pixels a block's side.
    level : bool
        Whether each block's mean is taken off.
    """
    # Single precision is enough (1e-6 of a spectrum), in half the time.
    single = np.asarray(plane, dtype=np.float32)
    views = np.lib.stride_tricks.sliding_window_view(single, (side, side))[
        :: side // 2, :: side // 2
    ].reshape(-1, side, side)
    blocks = views - views.mean(axis=(1, 2), keepdims=True) if level else views
    return np.asarray(scipy.fft.rfft2(blocks * window(side), axes=(1, 2)))


@cache
def frequencies(side: int) -> tuple[Doubles, Doubles]:
    """fy and fx of each bin of `spectra`, cycles/px.

    Parameters
    ----------
    side : int
        Pixels a side.
    """
    fy, fx = np.meshgrid(scipy.fft.fftfreq(side), scipy.fft.rfftfreq(side), indexing="ij")
    return fy, fx


@cache
def sides(side: int) -> Doubles:
    """How many bins of the whole plane of frequencies each bin of half of it stands
    for.

    Parameters
    ----------
    side : int
        Pixels a side.
    """
    found = np.full((side, side // 2 + 1), 2.0)
    found[:, 0] = found[:, -1] = 1
    return found


def groups_of(blocks: int, most: int) -> np.ndarray:
    """First block of each of up to `most` groups of neighbours.

    Parameters
    ----------
    blocks : int
        How many blocks there are.
    most : int
        How many at most.
    """
    groups = min(most, blocks)
    return (
        np.asarray(-(-np.arange(groups) * blocks // groups)) if groups else np.zeros(0, dtype=int)
    )


def by_groups(values: np.ndarray, starts: np.ndarray) -> np.ndarray:
    """Sums of blocks' values over groups that begin at `starts`; shape (groups, ...),
    double precision.

    Parameters
    ----------
    values : ndarray
        Values, any shape, not empty.
    starts : ndarray, shape (groups,)
        First block of each group.
    """
    member = np.zeros((starts.size, values.shape[0]), dtype=values.dtype)
    for g, (first, end) in enumerate(pairwise([*starts, values.shape[0]])):
        member[g, first:end] = 1
    sums = (member @ values.reshape(values.shape[0], -1)).reshape(starts.size, *values.shape[1:])
    return np.asarray(sums, dtype=np.complex128 if np.iscomplexobj(values) else np.float64)


@dataclass(frozen=True)
class Rings:
    """Bins sorted by ring: their order among those of a flattened spectrum, where each
    ring begins, and how many bins it has.
    """

    order: np.ndarray
    starts: np.ndarray
    count: np.ndarray

    @classmethod
    def of(cls, ring: np.ndarray, used: np.ndarray) -> Rings:
        """Rings by number, over the bins that are used; rings without a bin are left
        out.
        """
        places = np.flatnonzero(used.ravel())
        order = places[np.argsort(ring.ravel()[places], kind="stable")]
        _, starts, found = np.unique(ring.ravel()[order], return_index=True, return_counts=True)
        return cls(order, starts, found)

    def sums(self, values: np.ndarray) -> Doubles:
        """Over each ring; shape (..., side, side // 2 + 1) becomes (..., rings)."""
        flat = values.reshape(*values.shape[:-2], -1)[..., self.order]
        return np.asarray(np.add.reduceat(flat, self.starts, axis=-1, dtype=np.float64))

    def means(self, values: np.ndarray) -> Doubles:
        """The same, as means."""
        return np.asarray(self.sums(values) / self.count)
