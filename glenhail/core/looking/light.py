"""Outputs under lifted light, and planes of them alone, as the eye is shown them: the
same pictures that the close look paints.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from glenhail.core.colour import srgb
from glenhail.core.looking.planes import MADE, REACH, Plane
from glenhail.core.picture import Floats, Rect

Codes = NDArray[np.uint8]

LIFTS = (-3, -2, -1, 0, 1, 2, 3, 4, 5, 6)  # EV
GAINS = (1, 2, 4, 8, 16, 32)
MIDDLE = 119  # where what lies about 0 has its 0 on the screen: L* 50
ALL, BRIGHTNESS, COLOUR = "all", "brightness", "colour"
CHANNELS = {"red": 0, "green": 1, "blue": 2}
PLANES = (ALL, BRIGHTNESS, COLOUR, *CHANNELS, *Plane)
#: Planes about a middle, which are gained.
GAINED = (COLOUR, *Plane)
WORDS = {
    BRIGHTNESS: "brightness alone",
    COLOUR: "colour alone",
    "red": "red alone",
    "green": "green alone",
    "blue": "blue alone",
    Plane.OCTAVE: "finest octave",
    Plane.NOISE: "noise left",
}


def lifted(pixels: Floats, lift: int) -> Codes:
    """A picture in lifted light, as the eye is shown it.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    lift : int
        EV.
    """
    return np.asarray(srgb.to_display(pixels * np.float32(2.0**lift)), dtype=np.uint8)


def lit_codes(
    read: Callable[[Rect], Floats], bounds: Rect, part: Rect, plane: str, lift: int, gain: int
) -> Codes:
    """A part of a picture under a light, or a plane of it alone, as the eye is shown
    it.

    Parameters
    ----------
    read : callable
        Gives linear light of whole pixels within the bounds, shape (h, w, 3).
    bounds : Rect
        All of the picture, px.
    part : Rect
        Whole pixels within it.
    plane : str
        One of `PLANES`.
    lift : int
        EV; planes that look at neighbours know none.
    gain : int
        Of planes about a middle.

    Returns
    -------
    ndarray, shape (h, w, 3), uint8
    """
    if plane == ALL:
        return lifted(read(part), lift)
    if plane in list(Plane):
        return _of_neighbours(read, bounds, part, Plane(plane), gain)
    values = 255 * srgb.encode(read(part) * np.float32(2.0**lift))
    if plane in CHANNELS:
        return _grey(values[..., CHANNELS[plane]])
    brightness = values @ srgb.LUMA
    if plane == BRIGHTNESS:
        return _grey(brightness)
    return _codes(MIDDLE + gain * (values - brightness[..., None]))


def _of_neighbours(
    read: Callable[[Rect], Floats], bounds: Rect, part: Rect, plane: Plane, gain: int
) -> Codes:
    reach = REACH[plane]
    around = Rect(part.x - reach, part.y - reach, part.w + 2 * reach, part.h + 2 * reach)
    wide = around.clipped(bounds)
    made = MADE[plane](srgb.encode(read(wide)))
    x, y = int(part.x - wide.x), int(part.y - wide.y)
    return _codes(MIDDLE + 255 * gain * made[y : y + int(part.h), x : x + int(part.w)])


def _grey(values: Floats) -> Codes:
    return np.repeat(_codes(values)[..., None], 3, axis=2)


def _codes(values: Floats) -> Codes:
    return np.clip(np.rint(values), 0, 255).astype(np.uint8)
