"""Which unsharp mask has the transfer by which two outputs differ: radius and amount,
with everything that does as well.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
import scipy.optimize

from glenhail.core.errors import NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.methods.denoise import GAUSSIAN_REACH
from glenhail.core.picture import Doubles
from glenhail.core.statistics.intervals import jackknife

BAND = (0.05, 0.4)  # cycles/px: below lies contrast, above aliasing
REACHES = (0.4, 8.0)  # px that are looked for
MOST_GAIN = 6.0  # that the bench's own mask has
LEAST_PLACES = 4  # frequencies within the band: fewer are no curve
STEPS = 48
TURNS = 8  # directions of a quarter of the circle
AS_WELL = 1.0  # more of chi squared than the best: one deviation
LEAST_ERROR = 0.002  # of a ratio, below which its own error is not believed
NEAR = 0.1  # of a ratio that may be left: common practice, no source
SMALLEST = 0.02  # of a ratio: closer than this nothing has to be sharpened


def in_band(frequency: Doubles) -> np.ndarray:
    """Which frequencies lie between contrast and aliasing, shape (n,), bool.

    Parameters
    ----------
    frequency : ndarray, shape (n,)
        Cycles a pixel.
    """
    return (frequency >= BAND[0]) & (frequency <= BAND[1])


@dataclass(frozen=True)
class RatioCurve:
    """By frequency, cycles/px, how many times as much of a structure one output has as
    another: over all, and with one part left out each, shape (parts, frequencies).
    """

    frequency: Doubles
    ratio: Doubles
    left_out: Doubles

    @property
    def within(self) -> Doubles:
        """The ratio between contrast and aliasing."""
        return np.asarray(self.ratio[in_band(self.frequency)])


@dataclass(frozen=True)
class UnsharpPair:
    """A radius, px, an amount (1 adds back once what a Gaussian takes away), and what
    of the curve is left then, root of the mean square.
    """

    reach: float
    gain: float
    left: float


@dataclass(frozen=True)
class UnsharpFit:
    """The best pair with its intervals, and the ``valley``: pairs that do as well."""

    best: UnsharpPair
    reach: Interval
    gain: Interval
    valley: tuple[UnsharpPair, ...]

    @property
    def raises(self) -> bool:
        """Whether there is anything to be sharpened."""
        made = transfer(self.best.reach, self.best.gain, np.linspace(*BAND))
        return float(made.mean()) >= 1 + SMALLEST

    def curve(self, frequency: Doubles) -> Doubles:
        """What the best pair raises each frequency by.

        Parameters
        ----------
        frequency : ndarray
            Cycles a pixel.
        """
        return transfer(self.best.reach, self.best.gain, frequency)

    @property
    def reached(self) -> bool:
        """Whether any unsharp mask comes near the curve."""
        return self.best.left < NEAR

    @property
    def told(self) -> dict[str, Any]:
        """As it is kept and shown."""
        return {**asdict(self), "reached": self.reached}


def unsharp_fit_told(kept: Mapping[str, Any]) -> UnsharpFit:
    """A fit as it was kept.

    Parameters
    ----------
    kept : mapping
        Its values by name.
    """
    reach, gain = (Interval(**kept[k]) for k in ("reach", "gain"))
    valley = tuple(UnsharpPair(**pair) for pair in kept["valley"])
    return UnsharpFit(UnsharpPair(**kept["best"]), reach, gain, valley)


def transfer(reach: float, gain: float, frequency: Doubles) -> Doubles:
    """What an unsharp mask does to structure of a frequency.

    1 + gain (1 - G), with the transfer G of the sampled Gaussian.

    Parameters
    ----------
    reach : float
        Its standard deviation, px.
    gain : float
        Its amount.
    frequency : ndarray
        Cycles/px.
    """
    return np.asarray(1 + gain * _lost(reach, frequency))


def _lost(reach: float, frequency: Doubles) -> Doubles:
    """What the Gaussian takes away, the mean of all directions."""
    radius = int(GAUSSIAN_REACH * reach + 0.5)
    at = np.arange(-radius, radius + 1)
    line = np.exp(-0.5 * (at / reach) ** 2)
    turns = (np.arange(TURNS) + 0.5) * math.pi / 2 / TURNS
    across, down = (
        np.cos(2 * math.pi * np.multiply.outer(frequency, part(turns))[..., None] * at)
        @ (line / line.sum())
        for part in (np.cos, np.sin)
    )
    return np.asarray(1 - (across * down).mean(axis=1))


def fit_unsharp(curve: RatioCurve) -> UnsharpFit:
    """Radius and amount by weighted least squares over 0.05 to 0.4 cycles/px.

    The amount follows from the radius in closed form, so that one number is searched.

    Parameters
    ----------
    curve : RatioCurve
        Of the output that is wanted over the one that is sharpened.

    Raises
    ------
    NotMeasurable
        If too little of it lies within the band.
    """
    inside = in_band(curve.frequency)
    if inside.sum() < LEAST_PLACES:
        raise NotMeasurable("too little fine structure is left in common to tell sharpness by")
    f, ratio, left_out = curve.frequency[inside], curve.ratio[inside], curve.left_out[:, inside]
    parts = len(left_out)
    spread = left_out - left_out.mean(axis=0) if parts else np.zeros((1, f.size))
    error = np.sqrt(max(parts - 1, 1) / max(parts, 1) * (spread**2).sum(axis=0))
    weight = np.maximum(error, LEAST_ERROR) ** -2
    best = _best(f, ratio, weight)
    again = [_best(f, one, weight, near=best.reach) for one in left_out]
    reach = _interval(best.reach, [a.reach for a in again])
    gain = _interval(best.gain, [a.gain for a in again])
    return UnsharpFit(best, reach, gain, tuple(_valley(f, ratio, weight, best)))


def _interval(value: float, left_out: Sequence[float]) -> Interval:
    if len(left_out) < 2:
        return Interval(value, value, value)
    return jackknife(value, np.array(left_out))


def _pair(reach: float, f: Doubles, ratio: Doubles, weight: Doubles) -> UnsharpPair:
    """With the amount that is best at a radius."""
    lost = _lost(reach, f)
    gain = float((weight * lost * (ratio - 1)).sum() / (weight * lost**2).sum())
    gain = min(gain, MOST_GAIN)
    left = ratio - 1 - gain * lost
    return UnsharpPair(reach, gain, float(np.sqrt((left**2).mean())))


def _chi(pair: UnsharpPair, f: Doubles, ratio: Doubles, weight: Doubles) -> float:
    return float((weight * (ratio - transfer(pair.reach, pair.gain, f)) ** 2).sum())


def _best(f: Doubles, ratio: Doubles, weight: Doubles, near: float | None = None) -> UnsharpPair:
    def chi(log_reach: float) -> float:
        return _chi(_pair(math.exp(log_reach), f, ratio, weight), f, ratio, weight)

    grid = np.log(np.geomspace(REACHES[0], REACHES[1], STEPS))
    at = math.log(near) if near is not None else grid[int(np.argmin([chi(x) for x in grid]))]
    step = float(grid[1] - grid[0])
    low, high = (float(np.clip(at + s * step, grid[0], grid[-1])) for s in (-1.5, 1.5))
    found = scipy.optimize.minimize_scalar(
        chi, bounds=(low, high), method="bounded", options={"xatol": 1e-4}
    )
    return _pair(math.exp(float(found.x)), f, ratio, weight)


def _valley(f: Doubles, ratio: Doubles, weight: Doubles, best: UnsharpPair) -> list[UnsharpPair]:
    """Pairs that leave no more than one deviation beyond the best, or as much of the
    curve as nobody sees.
    """
    most = _chi(best, f, ratio, weight) + AS_WELL
    pairs = [_pair(float(r), f, ratio, weight) for r in np.geomspace(REACHES[0], REACHES[1], STEPS)]
    return [
        p
        for p in pairs
        if _chi(p, f, ratio, weight) <= most or p.left <= max(SMALLEST / 4, 1.1 * best.left)
    ]
