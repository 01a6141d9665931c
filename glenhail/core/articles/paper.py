"""Crops of a figure on paper: how large they stand, and how often a pixel is repeated
so that no printer has to invent any.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

PAGE = 180  # mm of an A4 page between its margins
GAP = 3  # mm between two crops
ABREAST = 3  # in one row
TALLEST, TALLEST_LEAD = 74, 39  # mm; the lead stands on the first page
LEAST_PPI = 300  # the usual print target: common practice, no source
INCH = 25.4


@dataclass(frozen=True)
class PaperCrop:
    """The box of each crop of a figure, and the room that a row of them takes, mm."""

    width: float
    height: float
    row: float


def paper_crop(width: float, height: float, count: int, tallest: float = TALLEST) -> PaperCrop:
    """The box of each of so many crops of one patch.

    Parameters
    ----------
    width, height : float
        Of the patch, frame px.
    count : int
        How many crops there are.
    tallest : float
        That a crop may be, mm.
    """
    rows = math.ceil(count / ABREAST)
    beside = max(2, math.ceil(count / max(1, rows)))
    room = (PAGE - (beside - 1) * GAP) / beside
    across = min(room, tallest * width / height)
    return PaperCrop(across, across * height / width, beside * (across + GAP))


def repeats(pixels: float, millimetres: float) -> int:
    """How often each pixel is repeated, across and down, so that there are 300 in an
    inch of paper.

    Parameters
    ----------
    pixels : float
        Of a crop, across.
    millimetres : float
        That they take on paper.
    """
    return max(1, math.ceil(LEAST_PPI * millimetres / INCH / pixels))
