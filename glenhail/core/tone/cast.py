"""How an output's colours differ from its frame's once exposure and tone are taken off: white balance, saturation, hues."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.picture import Doubles
from glenhail.core.tone.curve import LEAST_IN_ZONE, Estimate, luminances, middle
from glenhail.core.tone.matched import Matched

# CIELAB hue angles at which each named hue begins, degrees; sectors about the primaries of BT.709. Names: common practice.
HUES = {"red": 345.0, "orange": 50.0, "yellow": 85.0, "green": 120.0, "cyan": 165.0, "blue": 230.0, "purple": 315.0}
# Chroma C* under which an area is grey, and over which its hue can be told.
GREY, COLOURED = 6.0, 8.0
DARKEST_L = 12.0  # L* under which noise and rounding turn hues


@dataclass(frozen=True)
class HueShift:
    """What became of one hue: its areas, chroma of output over frame, degrees that it turned, mean CIEDE2000."""

    hue: str
    areas: int
    chroma: float
    turned: float
    de00: float


@dataclass(frozen=True)
class Cast:
    """Colour, after the areas' luminance was matched.

    ``grey_a`` and ``grey_b`` are shifts of greys along a* (to red) and b* (to yellow), None where the frame has too few greys;
    ``saturation`` is chroma of output over frame, ``de00`` the mean colour difference of all areas.
    """

    de00: float
    grey_a: Estimate | None
    grey_b: Estimate | None
    saturation: Estimate | None
    hues: list[HueShift]


def cast(matched: Matched) -> Cast | None:
    """Compare the colours of matched areas; None where too few are light enough."""
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
    grey, coloured = chroma < GREY, chroma > COLOURED
    return Cast(
        float(ciede2000(one, other).mean()),
        _shift(other[grey, 1] - one[grey, 1]),
        _shift(other[grey, 2] - one[grey, 2]),
        _shift(made[coloured] / chroma[coloured]),
        [h for h in (_hue(name, one[coloured], other[coloured]) for name in HUES) if h is not None],
    )


def _shift(values: Doubles) -> Estimate | None:
    return middle(values) if values.size >= LEAST_IN_ZONE else None


def hue_of(colours: Doubles) -> list[str]:
    """The names of CIELAB colours' hues, shape (n, 3)."""
    angles = np.degrees(np.arctan2(colours[:, 2], colours[:, 1])) % 360
    names, begins = list(HUES), np.array(list(HUES.values()))
    order = np.argsort(begins)
    place = np.searchsorted(begins[order], angles, side="right") - 1
    return [names[order[i]] for i in place]  # before the first comes the last one


def _hue(name: str, one: Doubles, other: Doubles) -> HueShift | None:
    if one.shape[0] == 0:
        return None
    mine = np.array([n == name for n in hue_of(one)])
    if int(mine.sum()) < LEAST_IN_ZONE:
        return None
    a, b = one[mine], other[mine]
    turned = (np.degrees(np.arctan2(b[:, 2], b[:, 1]) - np.arctan2(a[:, 2], a[:, 1])) + 180) % 360 - 180
    ratio = np.hypot(b[:, 1], b[:, 2]) / np.hypot(a[:, 1], a[:, 2])
    return HueShift(name, int(mine.sum()), float(np.median(ratio)), float(np.median(turned)), float(ciede2000(a, b).mean()))
