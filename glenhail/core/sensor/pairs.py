"""Temporal noise from two frames of the same exposure: their difference has no scene,
no shading and no fixed pattern left.

EMVA 1288 release 4, section on temporal noise: the variance of the difference of two
frames, halved. Here in blocks, so that one pair of any still scene gives many levels.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.files.raw import Mosaic
from glenhail.core.picture import Doubles

SIDE = 24  # px of a block, in the plane of one colour filter
TOP = 0.97  # of the way from black to white, beyond which a code may be cut off
TEXTURE = 6.0  # spatial over temporal deviation from which on a block may have moved
LEAST = 64  # px of a block that a variance is taken of


@dataclass(frozen=True)
class Moments:
    """Blocks of one colour of a pair: mean above black and temporal variance, codes and
    codes squared, each of ``count`` pixels; all of shape (n,).

    ``cut`` is the share of blocks left out because codes were cut off at either end,
    ``moved`` of those with so much scene in them that a shift would look like noise.
    """

    means: Doubles
    variances: Doubles
    count: int
    cut: float
    moved: float

    @staticmethod
    def joined(parts: list[Moments]) -> Moments:
        """Several together.

        Parameters
        ----------
        parts : list of Moments
            At least one, of blocks of one size.
        """
        sizes = np.array([max(1, p.means.size) for p in parts], dtype=float)
        return Moments(
            np.concatenate([p.means for p in parts]),
            np.concatenate([p.variances for p in parts]),
            parts[0].count,
            float(np.average([p.cut for p in parts], weights=sizes)),
            float(np.average([p.moved for p in parts], weights=sizes)),
        )


def moments_of(one: Mosaic, two: Mosaic) -> dict[str, Moments]:
    """Moments by colour letter of two frames of the same exposure.

    A difference in brightness between the two, of a lamp or a shutter, is taken off.

    Parameters
    ----------
    one, two : Mosaic
        Of the same size and pattern.

    Raises
    ------
    ValueError
        If they are not.
    """
    if one.values.shape != two.values.shape or one.pattern != two.pattern:
        raise ValueError("two frames of a pair have one size and one pattern")
    found: dict[str, list[Moments]] = {}
    for row, letters in enumerate(one.pattern):
        for column, letter in enumerate(letters):
            planes = one.plane(row, column), two.plane(row, column)
            found.setdefault(letter, []).append(_moments(*planes, one.black, one.white))
    return {letter: Moments.joined(parts) for letter, parts in found.items()}


def _moments(one: np.ndarray, two: np.ndarray, black: float, white: float) -> Moments:
    a, b = (_blocks(p.astype(np.float64) - black) for p in (one, two))
    # Codes at either end may have been cut off there, which makes noise smaller.
    top, bottom = TOP * (white - black), -black
    whole = np.all([((p < top) & (p > bottom)).all(axis=1) for p in (a, b)], axis=0)
    light = max(float(a[whole].mean()), 1.0) if whole.any() else 1.0
    ratio = float(b[whole].mean()) / light if whole.any() and light > 1.0 else 1.0
    # Of a dark pair the ratio of two small means says nothing.
    ratio = ratio if abs(ratio - 1) < 0.1 and light > 8 else 1.0
    apart, middle = a - b / ratio, (a + b / ratio) / 2
    variances = apart.var(axis=1, ddof=1) / (1 + ratio**-2)
    spatial = middle.var(axis=1, ddof=1)
    still = spatial <= TEXTURE**2 * np.maximum(variances, 1 / 12)
    kept = whole & still
    return Moments(
        middle.mean(axis=1)[kept],
        variances[kept],
        a.shape[1],
        float(1 - whole.mean()),
        float((whole & ~still).mean()),
    )


def _blocks(plane: Doubles) -> Doubles:
    """Blocks of a plane, shape (n, pixels)."""
    side = min(SIDE, *plane.shape)
    down, across = plane.shape[0] // side, plane.shape[1] // side
    cut = plane[: down * side, : across * side].reshape(down, side, across, side)
    return np.ascontiguousarray(cut.transpose(0, 2, 1, 3).reshape(down * across, side * side))
