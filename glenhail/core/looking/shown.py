"""How the crops of a figure are shown: as made, in lifted light, a plane of them, as
seen in a use, or as what differs from another contender; the same picture that the
close look draws.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass
from functools import cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from glenhail.core.errors import BadRequest
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import (
    ComparedSide,
    Kind,
    common_part,
    difference_on_frame,
)
from glenhail.core.looking.light import (
    ALL,
    GAINED,
    GAINS,
    LIFTS,
    MIDDLE,
    PLANES,
)
from glenhail.core.looking.light import WORDS as PLANE_WORDS
from glenhail.core.looking.planes import Plane
from glenhail.core.picture import Floats, Rect
from glenhail.core.uses.own import kept_use
from glenhail.core.uses.table import Use

Codes = NDArray[np.uint8]

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
    """``lift`` in EV, a ``plane`` alone with its ``gain``; or as seen in a ``use``,
    where one that shows a part looks at a ``centre`` (shares of the output's sides);
    or, with the letter of a contender ``against``, a difference of a ``kind`` with its
    ``gain``.

    Raises
    ------
    BadRequest
        If one of them is none, or two do not go together.
    """

    lift: int = 0
    against: str = ""
    kind: str = ""
    gain: int = 1
    plane: str = ALL
    use: Use | None = None
    centre: tuple[float, float] = (0.5, 0.5)

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
        if self.plane not in PLANES:
            raise BadRequest(f"{self.plane!r} is no plane; one of {', '.join(PLANES)} is")
        if self.kind and self.plane != ALL:
            raise BadRequest("a difference is of all planes")
        if self.lift and self.plane in list(Plane):
            raise BadRequest(f"{PLANE_WORDS[self.plane]} is shown in no lifted light")
        if self.use and (self.lift or self.kind or self.plane != ALL):
            raise BadRequest("as seen in a use, a picture is neither lifted nor taken apart")
        if len(self.centre) != 2 or not all(0 <= share <= 1 for share in self.centre):
            raise BadRequest("a use looks at a place told as shares of the sides")

    @property
    def plain(self) -> bool:
        """Whether outputs are shown as they were made."""
        return not (self.lift or self.kind or self.use or self.plane != ALL)

    @property
    def words(self) -> str:
        """What a caption says of it; empty as made."""
        if self.kind:
            told = {"against": self.against, "gain": self.gain, "top": DE_TOP / self.gain}
            return WORDS[Kind(self.kind)].format(**told)
        if self.use:
            return f"as seen in use: {self.use.name}"
        light = f"{'lifted' if self.lift > 0 else 'lowered'} by {abs(self.lift)} EV"
        gain = f", {self.gain} times" if self.plane in GAINED else ""
        plane = f"{PLANE_WORDS[self.plane]}{gain}" if self.plane != ALL else ""
        return ", ".join(filter(None, [light if self.lift else "", plane]))

    def as_json(self) -> dict[str, Any]:
        """For documents; `showing_of` reads it."""
        return asdict(self) | {"centre": list(self.centre)}


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
    plain = {k: told[k] for k in ("lift", "against", "kind", "gain", "plane") if k in told}
    try:
        use = kept_use(told["use"]) if told.get("use") else None
        centre = tuple(told.get("centre") or (0.5, 0.5))
        return Showing(**plain, use=use, centre=centre)
    except (TypeError, AttributeError) as error:
        raise BadRequest("what a figure shows is told in another form") from error


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
    found = difference_on_frame(left, right, shared, kind)
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
