"""A patch cut into parts, so that two outputs can be compared part by part."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from glenhail.core.picture import Doubles

ACROSS = 4  # parts across and down


def sums(values: np.ndarray) -> tuple[Doubles, Doubles]:
    """Sums and counts of a map over 4 x 4 parts in reading order, shape (16,) each; smaller maps have fewer parts."""
    cuts = [np.unique(np.arange(ACROSS) * side // ACROSS) for side in values.shape]
    rows = np.add.reduceat(values, cuts[0], axis=0, dtype=np.float64)
    total = np.add.reduceat(rows, cuts[1], axis=1)
    sides = [np.diff([*cut, side]) for cut, side in zip(cuts, values.shape, strict=True)]
    return total.ravel(), np.outer(*sides).ravel().astype(np.float64)


def pseudo(whole: float, left_out: Doubles) -> tuple[float, ...]:
    """Jackknife pseudo-values (Tukey 1958) from estimates that each leave out one part."""
    n = left_out.size
    return tuple(float(f"{n * whole - (n - 1) * v:.6g}") for v in left_out) if n > 1 and np.isfinite(left_out).all() else ()


def of_mean(values: np.ndarray, told: Callable[[Doubles], Doubles] = lambda mean: mean) -> tuple[float, ...]:
    """Pseudo-values of a function of a map's mean; `told` takes and gives arrays."""
    total, count = sums(values)
    whole = float(told(np.array([total.sum() / count.sum()]))[0])
    return pseudo(whole, told((total.sum() - total) / (count.sum() - count))) if total.size > 1 else ()
