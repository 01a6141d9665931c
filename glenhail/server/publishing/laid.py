"""Where the crops of a figure are cut, and how a page lays them: worked out without a
pixel, for printing as for a preview.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

from glenhail.core.articles.figures import as_css, lie
from glenhail.core.picture import Rect
from glenhail.server.publishing.document import Document

# How much of the surroundings a reader may pan into: this many times the patch on each side.
SURROUNDINGS = 0.5
# A crop is shown in a small form first where that has at most this share of its pixels across.
SMALL = 0.75
DENSE = 2  # px of a dense screen for each of CSS


class Placed(Protocol):
    """What a crop is cut from: how large it is, and where the frame's px lie in it."""

    @property
    def letter(self) -> str: ...
    @property
    def bounds(self) -> Rect: ...
    @property
    def place(self) -> Callable[[Rect], Rect]: ...


@dataclass(frozen=True)
class LaidCrop:
    """One crop: ``target`` is the patch's place, ``inner`` the whole pixels that hold
    it, ``part`` those with the surroundings; ``entry`` is what a page is told of it.
    """

    target: Rect
    inner: Rect
    part: Rect
    entry: Document


def laid_crop(shot: Placed, patch: Document, stem: str) -> LaidCrop:
    """How a figure's crop of one contender is cut and laid; `stem` begins its files'
    names.
    """
    rect = Rect(*patch["rect"])
    target = shot.place(rect)
    more = Rect(
        target.x - SURROUNDINGS * target.w,
        target.y - SURROUNDINGS * target.h,
        (1 + 2 * SURROUNDINGS) * target.w,
        (1 + 2 * SURROUNDINGS) * target.h,
    )
    part = more.clipped(shot.bounds).whole()
    inner = target.outer().clipped(shot.bounds)
    name = f"{stem}-{shot.letter}.png"
    wide = inner.w / target.w * rect.w * patch["magnification"]
    small = small_size(inner, wide)
    # Of a frame as a whole there is what a dense screen shows: its original is offered by itself.
    whole = "marks" in patch
    scale = target.w / rect.w
    entry = {
        "letter": shot.letter,
        "file": f"crops/{name}",
        "small": f"small/{name}" if small else "",
        "around": "" if whole else f"around/{name}",
        "width": part.w,
        "height": part.h,
        # Frame coordinates of the surroundings' corner and size of one of its pixels there.
        "x": rect.x + (part.x - target.x) / scale,
        "y": rect.y + (part.y - target.y) / scale,
        "scale": scale,
        "shown": patch["magnification"] / scale,
        "css": as_css(lie(inner, target)),
        # In the output's whole pixels.
        "place": _whole(inner),
        "around_place": _whole(part),
        "small_size": small,
        **({"file_size": size} if whole and (size := small_size(inner, DENSE * wide)) else {}),
        "line": (patch["headline"] or {"told": {}})["told"].get(shot.letter, ""),
    }
    return LaidCrop(target, inner, part, entry)


def small_size(inner: Rect, width: float) -> list[int]:
    """The size of a crop as large as it stands on a page, where that is smaller than
    its own pixels, since a first view needs no more; else nothing.
    """
    across, own = round(width), round(inner.w)
    if across < 1 or across > SMALL * own:
        return []
    return [across, max(1, round(round(inner.h) * across / own))]


def _whole(rect: Rect) -> list[int]:
    return [round(v) for v in (rect.x, rect.y, rect.w, rect.h)]
