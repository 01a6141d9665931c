"""What a maker did to raw codes before they were written: black cut off, noise
filtered, codes stretched. What is read from such files says less of the sensor than of
that.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from glenhail.core.files.raw import Mosaic

WINDOW = 512  # px of a plane each way that are looked at
DARK = 0.01  # of the range, up to which a frame counts as dark
AT_BOTTOM = 0.2  # of a dark frame's pixels that lie on its lowest code once black is cut off
LEAST_NOISE = 0.24  # codes squared, below which rounding alone puts many on one code: EMVA 1288
ALIKE = 0.03  # correlation of neighbours of one colour from which on noise was filtered
SURE = 5.0  # standard errors
HOLES = 0.1  # of the codes between a frame's tenths that are never used
LEAST_CODES, OFTEN = 100, 20  # codes between, and pixels for each of them


def raw_doubts(one: Mosaic, two: Mosaic) -> list[str]:
    """In words, what two frames of one exposure betray.

    The limits are common practice, no source.

    Parameters
    ----------
    one, two : Mosaic
        Of the same size and pattern.
    """
    planes = [
        (_middle(one.plane(row, column)), _middle(two.plane(row, column)))
        for row in range(len(one.pattern))
        for column in range(len(one.pattern[0]))
    ]
    found = (
        _cut_off([a for a, _ in planes], one),
        _filtered([a.astype(np.float64) - b for a, b in planes]),
        _stretched([a for a, _ in planes], one),
    )
    return [words for words in found if words]


def _middle(plane: np.ndarray) -> np.ndarray:
    """The middle of a plane: what was done to codes was done to all of them."""
    down, across = (max(0, (n - WINDOW) // 2) for n in plane.shape)
    return plane[down : down + WINDOW, across : across + WINDOW]


def _cut_off(planes: Sequence[np.ndarray], of: Mosaic) -> str:
    values = np.concatenate([p.ravel() for p in planes])
    if values.mean() - of.black > DARK * (of.white - of.black):
        return ""
    share = float((values == values.min()).mean())
    if share < AT_BOTTOM or values.var() < LEAST_NOISE:
        return ""
    return (
        f"black is cut off: {100 * share:.0f} % of a dark frame lie on its lowest code, so that"
        " read noise and the darkest tones can not be read"
    )


def _filtered(apart: Sequence[np.ndarray]) -> str:
    """Noise of a sensor knows nothing of its neighbours; what was smoothed does."""
    most = 0.0
    for axis in (0, 1):
        sums = np.zeros(3)
        for plane in apart:
            rest = plane - plane.mean()
            first, second = (
                np.take(rest, range(start, rest.shape[axis] - 1 + start), axis) for start in (0, 1)
            )
            sums += ((first * second).sum(), (rest**2).mean() * first.size, first.size)
        if sums[1] > 0:
            alike = sums[0] / sums[1]
            if abs(alike) > max(ALIKE, SURE / np.sqrt(sums[2])):
                most = max(most, alike, key=abs)
    if not most:
        return ""
    return (
        f"noise was filtered before the file was written: neighbours of one colour go together by"
        f" {most:.2f}, so that a pixel's noise is told too {'low' if most > 0 else 'high'}"
    )


def _stretched(planes: Sequence[np.ndarray], of: Mosaic) -> str:
    for plane in planes:
        low, high = np.quantile(plane, (0.1, 0.9)).astype(int)
        between = high - low + 1
        if between < LEAST_CODES or plane.size < OFTEN * between or high >= of.white:
            continue
        counts = np.bincount(plane.ravel()[(plane.ravel() >= low) & (plane.ravel() <= high)] - low)
        holes = 1 - float((counts > 0).mean())
        if holes > HOLES:
            return (
                f"codes were stretched: {100 * holes:.0f} % of those between are never used, so"
                " that codes are coarser than they look"
            )
    return ""
