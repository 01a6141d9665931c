"""Sums of a map over cells: means of a patch's blocks and parts need no more, so the
map itself need not be kept.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from glenhail.core.colour.roots import kernel
from glenhail.core.parallel import MIN_ROWS, in_strips
from glenhail.core.picture import Doubles, Floats

ACROSS = 4  # parts across and down
LEAST_BLOCKS, WIDEST_BLOCK = 16, 32  # blocks that there are at least, px that one is wide at most
IN_CACHE = (
    64  # rows that are made at a time, so that they are summed while the processor still has them
)
Cuts = tuple[np.ndarray, np.ndarray]
Fill = Callable[[int, int, Floats], None]


@lru_cache(maxsize=64)
def part_cuts(height: int, width: int) -> Cuts:
    """Where a map is cut into 4 x 4 parts, down and across; smaller maps have fewer.

    Parameters
    ----------
    height : int
        Pixels down, at least 1.
    width : int
        Pixels across, at least 1.
    """
    down, across = (np.unique(np.arange(ACROSS + 1) * side // ACROSS) for side in (height, width))
    return down, across


@lru_cache(maxsize=64)
def block_cuts(height: int, width: int) -> tuple[Cuts, int]:
    """Where it is cut into square blocks of equal size, and their side; the last cut is
    the map's end.

    Parameters
    ----------
    height : int
        Pixels down, at least 1.
    width : int
        Pixels across, at least 1.
    """
    side = int(
        max(2, min(WIDEST_BLOCK, np.sqrt(height * width / LEAST_BLOCKS), height // 2, width // 2))
    )
    down, across = (np.unique([*(np.arange(n // side + 1) * side), n]) for n in (height, width))
    return (down, across), side


@lru_cache(maxsize=64)
def _all_cuts(height: int, width: int) -> Cuts:
    down, across = (
        np.union1d(*cuts)
        for cuts in zip(part_cuts(height, width), block_cuts(height, width)[0], strict=True)
    )
    return np.asarray(down, dtype=np.int64), np.asarray(across, dtype=np.int64)


@dataclass(frozen=True)
class Cells:
    """A map's shape, (height, width), and its sums between all cuts of its blocks and
    of its parts.
    """

    shape: tuple[int, int]
    sums: Doubles

    @property
    def size(self) -> int:
        """Values of the map."""
        return self.shape[0] * self.shape[1]

    @property
    def mean(self) -> float:
        """Mean of the map."""
        return float(self.sums.sum()) / self.size

    def over(self, cuts: Cuts) -> Doubles:
        """Sums between some of the cuts, shape (len(down) - 1, len(across) - 1)."""
        down, across = (
            np.searchsorted(own, some[:-1])
            for own, some in zip(_all_cuts(*self.shape), cuts, strict=True)
        )
        return np.asarray(np.add.reduceat(np.add.reduceat(self.sums, down, axis=0), across, axis=1))

    @property
    def parts(self) -> tuple[Doubles, Doubles]:
        """Sums and counts of 4 x 4 parts in reading order, shape (16,) each; smaller
        maps have fewer.
        """
        cuts = part_cuts(*self.shape)
        return self.over(cuts).ravel(), np.outer(*(np.diff(c) for c in cuts)).ravel().astype(
            np.float64
        )

    @property
    def blocks(self) -> Doubles:
        """Means of the square blocks, shape (rows, columns); what is left over at the
        ends belongs to none.
        """
        cuts, side = block_cuts(*self.shape)
        rows, columns = (n // side for n in self.shape)
        return np.asarray(self.over(cuts)[:rows, :columns] / side**2)

    @classmethod
    def of(cls, values: np.ndarray) -> Cells:
        """Those of a map that there is, shape (h, w)."""
        values = np.ascontiguousarray(values)
        cuts = _all_cuts(*values.shape)
        return _summed(
            values.shape, 1, lambda first, end, sums: _add(values[first:end], first, *cuts, sums[0])
        )[0]


def gathered(shape: tuple[int, int], count: int, fill: Fill, rows: int = IN_CACHE) -> list[Cells]:
    """Cells of `count` maps that are made some rows at a time and not kept.

    `fill` is called with the first row, the end, and where to write the maps' rows,
    float32 of shape (count, end - first, width).

    Parameters
    ----------
    shape : tuple of int
        Rows and columns.
    count : int
        How many.
    fill : callable
        Writes some rows of each map.
    rows : int
        How many rows at a time.
    """

    cuts = _all_cuts(*shape)

    def work(first: int, end: int, sums: Doubles) -> None:
        buffer = np.empty((count, min(rows, end - first), shape[1]), dtype=np.float32)
        for start in range(first, end, rows):
            part = buffer[:, : min(rows, end - start)]
            fill(start, start + part.shape[1], part)
            for i in range(count):
                _add(part[i], start, *cuts, sums[i])

    return _summed(shape, count, work, IN_CACHE)


def _summed(
    shape: tuple[int, int],
    count: int,
    work: Callable[[int, int, Doubles], None],
    least: int = MIN_ROWS,
) -> list[Cells]:
    """Sums from strips on all processors, added in the strips' order: the same whatever
    thread is first.
    """
    down, across = _all_cuts(*shape)
    found: dict[int, Doubles] = {}

    def strip(first: int, end: int) -> None:
        sums = np.zeros((count, len(down) - 1, len(across) - 1))
        work(first, end, sums)
        found[first] = sums

    in_strips(shape[0], strip, least)
    total = sum(found[first] for first in sorted(found))
    return [Cells(shape, sums) for sums in np.asarray(total)]


@kernel
def _add(
    values: np.ndarray, first: int, down: np.ndarray, across: np.ndarray, out: np.ndarray
) -> None:
    r = 0
    for i in range(values.shape[0]):
        while first + i >= down[r + 1]:
            r += 1
        for c in range(across.size - 1):
            # A slice, since an index that might be negative keeps a loop from being vectorised.
            part = values[i, across[c] : across[c + 1]]
            total = 0.0
            for j in range(part.size):
                total += part[j]
            out[r, c] += total
