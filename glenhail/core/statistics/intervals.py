"""95 % intervals for pictures, whose neighbouring pixels are not independent."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import scipy.fft
import scipy.special

from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles
from glenhail.core.statistics.cells import Cells

LEVEL = 0.95
TAIL = (1 - LEVEL) / 2
BLOCK = 6.5  # correlation lengths that a block is wide at least
MOST_BLOCKS = (4, 8)  # blocks each way, least and most


def block_mean(values: np.ndarray | Cells) -> Interval:
    """Mean of a map, with Student's interval over the means of square blocks.

    Blocks are 32 px, or smaller so that there are at least sixteen; correlation shorter
    than a block is thereby taken into account (Künsch 1989, blocks that do not
    overlap).

    Parameters
    ----------
    values : ndarray, shape (h, w), or Cells
        A map, or its cells.
    """
    cells = values if isinstance(values, Cells) else Cells.of(values)
    mean, means = cells.mean, cells.blocks
    if means.size < 2:
        return Interval(mean, mean, mean)
    error = float(means.std(ddof=1)) / np.sqrt(means.size)
    reach = float(scipy.special.stdtrit(means.size - 1, 1 - TAIL)) * error
    return Interval(mean, mean - reach, mean + reach)


def independent_samples(residual: Doubles, reach: int = 24) -> float:
    """Effective number of independent samples for a variance:

    N over the sum of squared autocorrelation.

    The autocorrelation is taken over lags up to `reach` px (or a quarter of the side);
    what noise alone adds to the sum of squares, one Nth a lag, is taken off.

    Parameters
    ----------
    residual : ndarray, shape (h, w), float64
        What is left of a plane once its falloff is taken off.
    reach : int
        The longest lag, px.
    """
    height, width = residual.shape
    down, across = min(reach, height // 4), min(reach, width // 4)
    size = [
        scipy.fft.next_fast_len(side + lags, real=True)
        for side, lags in ((height, down), (width, across))
    ]
    # Single precision is enough for a correlation, in half the time.
    covariance = scipy.fft.irfft2(
        np.abs(scipy.fft.rfft2(residual.astype(np.float32), size)) ** 2, size
    )
    rows, columns = np.r_[0 : down + 1, -down:0], np.r_[0 : across + 1, -across:0]
    rho = covariance[np.ix_(rows, columns)] / covariance[0, 0]
    squares = float((rho**2).sum()) - (rho.size - 1) / residual.size
    return float(residual.size / max(1.0, squares))


def deviation(rests: Sequence[Doubles], lost: int) -> Interval:
    """Root of the summed variances of residuals of one size, `lost` samples of which
    went to fitting.

    The interval follows how far the mean squares of blocks are apart (Student, on their
    logarithm), so that nothing is taken for granted of the noise: after a mosaic's
    interpolation its strength differs from pixel to pixel in step with the colour
    filter, and a formula for noise that is the same everywhere would promise too much
    (84 % held). Blocks are over six correlation lengths wide or more.

    Parameters
    ----------
    rests : sequence of ndarray, shape (h, w)
        Residuals of one size.
    lost : int
        Samples that went to fitting.
    """
    squares = np.asarray(sum(rest**2 for rest in rests))
    mean = float(squares.mean())
    if mean == 0:
        return Interval(0, 0, 0)
    length = max(math.sqrt(rest.size / independent_samples(rest)) for rest in rests if rest.any())
    # What is fitted takes more of coarse noise: as many areas of its correlation, for a Gaussian
    # twice that of its squares.
    taken = lost * max(1.0, 2 * length**2 - 1)
    value = math.sqrt(mean * squares.size / max(squares.size / 2, squares.size - taken))
    means = _block_means(squares, length)
    relative = float(means.std(ddof=1)) / mean / math.sqrt(means.size)
    reach = math.exp(float(scipy.special.stdtrit(means.size - 1, 1 - TAIL)) * relative / 2)
    return Interval(value, value / reach, value * reach)


def _block_means(squares: Doubles, length: float) -> Doubles:
    """Means over blocks of equal size, as many each way as leaves them wide enough for
    neighbours to be independent.
    """
    across = [
        int(np.clip(side // max(4.0, BLOCK * length), *MOST_BLOCKS)) for side in squares.shape
    ]
    down, right = (side // n for side, n in zip(squares.shape, across, strict=True))
    kept = squares[: down * across[0], : right * across[1]]
    return np.asarray(kept.reshape(across[0], down, across[1], right).mean(axis=(1, 3)).ravel())


def jackknife(whole: float, left_out: Doubles) -> Interval:
    """Interval from estimates that each leave out one group (Tukey 1958).

    Parameters
    ----------
    whole : float
        The estimate from everything.
    left_out : ndarray, shape (n,)
        Estimates that each leave out one part.
    """
    groups = left_out.size
    variance = (groups - 1) / groups * float(((left_out - left_out.mean()) ** 2).sum())
    reach = float(scipy.special.stdtrit(groups - 1, 1 - TAIL)) * np.sqrt(variance)
    return Interval(whole, whole - reach, whole + reach)
