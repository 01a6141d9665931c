"""How an output's colours differ from its frame's once exposure and tone are taken off:
white balance, saturation, hues.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles
from glenhail.core.tone.curve import LEAST_IN_ZONE, luminances, middle
from glenhail.core.tone.matched import MatchedTone

# CIELAB hue angles at which each named hue begins, degrees; sectors about the primaries of BT.709.
# Names: common practice.
HUES = {
    "red": 345.0,
    "orange": 50.0,
    "yellow": 85.0,
    "green": 120.0,
    "cyan": 165.0,
    "blue": 230.0,
    "purple": 315.0,
}
# Chroma C* under which an area is grey, and over which its hue can be told.
GREY, COLOURED = 6.0, 8.0
DARKEST_L = 12.0  # L* under which noise and rounding turn hues


@dataclass(frozen=True)
class HueShift:
    """What became of one hue: its areas, chroma of output over frame, degrees that it
    turned, mean CIEDE2000.
    """

    hue: str
    areas: int
    chroma: float
    turned: float
    de00: float


@dataclass(frozen=True)
class Cast:
    """Colour, after the areas' luminance was matched.

    ``grey_a`` and ``grey_b`` are shifts of greys along a* (to red) and b* (to yellow),
    None where the frame has too few greys; ``all_a`` and ``all_b`` the same of all
    areas. ``saturation`` is chroma of output over frame, ``de00`` the mean colour
    difference of all areas, which noise alone raises.
    """

    de00: float
    all_a: Interval | None
    all_b: Interval | None
    grey_a: Interval | None
    grey_b: Interval | None
    saturation: Interval | None
    hues: list[HueShift]


def cast(matched: MatchedTone) -> Cast | None:
    """Compare the colours of matched areas; None where too few are light enough.

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    frame_y, output_y = luminances(matched)
    safe = (frame_y > 0) & (output_y > 0)
    # Each area at the frame's luminance: what is left is colour alone.
    equal = matched.output[safe] * (frame_y[safe] / output_y[safe])[:, None]
    one, other = lab(matched.source[safe]), lab(equal)
    light = one[:, 0] > DARKEST_L
    one, other = one[light], other[light]
    if one.shape[0] < LEAST_IN_ZONE:
        return None
    chroma, made = np.hypot(one[:, 1], one[:, 2]), np.hypot(other[:, 1], other[:, 2])
    # Sorted by what lies midway: by the frame's own noisy colours, those that noise had moved would
    # seem to move back.
    midway = (one + other) / 2
    between = np.hypot(midway[:, 1], midway[:, 2])
    grey, coloured = between < GREY, between > COLOURED
    names = np.array(hue_of(midway[coloured]))
    return Cast(
        float(ciede2000(one, other).mean()),
        _shift(other[:, 1] - one[:, 1]),
        _shift(other[:, 2] - one[:, 2]),
        _shift(other[grey, 1] - one[grey, 1]),
        _shift(other[grey, 2] - one[grey, 2]),
        _shift(made[coloured] / chroma[coloured]),
        [
            h
            for h in (
                _hue(name, one[coloured][names == name], other[coloured][names == name])
                for name in HUES
            )
            if h is not None
        ],
    )


def _shift(values: Doubles) -> Interval | None:
    return middle(values) if values.size >= LEAST_IN_ZONE else None


def hue_of(colours: Doubles) -> list[str]:
    """The names of CIELAB colours' hues, shape (n, 3).

    Parameters
    ----------
    colours : ndarray, shape (n, 3)
        CIELAB colours.
    """
    angles = np.degrees(np.arctan2(colours[:, 2], colours[:, 1])) % 360
    names, begins = list(HUES), np.array(list(HUES.values()))
    order = np.argsort(begins)
    place = np.searchsorted(begins[order], angles, side="right") - 1
    return [names[order[i]] for i in place]  # before the first comes the last one


def _hue(name: str, one: Doubles, other: Doubles) -> HueShift | None:
    if one.shape[0] < LEAST_IN_ZONE:
        return None
    turned = (_angle(other) - _angle(one) + 180) % 360 - 180
    ratio = np.hypot(other[:, 1], other[:, 2]) / np.hypot(one[:, 1], one[:, 2])
    usual = [np.median(side, axis=0, keepdims=True) for side in (one, other)]
    return HueShift(
        name,
        one.shape[0],
        float(np.median(ratio)),
        float(np.median(turned)),
        float(ciede2000(*usual)[0]),
    )


def _angle(colours: Doubles) -> Doubles:
    return np.asarray(np.degrees(np.arctan2(colours[:, 2], colours[:, 1])))
