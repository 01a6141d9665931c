"""What of a truth's structure is still there, by frequency: cross spectrum of two planes on one grid."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import scipy.fft

from glenhail.core.errors import NotMeasurable
from glenhail.core.picture import Doubles, Floats

BLOCKS = (128, 64, 32)  # px, the largest that fits often enough
GUARD = 2
FINEST = 0.4  # cycles per px of the truth beyond which lies aliasing
LEAST_BLOCKS, MANY_BLOCKS = 4, 25  # fewer than many only where no smaller block gives more


@dataclass(frozen=True)
class Beyond:
    """The same beyond a frame's own Nyquist frequency: shares of amplitude and power, in per cent, and the truth's power there
    summed over the region's bins."""

    kept: float
    added: float
    power: float


@dataclass(frozen=True)
class Transfer:
    """By spatial frequency, cycles/px.

    ``kept`` is Re(S_xy) / S_xx, the share of the truth's amplitude that is there, in place and in phase; ``added`` is the power
    that is not coherent with the truth, over the truth's power.
    """

    frequency: Doubles
    kept: Doubles
    added: Doubles
    power: Doubles
    beyond: Beyond | None = None

    def mean_kept(self, low: float, high: float) -> float:
        """Share kept between two frequencies, each weighted by the truth's amplitude there, in per cent."""
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
    """Where each bin of a spectrum lies, cycles/px, and which lie beyond the frame's square Nyquist region."""

    radius: Doubles
    beyond: np.ndarray
    side: int

    @classmethod
    def of(cls, fx: Doubles, fy: Doubles, side: int, scale: float) -> Places:
        """`GUARD` bins beyond the region's border belong to neither side: a window spreads each frequency that far."""
        radius = np.hypot(fx, fy)
        outside = np.maximum(np.abs(fx), np.abs(fy)) > 0.5 / scale + GUARD / side
        return cls(np.asarray(radius), np.asarray(outside & (radius <= FINEST)), side)


def transfer(truth: Floats, made: Floats) -> Transfer:
    """Compare two planes of one size; a shift of a fraction of a pixel between them is taken out first.

    References
    ----------
    Kirk, Herzer, Artmann, Kunz: Description of texture loss using the dead leaves target. Proc. SPIE 9014, 2014.
    Welch 1967 for the averaging of blocks (half overlapped, Hann window).

    Raises
    ------
    NotMeasurable
        If the planes are too small for four blocks of 32 px that overlap by half.
    """
    return transfers(truth, made, 0).whole


def transfers(truth: Floats, made: Floats, groups: int, scale: float = 1.0) -> Transfers:
    """The same, with up to `groups` comparisons that each leave out one group of neighbouring blocks, for an interval.

    `scale` is how many pixels of the truth go to one of the frame: blocks are as much larger, and what lies beyond the frame's own
    Nyquist frequency is told apart.
    """
    blocks = [b * max(1, round(scale)) for b in BLOCKS]
    side = next((b for b in blocks if _count(truth.shape, b) >= MANY_BLOCKS), None)
    side = side or next((b for b in blocks if _count(truth.shape, b) >= LEAST_BLOCKS), None)
    if side is None:
        least = 1.5 * blocks[-1]
        size = f"{truth.shape[1]} x {truth.shape[0]} px of the truth"
        raise NotMeasurable(f"{size} are too few to tell frequencies apart, needs {least:.0f} x {least:.0f}")
    one, two = (_spectra(plane, side) for plane in (truth, made))
    fy, fx = np.meshgrid(scipy.fft.fftfreq(side), scipy.fft.rfftfreq(side), indexing="ij")
    cross = two * np.conj(one)
    cross *= np.exp(2j * np.pi * _shift_phase(np.asarray(cross.mean(axis=0)), fx, fy, max(1.0, scale)))
    parts = (np.abs(one) ** 2, np.abs(two) ** 2, cross)
    count = one.shape[0]
    groups = min(groups, count)
    group = np.arange(count) * groups // count
    sums = [np.stack([p[group == g].sum(axis=0) for g in range(groups)]) if groups else None for p in parts]
    totals = [p.sum(axis=0) for p in parts]
    places = Places.of(fx, fy, side, scale)
    left_out = []
    for g in range(groups):
        less = [t - s[g] for t, s in zip(totals, sums, strict=True) if s is not None]
        left_out.append(_told(less, count - int((group == g).sum()), places))
    return Transfers(_told(totals, count, places), tuple(left_out))


def _told(sums: list[np.ndarray], count: int, places: Places) -> Transfer:
    xx, yy, xy = (s / count for s in sums)
    blocks = count / 2  # half overlapped blocks count about half
    coherent = np.abs(xy) ** 2 / np.maximum(xx, 1e-30)
    # By chance, noise agrees with the truth in one part of the number of blocks.
    coherent = np.clip((coherent - yy / blocks) / (1 - 1 / blocks), 0, yy)
    told = _by_radius(places.radius, places.side, xx, xy.real, yy - coherent)
    return replace(told, beyond=_beyond(places, xx, xy.real, yy - coherent)) if places.beyond.any() else told


def _beyond(places: Places, xx: Doubles, xy: Doubles, rest: Doubles) -> Beyond:
    """Over the region's rings, each by its bins and the truth's amplitude."""
    ring = np.round(places.radius * places.side).astype(int)[places.beyond]
    count = np.bincount(ring)
    power, cross, more = (np.bincount(ring, weights=values[places.beyond])[count > 0] for values in (xx, xy, rest))
    amplitude = np.sqrt(power * count[count > 0])
    kept = float((cross / np.maximum(power, 1e-30) * amplitude).sum() / amplitude.sum())
    total = float(power.sum())
    return Beyond(100 * kept, 100 * float(more.sum()) / max(total, 1e-30), total)


def _count(shape: tuple[int, ...], side: int) -> int:
    return (shape[0] * 2 // side - 1) * (shape[1] * 2 // side - 1) if min(shape) >= side else 0


def _spectra(plane: Floats, side: int) -> np.ndarray:
    hann = np.hanning(side + 1)[:side]
    window = np.outer(hann, hann)
    step = side // 2
    blocks = [
        plane[y : y + side, x : x + side].astype(np.float64)
        for y in range(0, plane.shape[0] - side + 1, step)
        for x in range(0, plane.shape[1] - side + 1, step)
    ]
    stack = np.stack(blocks)
    return np.asarray(scipy.fft.rfft2((stack - stack.mean(axis=(1, 2), keepdims=True)) * window, axes=(1, 2)))


def _shift_phase(xy: np.ndarray, fx: Doubles, fy: Doubles, scale: float) -> Doubles:
    """Cycles of phase at each frequency that a plain shift explains, from the coarse structure, in two rounds."""
    total = np.zeros(2)
    for most in (0.12 / scale, 0.25 / scale):
        use = (np.hypot(fx, fy) < most) & (np.hypot(fx, fy) > 0)
        rest = np.angle(xy * np.exp(2j * np.pi * (fx * total[0] + fy * total[1])))[use] / (-2 * np.pi)
        weight = np.abs(xy[use])
        design = np.stack([fx[use], fy[use]], axis=1)
        total += np.linalg.lstsq(design * weight[:, None], rest * weight, rcond=None)[0]
    return np.asarray(fx * total[0] + fy * total[1])


def _by_radius(radius: Doubles, side: int, xx: Doubles, xy: Doubles, rest: Doubles) -> Transfer:
    ring = np.round(radius * side).astype(int)
    used = (ring >= 1) & (radius <= 0.5)
    sums = [np.bincount(ring[used], weights=values[used]) for values in (radius, xx, xy, rest)]
    count = np.bincount(ring[used])
    full = count > 0
    frequency, power, cross, more = (s[full] / count[full] for s in sums)
    power = np.maximum(power, 1e-30)
    return Transfer(frequency, cross / power, more / power, power)
