"""Crops of one patch as a figure: whole, equally magnified, in rows that use the page."""

from __future__ import annotations

import math
from dataclasses import dataclass

from glenhail.core.picture import Rect

MAGNIFICATIONS = (4, 3, 2, 1, 0.5, 0.25, 0.125)
ROOM = 1020  # a page's column, CSS px
GAP = 8  # between two crops
GROUND = 12  # of surround, left and right of a crop together
ABREAST = 6  # in one row
TALLEST = 330
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


def magnification(width: float, height: float, count: int, wanted: float | None = None) -> float:
    """By how much the subject is magnified where so many crops of it stand in rows.

    Parameters
    ----------
    width, height : float
        Of the patch, frame px.
    count : int
        How many crops there are.
    wanted : float, optional
        That somebody asked for.

    Returns
    -------
    float
        The largest of `MAGNIFICATIONS` that fits, and is no more than what was asked
        for, else the smallest of them.
    """
    room = room_for(count)
    most = math.inf if wanted is None else wanted
    fitting = (
        m for m in MAGNIFICATIONS if m <= most and width * m <= room and height * m <= TALLEST
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
