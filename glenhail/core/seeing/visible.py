"""Whether anybody would see it: two pictures brought to a use and held against each
other by a model of seeing.
"""

from __future__ import annotations

from collections.abc import Callable, MutableMapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

import cv2
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest
from glenhail.core.files.pyramid import Codes
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.thresholds import PRACTICE
from glenhail.core.picture import Floats, Rect
from glenhail.core.seeing.flip import flip
from glenhail.core.seeing.scielab import scielab
from glenhail.core.uses.seen import SeenLayout, SeenPicture, as_seen, part_as_seen, seen_layout
from glenhail.core.uses.table import Use

VERSION = "2"


class Seen(StrEnum):
    """How easily a difference is seen."""

    NOBODY = "seen by nobody"
    POINTED = "seen when pointed at"
    ONCE = "seen at once"


@dataclass(frozen=True)
class SeenStep:
    """From which CIEDE2000 on, over which share of the picture, a difference is seen so
    easily.
    """

    seen: Seen
    de00: float
    share: float
    source: str = PRACTICE


# The easiest first. Calls of sittings are to calibrate them; until then nobody measured them.
STEPS = (SeenStep(Seen.ONCE, 3.0, 0.01), SeenStep(Seen.POINTED, 1.0, 0.001))
# Pixels a degree from which both models look at every second one: an eye resolves 60 (common
# practice, no source), and neither passes a thousandth of what is finer than 30 cycles a degree.
FINE = 120.0
LARGEST_SIDE = 0.03  # of the picture's longer side: the place where most is seen


@dataclass(frozen=True)
class Visible:
    """What would be seen of a difference in a use.

    ``share`` is how much of the picture differs by 1 CIEDE2000 or more as it is seen,
    ``strong`` how much of it by 3 or more, ``most`` its highest mean over a place,
    ``place`` where that lies, shares of what is shown; ``at`` the 99th percentile.
    ``flip`` is the mean of FLIP, which decides nothing. ``same`` tells that both were
    one picture to the last code.
    """

    use: str
    seen: Seen
    share: float
    strong: float
    at: float
    most: float
    place: Rect
    flip: float
    same: bool = False


@dataclass(frozen=True)
class VisibleMaps:
    """Both maps behind it, shape (h, w) of the use's pixels, or of every second one
    where these are finer than an eye resolves; and what was looked at.
    """

    told: Visible
    de00: Floats
    flip: Floats
    one: SeenPicture
    two: SeenPicture


def visible(
    one: AlignedPicture,
    two: AlignedPicture,
    use: Use,
    centre: tuple[float, float] = (0.5, 0.5),
    known: MutableMapping[Use, SeenPicture] | None = None,
) -> VisibleMaps:
    """Hold two outputs of one frame against each other in a use.

    Of both the part is taken that they share; where one has more pixels, the other is
    made as large as that one is in use.

    Parameters
    ----------
    one, two : AlignedPicture
        Linear light, lined up with the frame.
    use : Use
        Where they are seen.
    centre : (float, float)
        Where a use that shows only a part looks, shares of width and height.
    known : MutableMapping of Use to SeenPicture, optional
        The whole of the first as it is seen, kept for others to be held against it
        about the same centre.

    Raises
    ------
    BadRequest
        If they share nothing, or the use is a video and they differ in size, or videos
        can not be made here.
    """
    straight = [p.straight for p in (one, two)]
    shared = straight[0].mapping.back(straight[0].usable)
    shared = shared.clipped(straight[1].mapping.back(straight[1].usable))
    if min(shared.w, shared.h) < 1:
        raise BadRequest("The two share no part of the frame. Choose outputs that do.")
    parts = [p.mapping.rect(shared) for p in straight]
    wholes = [_whole(p, part) for p, part in zip(straight, parts, strict=True)]
    if all(wholes) and parts[0] == parts[1]:
        kept = {} if known is None else known

        def whole(at: int) -> SeenPicture:
            if at == 0 and use in kept:
                return kept[use]
            return as_seen(straight[at].picture.pixels, use, centre)

        seen = _both(whole, range(2))
        kept[use] = seen[0]
    elif use.video_mbit is not None:
        raise BadRequest("A video is made of whole pictures of one size; these two differ in it.")
    else:
        larger = max(parts, key=lambda part: part.w * part.h)
        lies = seen_layout(round(larger.w), round(larger.h), use, centre)
        places = [_within(part, larger, lies) for part in parts]
        seen = _both(
            lambda i: part_as_seen(
                straight[i].picture.pixels, use, places[i], lies.width, lies.height
            ),
            range(2),
        )
    return visible_seen(seen[0], seen[1], use)


def _both(work: Callable[[Any], Any], two: Sequence[Any]) -> list[Any]:
    """Two things at once: both wait for memory and for code that lets others run."""
    with ThreadPoolExecutor(len(two)) as threads:
        return list(threads.map(work, two))


def _whole(of: AlignedPicture, part: Rect) -> bool:
    return part == Rect(0, 0, of.picture.width, of.picture.height)


def _within(part: Rect, larger: Rect, lies: SeenLayout) -> Rect:
    """What a use shows of the larger one's part, on another one's pixels."""
    across, down = part.w / round(larger.w), part.h / round(larger.h)
    shown = lies.part
    return Rect(
        part.x + shown.x * across, part.y + shown.y * down, shown.w * across, shown.h * down
    )


def visible_seen(one: SeenPicture, two: SeenPicture, use: Use) -> VisibleMaps:
    """The same of pictures that were brought to the use.

    Parameters
    ----------
    one, two : SeenPicture
        As `as_seen` has them.
    use : Use
        Where they are seen.
    """
    ppd, codes = use.pixels_per_degree, [one.codes, two.codes]
    if ppd >= FINE:
        ppd, codes = ppd / 2, _both(_halved, codes)
    by_eye, map_ = _both(lambda model: model(codes[0], codes[1], ppd), (scielab, flip))
    apart = by_eye.astype(np.float32)
    return VisibleMaps(_told(use, apart, map_, one, two), apart, map_, one, two)


def _halved(codes: Codes) -> Codes:
    """Means of two by two pixels, of light."""
    height, width = (max(1, side // 2) for side in codes.shape[:2])
    light = srgb.decode(codes.astype(np.float32) / 255)
    return srgb.to_display(
        np.asarray(cv2.resize(light, (width, height), interpolation=cv2.INTER_AREA))
    )


def _told(use: Use, apart: Floats, map_: Floats, one: SeenPicture, two: SeenPicture) -> Visible:
    most, place = _where_most(apart)
    return Visible(
        use.id,
        seen_of(apart),
        float((apart >= STEPS[-1].de00).mean()),
        float((apart >= STEPS[0].de00).mean()),
        float(np.percentile(apart, 99)),
        most,
        place,
        float(map_.mean()),
        bool((one.codes == two.codes).all()),
    )


def seen_of(apart: np.ndarray, steps: Sequence[SeenStep] = STEPS) -> Seen:
    """How easily a map of differences is seen.

    Parameters
    ----------
    apart : ndarray
        CIEDE2000 of each pixel as it is seen.
    steps : sequence of SeenStep
        The easiest first.
    """
    return seen_by_shares([float((apart >= step.de00).mean()) for step in steps], steps)


def seen_by_shares(shares: Sequence[float], steps: Sequence[SeenStep] = STEPS) -> Seen:
    """The same, by how much of the picture differs by each step or more.

    Parameters
    ----------
    shares : sequence of float
        0..1, one for each step.
    steps : sequence of SeenStep
        The easiest first.
    """
    for share, step in zip(shares, steps, strict=True):
        if share >= step.share:
            return step.seen
    return Seen.NOBODY


def _where_most(apart: Floats) -> tuple[float, Rect]:
    """The highest mean over a square place, and where it lies, shares of the sides."""
    height, width = apart.shape
    side = max(1, min(height, width, round(LARGEST_SIDE * max(height, width))))
    means = cv2.blur(apart, (side, side), anchor=(0, 0), borderType=cv2.BORDER_REPLICATE)
    inside = means[: height - side + 1, : width - side + 1]
    y, x = np.unravel_index(int(inside.argmax()), inside.shape)
    place = Rect(float(x) / width, float(y) / height, side / width, side / height)
    return float(inside[y, x]), place


def told(found: Visible, names: tuple[str, str], use: Use) -> str:
    """In words whether anybody would see it.

    Parameters
    ----------
    found : Visible
        Of the two.
    names : (str, str)
        Theirs.
    use : Use
        Where they are seen.
    """
    pair = f"{names[0]} and {names[1]}"
    if found.same:
        return f"As {use.name}: {pair} are the same to the last code."
    if found.seen is Seen.NOBODY:
        return f"As {use.name}: the difference of {pair} is {found.seen}."
    return (
        f"As {use.name}: the difference of {pair} is {found.seen}, in"
        f" {100 * found.share:.1f} % of the picture."
    )
