"""A patch cut into parts, so that two outputs can be compared part by part."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from glenhail.core.colour.roots import kernel
from glenhail.core.picture import Doubles
from glenhail.core.statistics.cells import Cells, part_cuts


@kernel
def _colour_sums(
    values: np.ndarray, rows: np.ndarray, columns: np.ndarray, out: np.ndarray
) -> None:
    for r in range(rows.size - 1):
        for i in range(rows[r], rows[r + 1]):
            for c in range(columns.size - 1):
                one = two = three = 0.0
                part = values[i, columns[c] : columns[c + 1]]
                for j in range(part.shape[0]):
                    one += part[j, 0]
                    two += part[j, 1]
                    three += part[j, 2]
                out[r, c, 0] += one
                out[r, c, 1] += two
                out[r, c, 2] += three


def sums(values: np.ndarray | Cells) -> tuple[Doubles, Doubles]:
    """Sums and counts of a map over 4 x 4 parts in reading order, shape (16,) each;
    smaller maps have fewer parts.

    Parameters
    ----------
    values : ndarray, shape (h, w), or Cells
        A map, or its cells.
    """
    return (values if isinstance(values, Cells) else Cells.of(values)).parts


def colour_sums(pixels: np.ndarray) -> Doubles:
    """Sums of a picture over the same parts, shape (h, w, 3) becomes (16, 3).

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3)
        A picture's values.
    """
    down, across = part_cuts(*pixels.shape[:2])
    out = np.zeros((down.size - 1, across.size - 1, 3))
    _colour_sums(np.ascontiguousarray(pixels), down, across, out)
    return out.reshape(-1, 3)


def pseudo(whole: float, left_out: Doubles) -> tuple[float, ...]:
    """Jackknife pseudo-values (Tukey 1958) from estimates that each leave out one part.

    Parameters
    ----------
    whole : float
        The estimate from everything.
    left_out : ndarray, shape (n,)
        Estimates that each leave out one part.
    """
    n = left_out.size
    return (
        tuple(float(f"{n * whole - (n - 1) * v:.6g}") for v in left_out)
        if n > 1 and np.isfinite(left_out).all()
        else ()
    )


def of_mean(
    values: np.ndarray | Cells, told: Callable[[Doubles], Doubles] = lambda mean: mean
) -> tuple[float, ...]:
    """Pseudo-values of a function of a map's mean; `told` takes and gives arrays.

    Parameters
    ----------
    values : ndarray, shape (h, w), or Cells
        A map, or its cells.
    told : callable
        What is made of a mean.
    """
    total, count = sums(values)
    whole = float(told(np.array([total.sum() / count.sum()]))[0])
    return (
        pseudo(whole, told((total.sum() - total) / (count.sum() - count))) if total.size > 1 else ()
    )
