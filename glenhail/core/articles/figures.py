"""Crops of one patch as a figure: whole, equally magnified, in rows that use the page."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from glenhail.core.picture import Rect

MAGNIFICATIONS = (4, 3, 2, 1, 0.5, 0.25, 0.125, 0.0625)
ROOM = 1020  # a page's column, CSS px
GAP = 8  # between two crops
GROUND = 12  # of surround, left and right of a crop together
ABREAST = 6  # in one row
TALLEST = 330
TALLEST_WHOLE = 520  # of a frame as a whole
LABEL = (20, 17)  # of a mark's number, CSS px
CORNERS = ("top-left", "bottom-right", "top-right", "bottom-left")
BESIDE = ("beside-right", "beside-left")  # of a patch that a number would cover
LEAST = 8  # frame px a side of what a figure shows


def abreast(count: int) -> int:
    """How many crops stand in a row, so that rows are as even as can be.

    Parameters
    ----------
    count : int
        How many crops there are.
    """
    rows = math.ceil(count / ABREAST)
    return math.ceil(count / max(1, rows))


def room_for(count: int) -> float:
    """How wide each of so many crops may be, CSS px.

    Parameters
    ----------
    count : int
        How many crops there are.
    """
    beside = max(1, abreast(count))
    return (ROOM - (beside - 1) * GAP) / beside - GROUND


def magnification(
    width: float,
    height: float,
    count: int,
    wanted: float | None = None,
    tallest: float = TALLEST,
) -> float:
    """By how much the subject is magnified where so many crops of it stand in rows.

    Parameters
    ----------
    width, height : float
        Of the patch, frame px.
    count : int
        How many crops there are.
    wanted : float, optional
        That somebody asked for.
    tallest : float, optional
        How high a crop may stand, CSS px.

    Returns
    -------
    float
        The largest of `MAGNIFICATIONS` that fits, and is no more than what was asked
        for, else the smallest of them.
    """
    room = room_for(count)
    most = math.inf if wanted is None else wanted
    fitting = (
        m for m in MAGNIFICATIONS if m <= most and width * m <= room and height * m <= tallest
    )
    return next(fitting, MAGNIFICATIONS[-1])


def part_on_page(view: Rect, bounds: Rect, count: int, wanted: float) -> Rect:
    """The part about a view's middle that stands whole on a page, in a row of so many
    crops, at the magnification that it is seen at.

    Parameters
    ----------
    view : Rect
        What is seen, frame px; it may reach beyond the frame.
    bounds : Rect
        The frame.
    count : int
        How many crops there are.
    wanted : float
        The view's magnification: the largest of `MAGNIFICATIONS` up to it counts.

    Returns
    -------
    Rect
        Whole px within the frame, at least `LEAST` a side where the frame has them.
    """
    times = next((m for m in MAGNIFICATIONS if m <= wanted), MAGNIFICATIONS[-1])
    seen = view.clipped(bounds)
    w, h = (
        min(whole, max(LEAST, math.floor(min(side, fits / times))))
        for side, fits, whole in (
            (seen.w, room_for(count), bounds.w),
            (seen.h, TALLEST, bounds.h),
        )
    )
    x = min(bounds.w - w, max(0, round(view.x + view.w / 2 - w / 2)))
    y = min(bounds.h - h, max(0, round(view.y + view.h / 2 - h / 2)))
    return Rect(x, y, w, h)


def marks(patches: Sequence[tuple[str, Rect]], frame: Rect, times: float) -> list[dict[str, Any]]:
    """Patches as they are marked on a picture of their frame, numbered from above, each
    number in a corner of its patch, or beside a small one, where no other stands.

    Parameters
    ----------
    patches : sequence of (str, Rect)
        Their names and places, frame px.
    frame : Rect
        All of the frame.
    times : float
        How large it is shown, CSS px to one of the frame.

    Returns
    -------
    list of dict
        Number, name, corner, place in px, and the same as shares of the frame's sides
        as CSS wants them.
    """
    ordered = sorted(patches, key=lambda told: (told[1].y, told[1].x))
    made: list[dict[str, Any]] = []
    taken: list[Rect] = []
    for number, (name, rect) in enumerate(ordered, 1):
        small = rect.w * times < 2 * LABEL[0] or rect.h * times < 2 * LABEL[1]
        places = (*BESIDE, *CORNERS) if small else (*CORNERS, *BESIDE)
        boxes = {corner: _label(rect, corner, times) for corner in places}
        free = (c for c in places if _is_free(boxes[c], frame, taken))
        corner = next(free, places[0])
        taken.append(boxes[corner])
        place = [rect.x, rect.y, rect.w, rect.h]
        css = as_css(lie(rect, frame))
        told = {"number": number, "name": name, "corner": corner, "rect": place, "css": css}
        made.append(told)
    return made


def _label(rect: Rect, corner: str, times: float) -> Rect:
    """What a number takes of the frame in a corner of its patch, px."""
    w, h = (side / times for side in LABEL)
    beside = w if corner in BESIDE else 0.0
    x = rect.x - beside if corner.endswith("left") else rect.x + rect.w - w + beside
    y = rect.y + rect.h - h if corner.startswith("bottom") else rect.y
    return Rect(x, y, w, h)


def _is_free(box: Rect, frame: Rect, taken: Sequence[Rect]) -> bool:
    shared = [box.clipped(other) for other in taken]
    return box.clipped(frame) == box and not any(s.w > 0 and s.h > 0 for s in shared)


@dataclass(frozen=True)
class Lie:
    """Where whole pixels lie about a crop's box, in shares of the box: a crop's edges
    are those of its patch, and seldom those of an output's pixels.
    """

    left: float
    top: float
    width: float
    height: float


def lie(part: Rect, target: Rect) -> Lie:
    """How a cut part of an output lies about the patch's place in it.

    Parameters
    ----------
    part, target : Rect
        What was cut, and the patch's place; both in the output's px.
    """
    return Lie(
        (part.x - target.x) / target.w,
        (part.y - target.y) / target.h,
        part.w / target.w,
        part.h / target.h,
    )


def as_css(lies: Lie) -> dict[str, str]:
    """Shares of a box as CSS wants them, whatever the language of a page.

    Parameters
    ----------
    lies : Lie
        The shares.
    """
    return {k: f"{100 * v:.4f}%" for k, v in asdict(lies).items()}
