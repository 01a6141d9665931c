"""How the crops of a figure are shown: as made, in lifted light, or as what differs
from another contender; the same picture that the close look draws.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import (
    ComparedSide,
    Kind,
    common_part,
    difference,
    on_frame,
)
from glenhail.core.picture import Floats, Rect

Codes = NDArray[np.uint8]

LIFTS = (-3, -2, -1, 0, 1, 2, 3, 4, 5, 6)  # EV
GAINS = (1, 2, 4, 8, 16, 32)
MIDDLE = 119  # where a difference has its 0 on the screen: L* 50
DE_TOP = 20  # the CIEDE2000 that the scale ends with, at a gain of 1
# A scale that grows in lightness from end to end, so that it reads without colour too.
STOPS = ((18, 20, 24), (28, 70, 96), (60, 124, 110), (190, 172, 84), (255, 244, 214))
WORDS = {
    Kind.BRIGHTNESS: "brightness less that of {against}, {gain} times",
    Kind.ABSOLUTE: "difference of the channels from {against}, {gain} times",
    Kind.DE00: "CIEDE2000 from {against}, 0 dark to {top:g} light",
}


@dataclass(frozen=True)
class Showing:
    """``lift`` in EV; or, with the letter of a contender ``against``, a difference of a
    ``kind`` with its ``gain``.

    Raises
    ------
    BadRequest
        If one of them is none.
    """

    lift: int = 0
    against: str = ""
    kind: str = ""
    gain: int = 1

    def __post_init__(self) -> None:
        if self.lift not in LIFTS:
            raise BadRequest(f"light is lifted by one of {', '.join(map(str, LIFTS))} EV")
        if bool(self.against) != bool(self.kind):
            raise BadRequest("a difference has both a kind and a contender that it is taken from")
        if self.kind and self.kind not in list(Kind):
            raise BadRequest(f"{self.kind!r} is no difference; one of {', '.join(Kind)} is")
        if self.kind and self.lift:
            raise BadRequest("a difference is shown in no lifted light")
        if self.gain not in GAINS:
            raise BadRequest(f"a gain is one of {', '.join(map(str, GAINS))}")

    @property
    def plain(self) -> bool:
        """Whether outputs are shown as they were made."""
        return not self.lift and not self.kind

    @property
    def words(self) -> str:
        """What a caption says of it; empty as made."""
        if self.kind:
            told = {"against": self.against, "gain": self.gain, "top": DE_TOP / self.gain}
            return WORDS[Kind(self.kind)].format(**told)
        if not self.lift:
            return ""
        return f"{'lifted' if self.lift > 0 else 'lowered'} by {abs(self.lift)} EV"

    def as_json(self) -> dict[str, Any]:
        """For documents; `showing_of` reads it."""
        return {"lift": self.lift, "against": self.against, "kind": self.kind, "gain": self.gain}


def showing_of(told: dict[str, Any]) -> Showing:
    """How a figure is shown, as data tell it.

    Parameters
    ----------
    told : dict
        As `Showing.as_json` gives it; what is not told is as made.

    Raises
    ------
    BadRequest
        If one of it is none.
    """
    return Showing(**{k: told[k] for k in ("lift", "against", "kind", "gain") if k in told})


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


def difference_codes(
    one: AlignedPicture, two: AlignedPicture, part: Rect, kind: Kind, gain: int
) -> Codes:
    """What differs between two outputs of a frame, on its pixels, as the eye is shown
    it; the middle grey where one of them shows nothing.

    Parameters
    ----------
    one, two : AlignedPicture
        `one` less `two`.
    part : Rect
        Whole frame px.
    kind : Kind
        Which difference.
    gain : int
        How much of it is shown: as `GAINS`.

    Returns
    -------
    ndarray, shape (h, w, 3), uint8
    """
    height, width = int(part.h), int(part.w)
    codes = np.full((height, width, 3), MIDDLE, dtype=np.uint8)
    left, right = _side(one), _side(two)
    shared = common_part(part, left, right)
    if shared.w < 1 or shared.h < 1:
        return codes
    found = difference(on_frame(left, shared), on_frame(right, shared), kind)
    x, y = int(shared.x - part.x), int(shared.y - part.y)
    inner = codes[y : y + int(shared.h), x : x + int(shared.w)]
    inner[:] = _painted(found, kind, gain)
    return codes


def _side(laid: AlignedPicture) -> ComparedSide:
    pixels = laid.picture.pixels

    def read(part: Rect) -> Floats:
        x, y = int(part.x), int(part.y)
        return pixels[y : y + int(part.h), x : x + int(part.w)]

    return ComparedSide(laid.mapping, laid.picture.bounds, laid.usable, read)


def _painted(found: Floats, kind: Kind, gain: int) -> Codes:
    if kind == Kind.DE00:
        share = np.clip(found * gain / DE_TOP, 0, 1)
        return _ramp()[np.rint(share * 255).astype(np.intp)]
    zero = MIDDLE if kind == Kind.BRIGHTNESS else 0
    levels = np.clip(np.rint(found * gain + zero), 0, 255).astype(np.uint8)
    return levels if levels.ndim == 3 else np.repeat(levels[..., None], 3, axis=2)


@cache
def _ramp() -> Codes:
    at = np.linspace(0, len(STOPS) - 1, 256)
    low = np.minimum(len(STOPS) - 2, np.floor(at)).astype(int)
    stops = np.array(STOPS, dtype=float)
    mixed = stops[low] + (at - low)[:, None] * (stops[low + 1] - stops[low])
    return np.asarray(np.floor(mixed + 0.5), dtype=np.uint8)
