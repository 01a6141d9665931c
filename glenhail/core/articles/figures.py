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


def abreast(count: int) -> int:
    """How many crops stand in a row, so that rows are as even as can be.

    Parameters
    ----------
    count : int
        How many crops there are.
    """
    rows = math.ceil(count / ABREAST)
    return math.ceil(count / max(1, rows))


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
    beside = max(1, abreast(count))
    room = (ROOM - (beside - 1) * GAP) / beside - GROUND
    most = math.inf if wanted is None else wanted
    fitting = (
        m for m in MAGNIFICATIONS if m <= most and width * m <= room and height * m <= TALLEST
    )
    return next(fitting, MAGNIFICATIONS[-1])


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
