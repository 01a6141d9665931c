"""What of a truth's structure is still there, by frequency: cross spectrum of two
planes on one grid.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from glenhail.core.errors import NotMeasurable
from glenhail.core.measures import welch
from glenhail.core.measures.welch import Rings
from glenhail.core.picture import Doubles, Floats

BLOCKS = (128, 64, 32)  # px, the largest that fits often enough
GUARD = 2
FINEST = 0.4  # cycles per px of the truth beyond which lies aliasing
LEAST_BLOCKS, MANY_BLOCKS = 4, 25  # fewer than many only where no smaller block gives more


@dataclass(frozen=True)
class BeyondNyquist:
    """The same beyond a frame's own Nyquist frequency: shares of amplitude and power,
    in per cent, and the truth's power there summed over the region's bins.
    """

    kept: float
    added: float
    power: float


@dataclass(frozen=True)
class Transfer:
    """By spatial frequency, cycles/px.

    ``kept`` is Re(S_xy) / S_xx, the share of the truth's amplitude that is there, in
    place and in phase; ``added`` is the power that is not coherent with the truth, over
    the truth's power.
    """

    frequency: Doubles
    kept: Doubles
    added: Doubles
    power: Doubles
    beyond: BeyondNyquist | None = None

    def mean_kept(self, low: float, high: float) -> float:
        """Share kept between two frequencies, each weighted by the truth's amplitude
        there, in per cent.
        """
        return 100 * self._mean(self.kept, low, high)

    def mean_added(self, low: float, high: float) -> float:
        """Power added between two frequencies over the truth's, in per cent."""
        inside = self._inside(low, high)
        return 100 * float((self.added * self.power)[inside].sum() / self.power[inside].sum())

    def _inside(self, low: float, high: float) -> np.ndarray:
        return np.asarray((self.frequency >= low) & (self.frequency <= high))

    def _mean(self, values: Doubles, low: float, high: float) -> float:
        inside = self._inside(low, high)
        weight = np.sqrt(self.power[inside])
        return float((values[inside] * weight).sum() / weight.sum())


@dataclass(frozen=True)
class Transfers:
    """A comparison over all blocks, and others that each leave out some of them."""

    whole: Transfer
    left_out: tuple[Transfer, ...]


@dataclass(frozen=True)
class Places:
    """Which bins of a spectrum lie in each ring of frequencies, those rings' mean
    frequencies in cycles/px, and the rings beyond the frame's square Nyquist region.
    """

    rings: Rings
    frequency: Doubles
    beyond: Rings | None


@cache
def places_of(side: int, scale: float) -> Places:
    """`GUARD` bins beyond the region's border belong to neither side: a window spreads
    each frequency that far.

    Parameters
    ----------
    side : int
        Pixels a side.
    scale : float
        Pixels of the patch for each of the subject's.
    """
    fy, fx = welch.frequencies(side)
    radius = np.hypot(fx, fy)
    ring = np.round(radius * side).astype(int)
    rings = Rings.of(ring, (ring >= 1) & (radius <= 0.5))
    beyond = (np.maximum(np.abs(fx), np.abs(fy)) > 0.5 / scale + GUARD / side) & (radius <= FINEST)
    return Places(rings, rings.means(radius), Rings.of(ring, beyond) if beyond.any() else None)


def transfer(truth: Floats, made: Floats) -> Transfer:
    """Compare two planes of one size; a shift of a fraction of a pixel between them is
    taken out first.

    Parameters
    ----------
    truth : ndarray, shape (h, w), float32
        The truth's plane.
    made : ndarray, shape (h, w), float32
        The output's plane on the truth's grid.

    References
    ----------
    Kirk, Herzer, Artmann, Kunz: Description of texture loss using the dead leaves
    target. Proc. SPIE 9014, 2014. Welch 1967 for the averaging of blocks (half
    overlapped, Hann window).

    Raises
    ------
    NotMeasurable
        If the planes are too small for four blocks of 32 px that overlap by half.
    """
    return transfers(truth, made, 0).whole


def transfers(truth: Floats, made: Floats, groups: int, scale: float = 1.0) -> Transfers:
    """The same, with up to `groups` comparisons that each leave out one group of
    neighbouring blocks, for an interval.

    `scale` is how many pixels of the truth go to one of the frame: blocks are as much
    larger, and what lies beyond the frame's own Nyquist frequency is told apart.

    Parameters
    ----------
    truth : ndarray, shape (h, w), float32
        The truth's plane.
    made : ndarray, shape (h, w), float32
        The output's plane on the truth's grid.
    groups : int
        How many comparisons for the interval, at most.
    scale : float
        Pixels of the patch for each of the subject's.
    """
    blocks = [b * max(1, round(scale)) for b in BLOCKS]
    side = next((b for b in blocks if welch.count(truth.shape, b) >= MANY_BLOCKS), None)
    side = side or next((b for b in blocks if welch.count(truth.shape, b) >= LEAST_BLOCKS), None)
    if side is None:
        least = 1.5 * blocks[-1]
        size = f"{truth.shape[1]} × {truth.shape[0]} px of the truth"
        raise NotMeasurable(
            f"{size} are too few to tell frequencies apart, needs {least:.0f} × {least:.0f}"
        )
    one, two = (welch.spectra(plane, side) for plane in (truth, made))
    cross = two * np.conj(one)
    starts = welch.groups_of(one.shape[0], groups)
    sums = [_with_left_out(p, starts) for p in (_power(one), _power(two), cross)]
    sums[2] *= np.exp(2j * np.pi * _shift_phase(sums[2][0], side, max(1.0, scale)))
    counts = one.shape[0] - np.concatenate([[0], np.diff([*starts, one.shape[0]])])
    whole, *left_out = _told(sums, counts, places_of(side, scale))
    return Transfers(whole, tuple(left_out))


def _power(spectra: np.ndarray) -> np.ndarray:
    return np.asarray(spectra.real**2 + spectra.imag**2)


def _with_left_out(values: np.ndarray, starts: np.ndarray) -> np.ndarray:
    """Sums over all blocks, and without each group of them; shape (1 + groups, ...)."""
    if not starts.size:
        return welch.by_groups(values, np.zeros(1, dtype=int))
    sums = welch.by_groups(values, starts)
    total = sums.sum(axis=0, keepdims=True)
    return np.concatenate([total, total - sums])


def _told(sums: list[np.ndarray], counts: np.ndarray, places: Places) -> list[Transfer]:
    """A comparison for each row of the sums."""
    count = counts[:, None, None]
    xx, yy, xy = (s / count for s in sums)
    blocks = count / 2  # half overlapped blocks count about half
    coherent = _power(xy) / np.maximum(xx, 1e-30)
    # By chance, noise agrees with the truth in one part of the number of blocks.
    rest = yy - np.clip((coherent - yy / blocks) / (1 - 1 / blocks), 0, yy)
    power, cross, more = (places.rings.means(v) for v in (xx, xy.real, rest))
    power = np.maximum(power, 1e-30)
    beyond = _beyond(places.beyond, xx, xy.real, rest) if places.beyond else [None] * len(counts)
    return [
        Transfer(places.frequency, c / p, m / p, p, b)
        for c, m, p, b in zip(cross, more, power, beyond, strict=True)
    ]


def _beyond(rings: Rings, xx: Doubles, xy: Doubles, rest: Doubles) -> list[BeyondNyquist | None]:
    """Over the region's rings, each by its bins and the truth's amplitude."""
    power, cross, more = (rings.sums(v) for v in (xx, xy, rest))
    amplitude = np.sqrt(power * rings.count)
    kept = (cross / np.maximum(power, 1e-30) * amplitude).sum(axis=1) / amplitude.sum(axis=1)
    total = power.sum(axis=1)
    added = more.sum(axis=1) / np.maximum(total, 1e-30)
    return [
        BeyondNyquist(100 * float(k), 100 * float(a), float(t))
        for k, a, t in zip(kept, added, total, strict=True)
    ]


def _shift_phase(xy: np.ndarray, side: int, scale: float) -> Doubles:
    """Cycles of phase at each frequency that a plain shift explains, from the coarse
    structure, in two rounds.
    """
    fy, fx = welch.frequencies(side)
    radius = np.hypot(fx, fy)
    total = np.zeros(2)
    for most in (0.12 / scale, 0.25 / scale):
        use = (radius < most) & (radius > 0)
        rest = np.angle(
            xy[use] * np.exp(2j * np.pi * (fx[use] * total[0] + fy[use] * total[1]))
        ) / (-2 * np.pi)
        weight = np.abs(xy[use])
        design = np.stack([fx[use], fy[use]], axis=1)
        total += np.linalg.lstsq(design * weight[:, None], rest * weight, rcond=None)[0]
    return np.asarray(fx * total[0] + fy * total[1])
