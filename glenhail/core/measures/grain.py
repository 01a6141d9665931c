"""The grain of noise and whether it lies evenly: both from the noise's own
autocorrelation.
"""

from __future__ import annotations

import math

import numpy as np
import scipy.fft
import scipy.special

from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.noise import GRID, luma_rest
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.residual import FITTED
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Doubles, Rect
from glenhail.core.statistics.intervals import TAIL

MOST_SIDE = 1024  # px of a patch's middle that are looked at, at most
REACH = 48  # lags that are looked at, px, at most
# A window of so many correlation lengths holds all but 0.2 % of a Gaussian correlation (Sokal 1997
# for the automatic window).
WINDOW = 1.4
TILE = 16  # output px
LEAST_TILES = 9
BIAS = 0.05  # relative error of what even noise is expected to give (bench coverage)


def autocorrelation(rest: Doubles) -> Doubles:
    """Normalised autocorrelation over lags -r..r both ways, r at most 48 px and a
    quarter of the side; its middle is 1.

    Unbiased in the number of pairs; what the fitted falloff takes off is left to the
    caller.

    Parameters
    ----------
    rest : ndarray, shape (h, w), float64
        What is left of a plane once its falloff is taken off.
    """
    height, width = rest.shape
    size = [scipy.fft.next_fast_len(side + min(REACH, side // 4), real=True) for side in rest.shape]
    covariance = scipy.fft.irfft2(np.abs(scipy.fft.rfft2(rest.astype(np.float32), size)) ** 2, size)
    down, across = min(REACH, height // 4), min(REACH, width // 4)
    rows, columns = np.arange(-down, down + 1), np.arange(-across, across + 1)
    pairs = np.outer(height - np.abs(rows), width - np.abs(columns))
    found = covariance[np.ix_(rows, columns)] / pairs
    return np.asarray(found / found[down, across])


def _middle(rest: Doubles) -> Doubles:
    top, left = (max(0, (side - MOST_SIDE) // 2) for side in rest.shape)
    return rest[top : top + MOST_SIDE, left : left + MOST_SIDE]


def _correlation(subject: Subject, rect: Rect) -> Doubles:
    def find() -> Doubles:
        rest = _middle(luma_rest(subject, rect))
        if not rest.any():
            raise NotMeasurable("no noise at all: it has no grain")
        return autocorrelation(rest)

    return subject.once("autocorrelation", rect, find)


def area_under(rho: Doubles, samples: int) -> tuple[float, int]:
    """Area under an autocorrelation, px squared, and the number of lags it was summed
    over.

    The window grows until it is `WINDOW` correlation lengths wide; each lag is low by
    the share that the fitted falloff took.

    Parameters
    ----------
    rho : ndarray, shape (2 r + 1, 2 r + 1)
        Autocorrelation over lags, its middle 1.
    samples : int
        How many pixels it was taken from.

    Raises
    ------
    NotMeasurable
        If the correlation reaches beyond the lags that the patch gives.
    """
    down, across = rho.shape[0] // 2, rho.shape[1] // 2
    y, x = np.mgrid[-down : down + 1, -across : across + 1]
    distance = np.hypot(y, x)
    for reach in np.arange(1.5, min(down, across) + 0.25, 0.5):
        inside = distance <= reach
        lags = int(inside.sum())
        taken = FITTED * lags / samples
        if taken > 0.5:
            break
        area = float(rho[inside].sum()) / (1 - taken)
        if reach >= WINDOW * math.sqrt(max(area, 0.0)):
            return max(area, 0.0), lags
    raise NotMeasurable("the grain is too coarse for this patch; draw a larger one")


def grain(subject: Subject, rect: Rect) -> MeasuredValue:
    """Size of the noise's grain, frame px: square root of the area under its
    autocorrelation.

    White noise has 1 output px; white noise blurred by a Gaussian of s px has sqrt(4
    pi) s. The interval follows the error of a windowed sum over an autocorrelation
    (Madras and Sokal 1988, eq. B.17, carried over to two dimensions).

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    rho = _correlation(subject, rect)
    samples = _middle(luma_rest(subject, rect)).size
    area, lags = area_under(rho, samples)
    length, error = math.sqrt(area), math.sqrt(lags / 2 / samples)
    scale = (subject.output.mapping.sx + subject.output.mapping.sy) / 2
    value = length / scale
    details = {
        "output_px": length,
        "per_mille_of_picture_height": 1000 * value / subject.source.height,
    }
    return MeasuredValue(
        value, value * math.exp(-1.96 * error), value * math.exp(1.96 * error), GRID, details
    )


def unevenness(subject: Subject, rect: Rect) -> MeasuredValue:
    """How far noise varies from tile to tile, over what even noise of the same grain
    gives: 1 is even.

    Standard deviation of the logarithm of local variance over tiles of 16 output px.
    For even noise of n effective samples a tile it is the square root of the trigamma
    function at n / 2; n follows from how far squares of near pixels go together, beyond
    what those of pixels farther apart do (which is unevenness itself), so that
    interpolated mosaics, whose noise alternates, count as even.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    rest = _middle(luma_rest(subject, rect))
    if not rest.any():
        raise NotMeasurable("no noise at all: it has no grain")
    down, across = rest.shape[0] // TILE, rest.shape[1] // TILE
    if down * across < LEAST_TILES:
        raise NotMeasurable(
            f"the patch is too small, needs {LEAST_TILES} tiles of {TILE} × {TILE} output px"
        )
    tiles = (
        rest[: down * TILE, : across * TILE]
        .reshape(down, TILE, across, TILE)
        .swapaxes(1, 2)
        .reshape(-1, TILE * TILE)
    )
    variances = (tiles**2).mean(axis=1)
    if (variances <= 0).any():
        raise NotMeasurable("parts of the patch have no noise at all")
    logs = np.log(variances)
    samples, doubt = _samples_in_tile(rest)
    expected = math.sqrt(float(scipy.special.polygamma(1, samples / 2)))
    value = float(logs.std(ddof=1)) / expected
    # Standard error of a standard deviation, with the tails that the tiles show, and that of what
    # is expected.
    kurtosis = float(((logs - logs.mean()) ** 4).mean() / logs.var() ** 2)
    error = math.hypot(math.sqrt(max(0.35, (kurtosis - 1) / 4) / logs.size), doubt / 2, BIAS)
    reach = float(scipy.special.stdtrit(logs.size - 1, 1 - TAIL)) * error
    low, high = value * math.exp(-reach), value * math.exp(reach)
    return MeasuredValue(
        value, low, high, GRID, {"tiles": int(logs.size), "even_noise_gives": expected}
    )


def _samples_in_tile(rest: Doubles) -> tuple[float, float]:
    """Effective independent samples of a tile's variance, and the relative standard
    error of that number.
    """
    squares = rest**2 - float((rest**2).mean())
    lags = _covariance(squares, TILE)
    y, x = np.mgrid[-TILE : TILE + 1, -TILE : TILE + 1]
    away = np.hypot(y, x)
    reach = _reach_of(lags, away)
    weights = np.clip(1 - np.abs(y) / TILE, 0, 1) * np.clip(1 - np.abs(x) / TILE, 0, 1)
    near, ring = away <= reach, (away > reach) & (away <= TILE)
    slow = float(lags[ring].mean())
    total = float((weights * (lags - slow))[near].sum())
    level = float((rest**2).mean())
    # For Gaussian samples the variance of a mean of n squares is 2 s^4 / n.
    samples = float(np.clip(2 * level**2 * TILE * TILE / max(total, 1e-30), 2.0, TILE * TILE))
    chance = float(lags[TILE, TILE]) * math.sqrt(2 * float((weights[near] ** 2).sum()) / rest.size)
    return samples, min(1.0, chance / max(total, 1e-30))


def _covariance(plane: Doubles, most: int) -> Doubles:
    """Autocovariance over lags -most..most both ways, unbiased in the number of pairs."""
    size = [scipy.fft.next_fast_len(side + most, real=True) for side in plane.shape]
    found = scipy.fft.irfft2(np.abs(scipy.fft.rfft2(plane.astype(np.float32), size)) ** 2, size)
    lags = np.arange(-most, most + 1)
    pairs = np.outer(plane.shape[0] - np.abs(lags), plane.shape[1] - np.abs(lags))
    return np.asarray(found[np.ix_(lags, lags)] / pairs, dtype=np.float64)


def _reach_of(lags: Doubles, away: Doubles) -> float:
    """How far neighbours' squares go together: until they hold less than a twentieth of
    the middle's, at least 3 px.
    """
    slow = float(np.median(lags[away > TILE * 0.75]))
    for reach in (3.0, 4.5, 6.0, 8.0, 10.0):
        ring = (away > reach - 1) & (away <= reach)
        if float(np.abs(lags[ring] - slow).mean()) < 0.05 * float(lags[TILE, TILE]):
            return reach
    return 10.0
