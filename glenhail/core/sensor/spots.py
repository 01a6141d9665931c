"""Signal to noise at a spot of the scene, over ISO, out of pairs: what two bodies that
were shown the same light are compared by.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.interval import Interval
from glenhail.core.sensor.pairs import Moments
from glenhail.core.sensor.reading import PairRead
from glenhail.core.sensor.stops import NORMAL, SnrCurve
from glenhail.core.statistics.intervals import jackknife

GREEN = "G"  # the filter with most pixels; monochrome sensors have none
LEAST = 8  # blocks
LITTLE_CUT = 0.02  # of blocks, from which on a colour's mean is not told
MOST_CUT = 0.2  # of a spot's blocks that may be cut off or have moved
Exposures = dict[float, set[tuple[float, float]]]


@dataclass(frozen=True)
class SpotReading:
    """A spot at one ISO of a body.

    ``light`` is its mean above black, a share of saturation; ``snr`` mean over temporal
    deviation of one pixel; both of the filter colour that is read. ``colours`` are
    means of all of them, shares of saturation.
    """

    iso: float
    files: tuple[str, ...]
    light: Interval
    snr: Interval
    colours: dict[str, Interval]


@dataclass(frozen=True)
class SpotCurve:
    """A spot over ISO; in words what could not be read at which ISO, and by ISO the
    shutter and aperture that were used.
    """

    readings: tuple[SpotReading, ...]
    left_out: tuple[str, ...]
    exposures: Exposures

    def at(self, gain: float = 1.0, told: Mapping[float, float] | None = None) -> SnrCurve:
        """With every ratio so many times as large, and each ISO told as another.

        Parameters
        ----------
        gain : float
            Of a size that several pixels are averaged to; 1 for a pixel itself.
        told : mapping of float to float, optional
            What each ISO counts as; those that it lacks are left out.
        """
        kept = [r for r in self.readings if told is None or r.iso in told]
        ratios = [Interval(gain * r.snr.value, gain * r.snr.low, gain * r.snr.high) for r in kept]
        return SnrCurve([told[r.iso] if told else r.iso for r in kept], ratios)


def curves_of(reads: Sequence[PairRead], spots: int, green: str = GREEN) -> list[SpotCurve]:
    """Signal to noise at each ISO out of pairs that were read at so many spots.

    Parameters
    ----------
    reads : sequence of PairRead
        Of one body.
    spots : int
        How many there are.
    green : str
        The colour letter that is read; the first there is where there is none such.
    """
    by: dict[float, list[PairRead]] = defaultdict(list)
    exposures: Exposures = defaultdict(set)
    for read in reads:
        by[read.pair.iso].append(read)
        exposures[read.pair.iso].add(read.pair.exposure)
    depth = reads[0].depth if reads else 1.0
    curves = []
    for spot in range(spots):
        readings, lacking = [], []
        for iso, of in sorted(by.items()):
            files = tuple(name for read in of for name in read.files)
            told = _reading(iso, files, [read.spots[spot] for read in of], green, depth)
            if isinstance(told, str):
                lacking.append(f"ISO {iso:,.0f}: {told}")
            else:
                readings.append(told)
        curves.append(SpotCurve(tuple(readings), tuple(lacking), dict(exposures)))
    return curves


def _reading(
    iso: float,
    files: tuple[str, ...],
    parts: Sequence[dict[str, Moments]],
    green: str,
    depth: float,
) -> SpotReading | str:
    letters = parts[0]
    if not letters:
        return "the spot is too small, or not within this body's frame; draw it anew"
    read = Moments.joined([p[green if green in letters else next(iter(letters))] for p in parts])
    ratio = _snr(read)
    if isinstance(ratio, str):
        return ratio
    colours = {c: Moments.joined([p[c] for p in parts]) for c in letters}
    # What is left of a colour of which much was cut off is brighter than all of it.
    lights = {
        c: _light(of, depth) for c, of in colours.items() if of.means.size and of.cut < LITTLE_CUT
    }
    return SpotReading(iso, files, _light(read, depth), ratio, lights)


def _light(of: Moments, depth: float) -> Interval:
    """Mean above black, a share of saturation: of two frames, so that its own noise is
    that of twice as many pixels.
    """
    mean = float(of.means.mean())
    error = NORMAL * math.sqrt(float(of.variances.mean()) / (2 * of.count * of.means.size))
    return Interval(mean / depth, max(0.0, mean - error) / depth, (mean + error) / depth)


def _snr(found: Moments) -> Interval | str:
    """Mean over temporal deviation, by leaving out blocks; in words why not."""
    n = found.means.size
    if found.cut > MOST_CUT:
        return "the spot is cut off at one end; choose one that is neither full nor black"
    if found.moved > MOST_CUT:
        return "the scene moved between the two frames; choose another spot, or shoot again"
    if n < LEAST:
        return "the spot is too small; choose a larger one"
    means, variances = found.means.sum(), found.variances.sum()
    if means <= 0:
        return "the spot is no brighter than black; choose a brighter one"
    whole = means / n / math.sqrt(variances / n)
    left = ((means - found.means) / (n - 1)) / np.sqrt((variances - found.variances) / (n - 1))
    return jackknife(float(whole), left)


def differing(one: SpotCurve, other: SpotCurve) -> list[str]:
    """In words, at which ISO the two were not shown the same light.

    Parameters
    ----------
    one, other : SpotCurve
        Of the two bodies.
    """
    return [
        f"ISO {iso:,.0f}: shutter or aperture of the two differ, so that this compares exposures"
        " as well."
        for iso in sorted(set(one.exposures) & set(other.exposures))
        if one.exposures[iso] != other.exposures[iso]
    ]
