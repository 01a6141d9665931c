"""Fixed pattern and non-uniformity, out of stacks of frames of one exposure: what the
mean of many still has, once light's own shading is taken off.

EMVA 1288 release 4: spatial variances, of which what temporal noise leaves in a mean of
L frames is taken off; never from one frame, in which noise and pattern are one.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import scipy.ndimage

from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles
from glenhail.core.statistics.intervals import jackknife

LEAST_FRAMES = 8
WINDOW = 25  # px of a plane, over which shading is held to be smooth
GROUPS = 16  # bands of a frame that the jackknife leaves out one by one
LIT = 64.0  # codes above black from which on a frame is no dark one
HOT = 6.0  # deviations above its surroundings from which on a pixel counts as hot
CLEAN = 4.0  # deviations beyond which a pixel is left out of the variances


@dataclass(frozen=True)
class Stack:
    """A stack of one colour's plane: mean above black, spatial variance without shading
    and without what temporal noise leaves, by bands of rows, codes and codes squared.

    ``hot`` is the share of pixels far above their surroundings; ``rows`` and
    ``columns`` the deviation of rows' and columns' means beyond what pixels explain.
    """

    frames: int
    mean: float
    bands: Doubles
    rows: float
    columns: float
    hot: float


class Stacked:
    """Sums frames of one plane, one at a time in memory."""

    def __init__(self) -> None:
        self.count = 0
        self._sum: Doubles | None = None
        self._squares: Doubles | None = None

    def add(self, plane: np.ndarray, black: float) -> None:
        """Take one more frame.

        Parameters
        ----------
        plane : ndarray, shape (h, w)
            Codes.
        black : float
            Code of no light.
        """
        values = plane.astype(np.float64) - black
        if self._sum is None or self._squares is None:
            self._sum, self._squares = np.zeros_like(values), np.zeros_like(values)
        self._sum += values
        self._squares += values**2
        self.count += 1

    def result(self) -> Stack | None:
        """What the stack says; None of fewer than eight frames, or of small ones."""
        if self.count < LEAST_FRAMES or self._sum is None or self._squares is None:
            return None
        if min(self._sum.shape) < 4 * WINDOW:
            return None
        n = self.count
        mean = self._sum / n
        temporal = (self._squares / n - mean**2) * n / (n - 1)
        rest, evened = _without_shading(mean)
        temporal = _inner(temporal) * evened**2
        spread = 1.4826 * float(np.median(np.abs(rest)))
        clean = np.abs(rest) <= CLEAN * max(spread, 1e-9)
        bands = [
            _band(rest[a:b], temporal[a:b], clean[a:b], n)
            for a, b in _bounds(rest.shape[0], GROUPS)
        ]
        return Stack(
            n,
            float(mean.mean()),
            np.array(bands),
            _lines(rest, clean, 1),
            _lines(rest, clean, 0),
            float((rest > HOT * max(spread, 1e-9)).mean()),
        )


def stacked(planes: Iterable[np.ndarray], black: float) -> Stack | None:
    """A stack out of frames of one plane.

    Parameters
    ----------
    planes : iterable of ndarray, shape (h, w)
        Codes, of one exposure.
    black : float
        Code of no light.
    """
    stack = Stacked()
    for plane in planes:
        stack.add(plane, black)
    return stack.result()


def _without_shading(mean: Doubles) -> tuple[Doubles, Doubles]:
    """What is left beside the shading, and what it was times to be as large as where
    the light is its mean: where there is light, pattern grows with it.
    """
    smooth = scipy.ndimage.uniform_filter(mean, WINDOW, mode="nearest")
    lit = smooth.min() > max(LIT, float(mean.mean()) / 5)
    evened = mean.mean() / smooth if lit else np.ones_like(mean)
    # At an edge the window has one side alone, so that a slope would be left.
    return _inner((mean - smooth) * evened), _inner(evened)


def _inner(values: Doubles) -> Doubles:
    half = WINDOW // 2
    return np.asarray(values[half:-half, half:-half])


def _bounds(height: int, parts: int) -> list[tuple[int, int]]:
    cuts = [height * i // parts for i in range(parts + 1)]
    return [(a, b) for a, b in pairwise(cuts) if b > a]


def _band(rest: Doubles, temporal: Doubles, clean: np.ndarray, frames: int) -> float:
    # The window's own mean holds a share of each pixel.
    share = 1 - 1 / WINDOW**2
    # A normal variable cut off at four deviations keeps 0.999 of its variance: let be.
    return float(rest[clean].var() / share - temporal[clean].mean() / frames)


def _lines(rest: Doubles, clean: np.ndarray, axis: int) -> float:
    """Deviation of the means of rows (axis 1) or columns (axis 0) beyond that which
    their pixels explain, codes.
    """
    kept = np.where(clean, rest, 0.0)
    counts = np.maximum(1, clean.sum(axis=axis))
    means = kept.sum(axis=axis) / counts
    explained = float((rest[clean].var() / counts).mean())
    return math.sqrt(max(0.0, float(means.var()) - explained))


def response_non_uniformity(flat: Sequence[Stack], dark: Sequence[Stack]) -> Interval | None:
    """How much the response differs from pixel to pixel, a share of the signal (PRNU of
    EMVA 1288), pooled over the planes of one body; None where it is below what the
    stacks show.

    Parameters
    ----------
    flat, dark : sequence of Stack
        The same planes, evenly lit at about half of saturation, and with the cap on.
    """
    variance = np.mean([f.bands - d.bands for f, d in zip(flat, dark, strict=True)], axis=0)
    signal = float(np.mean([f.mean - d.mean for f, d in zip(flat, dark, strict=True)]))
    return _rooted(variance, signal)


def dark_non_uniformity(dark: Sequence[Stack], gain: float) -> Interval | None:
    """How much pixels differ without light, electrons (DSNU of EMVA 1288); None where
    it is below what the stack shows.

    Parameters
    ----------
    dark : sequence of Stack
        Planes with the cap on.
    gain : float
        Codes an electron.
    """
    return _rooted(np.mean([d.bands for d in dark], axis=0), gain)


def _rooted(variances: Doubles, unit: float) -> Interval | None:
    whole = float(variances.mean())
    left = (variances.sum() - variances) / (variances.size - 1)
    found = jackknife(whole, left)
    if found.low <= 0 or unit <= 0:
        return None
    value, low, high = (float(math.sqrt(v)) / unit for v in (found.value, found.low, found.high))
    return Interval(value, low, high)
