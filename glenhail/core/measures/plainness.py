"""Whether a patch that is to be plain is so: structure in it would be read as noise."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
import scipy.fft
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.measures import welch
from glenhail.core.measures.residual import residual
from glenhail.core.picture import Doubles, Floats

TILES = (16, 8, 5)  # px, the largest that fits nine times
LEAST_TILES = 9
UNEVEN = 1.45  # times the quieter tiles' deviation that the whole may have
QUIET = 0.4  # quantile of the tiles that stands for noise alone
STANDS_OUT = 6.0  # deviations of the averaged patch beyond which a place is no noise
AVERAGED = 3  # px
REPEATS = 9.0  # times its ring's power that one frequency may have once blocks are averaged
SHARE = 0.04  # of all power that such frequencies hold
STRONG, TAILS = 5.0, 3.9  # 8-bit levels; kurtosis, 3 for a Gaussian
LEAST_NOISE = 0.02  # 8-bit levels: a painted surface without noise is plain
KNOWN = 0.5  # of the frame's noise that a truth's own structure may reach
CODES = 255.0


def structure_in(pixels: Floats, known: Floats | None = None) -> str:
    """What makes a patch less than plain, as half a sentence; "" where nothing does.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3)
        The frame's patch, linear light.
    known : ndarray, shape (h, w, 3), optional
        The truth's, whose own structure is seen without noise.
    """
    rest = residual(srgb.luma(pixels) * CODES)
    sigma = float(rest.std())
    if sigma < LEAST_NOISE:
        return ""
    if known is not None and float(residual(srgb.luma(known) * CODES).std()) > max(
        KNOWN * sigma, 0.25
    ):
        return "the truth itself is not plain here"
    told = next((t for check in CHECKS if (t := check(rest, sigma))), "")
    return told or _not_gaussian(rest, residual(srgb.luminance(pixels)), sigma)


def _uneven(rest: Doubles, sigma: float) -> str:
    quiet = _quiet(rest)
    return (
        f"it has structure: {sigma:.1f} levels over all, {quiet:.1f} in its plainer parts"
        if sigma > UNEVEN * quiet
        else ""
    )


def _quiet(rest: Doubles) -> float:
    """Deviation of the plainer tiles, each about its own mean and slope, corrected for
    what these take of noise.
    """
    side = next(
        (t for t in TILES if (rest.shape[0] // t) * (rest.shape[1] // t) >= LEAST_TILES), None
    )
    if side is None:
        return float(rest.std())
    down, across = rest.shape[0] // side, rest.shape[1] // side
    tiles = (
        rest[: down * side, : across * side]
        .reshape(down, side, across, side)
        .swapaxes(1, 2)
        .reshape(-1, side, side)
    )
    # What lies between tiles counts as noise as well where it is no more than coarse noise has
    # within them.
    within = tiles.var(axis=(1, 2))
    return math.sqrt(float(np.quantile(within, QUIET)) * _coarse(rest, side))


def _coarse(rest: Doubles, side: int) -> float:
    """How much larger noise's variance is over all than within tiles: from its
    short-range correlation alone.
    """
    down, across = (min(side - 1, n // 3) for n in rest.shape)
    height, width = rest.shape
    # Edges and objects are cut off, so that they do not pass for coarse noise.
    limit = 3 * float(np.median(np.abs(rest))) * 1.4826
    cut = np.clip(rest, -limit, limit)
    cut = cut - scipy.ndimage.uniform_filter(cut, 2 * side + 1, mode="reflect")
    size = [scipy.fft.next_fast_len(n + side, real=True) for n in rest.shape]
    covariance = scipy.fft.irfft2(np.abs(scipy.fft.rfft2(cut.astype(np.float32), size)) ** 2, size)
    rows, columns = np.arange(-down, down + 1), np.arange(-across, across + 1)
    pairs = np.outer(height - np.abs(rows), width - np.abs(columns))
    rho = covariance[np.ix_(rows, columns)] / pairs / (covariance[0, 0] / rest.size)
    weights = np.outer(1 - np.abs(rows) / side, 1 - np.abs(columns) / side)
    shared = float(np.clip((rho * weights).sum() / side**2, 0, 0.6))
    return 1 / (1 - shared)


def _stands_out(rest: Doubles, sigma: float) -> str:
    smooth = scipy.ndimage.uniform_filter(rest, AVERAGED)[1:-1, 1:-1]
    spread = 1.4826 * float(np.median(np.abs(smooth)))
    beyond = np.abs(smooth) > STANDS_OUT * max(spread, 1e-9)
    # A hot pixel alone is noise; a light or a speck is not.
    return "something in it stands out of the noise" if beyond.sum() > 2 * AVERAGED**2 else ""


def _repeats(rest: Doubles, sigma: float) -> str:
    """Whether single frequencies hold far more than others equally fine; rows and
    columns of bands aside, which are noise.
    """
    side = 32
    if min(rest.shape) < 1.5 * side:
        return ""
    blocks = welch.spectra(rest, side, level=False)
    power, weight = (np.abs(blocks) ** 2).mean(axis=0), welch.sides(side)
    fy, fx = (np.abs(f) for f in welch.frequencies(side))
    used = (fx > 1.5 / side) & (fy > 1.5 / side)
    ring = np.round(np.hypot(fx, fy) * side / 2).astype(int)
    rings = [power[(ring == r) & used] for r in range(ring.max() + 1)]
    usual = np.array([float(np.median(p)) if p.size else np.inf for p in rings])
    # Few blocks leave more to chance.
    most = REPEATS * (1 + 8 / blocks.shape[0])
    beyond = power[used] > most * usual[ring[used]]
    share = float((power * weight)[used][beyond].sum()) / float((power * weight).sum())
    return "it has a pattern that repeats" if share > SHARE else ""


def _not_gaussian(rest: Doubles, light: Doubles, sigma: float) -> str:
    """Whether strong variation has the long tails of edges and leaves; noise that
    strong is nearly Gaussian.

    In light at least, where photons are counted; encoding skews what lies in deep
    shadow.
    """
    if sigma <= STRONG:
        return ""
    tails = min(_tails(rest), _tails(light))
    return f"its {sigma:.0f} levels are not spread as noise is" if tails > TAILS else ""


def _tails(rest: Doubles) -> float:
    """The largest kurtosis of a residual and of two of its octaves."""
    smooth = [rest, *(scipy.ndimage.gaussian_filter(rest, s) for s in (0.8, 1.6, 3.2))]
    bands = [rest, smooth[1] - smooth[2], smooth[2] - smooth[3]]
    return max(float((b**4).mean() / max(float((b**2).mean()) ** 2, 1e-30)) for b in bands)


CHECKS: tuple[Callable[[Doubles, float], str], ...] = (_uneven, _stands_out, _repeats)
