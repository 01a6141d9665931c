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
from glenhail.core.sensor.pair_blocks import BlockSums, shifted, sums_of

SIDE = 24  # px of a block, in the plane of one colour filter
TOP = 0.97  # of the way from black to white, beyond which a code may be cut off
TEXTURE = 6.0  # spatial over temporal deviation from which on a shift would look like noise
MOVED = 14.0  # of Fisher's ratio with two degrees of freedom: chance brings one in a million
SMALLEST_SIDE, BLOCKS_ACROSS = 8, 4  # of a spot that is too small for whole blocks


@dataclass(frozen=True)
class Moments:
    """Blocks of one colour of a pair: mean above black and temporal variance, codes and
    codes squared, each of ``count`` pixels; all of shape (n,).

    ``cut`` is the share of blocks left out because codes were cut off at either end,
    ``moved`` of those whose scene moved between the two frames. Where there is much
    scene in a block, what is left of a smaller shift is taken off its variance.
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


def moments_of(one: Mosaic, two: Mosaic, side: int = SIDE) -> dict[str, Moments]:
    """Moments by colour letter of two frames of the same exposure.

    A difference in brightness between the two, of a lamp or a shutter, is taken off.

    Parameters
    ----------
    one, two : Mosaic
        Of the same size and pattern.
    side : int
        Pixels along a block's side, in the plane of one colour filter.

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
            found.setdefault(letter, []).append(_moments(*planes, one.black, one.white, side))
    return {letter: Moments.joined(parts) for letter, parts in found.items()}


def side_for(shape: tuple[int, ...]) -> int:
    """The side of a spot's blocks: smaller ones where it would hold too few.

    Parameters
    ----------
    shape : tuple of int
        Of the plane of one colour filter.
    """
    return max(SMALLEST_SIDE, min(SIDE, min(shape) // BLOCKS_ACROSS))


def _moments(one: np.ndarray, two: np.ndarray, black: float, white: float, side: int) -> Moments:
    side = min(side, *one.shape)
    # Codes at either end may have been cut off there, which makes noise smaller.
    sums = sums_of(one, two, side, black, (0.0, TOP * (white - black) + black))
    ratio = _ratio(sums)
    variances = sums.variance_one + sums.variance_other / ratio**2 - 2 * sums.covariance / ratio
    variances = variances / (1 + ratio**-2)
    spatial = (sums.variance_one + sums.variance_other / ratio**2 + 2 * sums.covariance / ratio) / 4
    textured = sums.whole & (spatial > TEXTURE**2 * np.maximum(variances, 1 / 12))
    places = np.argwhere(textured)
    explained, left = shifted(one, two, side, ratio, places)
    moved = explained / np.maximum(1 - explained, 1e-12) * (side**2 - 3) / 2 > MOVED
    variances[textured] = left
    kept = sums.whole.copy()
    kept[tuple(places[moved].T)] = False
    return Moments(
        ((sums.one + sums.other / ratio) / 2)[kept],
        variances[kept],
        side**2,
        float(1 - sums.whole.mean()),
        float(moved.sum() / sums.whole.size),
    )


def _ratio(sums: BlockSums) -> float:
    """How much brighter the second frame is, over all blocks that are whole."""
    if not sums.whole.any():
        return 1.0
    light, other = float(sums.one[sums.whole].mean()), float(sums.other[sums.whole].mean())
    # Of a dark pair the ratio of two small means says nothing.
    return other / light if light > 8 and abs(other / light - 1) < 0.1 else 1.0
