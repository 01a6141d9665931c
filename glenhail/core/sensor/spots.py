"""Signal to noise at a spot of the scene, over ISO, out of pairs: what two bodies that
were shown the same light are compared by.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from glenhail.core.errors import BadRequest
from glenhail.core.files.raw import Mosaic
from glenhail.core.interval import Interval
from glenhail.core.picture import Rect
from glenhail.core.sensor.pairs import Moments, moments_of
from glenhail.core.sensor.range import of_print
from glenhail.core.sensor.series import FramePair
from glenhail.core.sensor.stops import SnrCurve
from glenhail.core.statistics.intervals import jackknife

GREEN = "G"  # the filter with most pixels; monochrome sensors have none
LEAST = 8  # blocks
MOST_CUT = 0.2  # of a spot's blocks that may be cut off or full of scene
Exposures = dict[float, set[tuple[float, float]]]


@dataclass(frozen=True)
class SpotCurve:
    """A spot over ISO, in a print's pixels; in words what could not be read at which
    ISO, and by ISO the shutter and aperture that were used.
    """

    curve: SnrCurve
    left_out: tuple[str, ...]
    exposures: Exposures


def spot_curve(pairs: Sequence[FramePair], spot: Rect, green: str = GREEN) -> SpotCurve:
    """Signal to noise of a spot at each ISO of a body.

    Parameters
    ----------
    pairs : sequence of FramePair
        Of one body.
    spot : Rect
        In shares of the frame's sides: 0 to 1.
    green : str
        The colour letter that is read; the first there is where there is none such.
    """
    by: dict[float, list[Moments]] = defaultdict(list)
    exposures: Exposures = defaultdict(set)
    pixels = 0
    for pair in pairs:
        one, two = pair.one.mosaic(), pair.two.mosaic()
        pixels = one.values.size
        found = moments_of(_cut(one, spot), _cut(two, spot))
        by[pair.iso].append(found.get(green) or next(iter(found.values())))
        exposures[pair.iso].add(pair.exposure)
    iso, snr, lacking = [], [], []
    for at, parts in sorted(by.items()):
        told = _snr(Moments.joined(parts))
        if isinstance(told, str):
            lacking.append(f"ISO {at:,.0f}: {told}")
            continue
        iso.append(at)
        snr.append(Interval(*(of_print(v, pixels) for v in (told.value, told.low, told.high))))
    return SpotCurve(SnrCurve(iso, snr), tuple(lacking), dict(exposures))


def _cut(mosaic: Mosaic, spot: Rect) -> Mosaic:
    """The part of a mosaic, from whole blocks of its pattern."""
    down, across = len(mosaic.pattern), len(mosaic.pattern[0])
    height, width = mosaic.values.shape
    top, left = (
        down * math.floor(spot.y * height / down),
        across * math.floor(spot.x * width / across),
    )
    bottom = down * math.ceil((spot.y + spot.h) * height / down)
    right = across * math.ceil((spot.x + spot.w) * width / across)
    values = mosaic.values[top:bottom, left:right]
    if min(values.shape) < 2 * max(down, across):
        raise BadRequest("The spot is too small, or lies off the frame. Give shares of 0 to 1.")
    return replace(mosaic, values=values)


def _snr(found: Moments) -> Interval | str:
    """Mean over temporal deviation, by leaving out blocks; in words why not."""
    n = found.means.size
    if found.cut > MOST_CUT:
        return "the spot is cut off at one end; choose one that is neither full nor black"
    if found.moved > MOST_CUT or n < LEAST:
        return "the spot is too small or full of scene; choose a larger, evener one"
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
