"""Where in the picture colours moved: regions of the frame beside what the output has
there.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.picture import Doubles
from glenhail.core.tone.cast import GREY, hue_of
from glenhail.core.tone.curve import luminances
from glenhail.core.tone.matched import MatchedTone

ACROSS, DOWN = 6, 4
LEAST = 6  # areas


@dataclass(frozen=True)
class Region:
    """One of a grid over the frame: its column and row, mean colours in 8-bit codes, EV
    and CIEDE2000 (at equal luminance) of the output against the frame, and the frame's
    hue in words.
    """

    column: int
    row: int
    frame: tuple[int, int, int]
    output: tuple[int, int, int]
    stops: float
    de00: float
    hue: str


def regions(matched: MatchedTone) -> list[Region]:
    """Regions with enough areas that are neither black nor clipped.

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    columns = np.clip(((matched.x + 1) / 2 * ACROSS).astype(int), 0, ACROSS - 1)
    rows = np.clip(((matched.y + 1) / 2 * DOWN).astype(int), 0, DOWN - 1)
    found = []
    for row in range(DOWN):
        for column in range(ACROSS):
            mine = (columns == column) & (rows == row)
            if int(mine.sum()) >= LEAST:
                found.append(_region(column, row, matched, mine))
    return found


def _region(column: int, row: int, matched: MatchedTone, mine: np.ndarray) -> Region:
    one, two = (light[mine].mean(axis=0) for light in (matched.source, matched.output))
    y1, y2 = (float(np.median(y[mine])) for y in luminances(matched))
    ratio = max(y2, 1e-6) / max(y1, 1e-6)
    colours = lab(np.array([one, two / ratio]))
    chroma = float(np.hypot(*colours[0, 1:]))
    return Region(
        column,
        row,
        _codes(one),
        _codes(two),
        round(float(np.log2(ratio)), 3),
        round(float(ciede2000(colours[:1], colours[1:])[0]), 2),
        "grey" if chroma < GREY else hue_of(colours[:1])[0],
    )


def _codes(light: Doubles) -> tuple[int, int, int]:
    codes = np.clip(srgb.encode(light.astype(np.float32)) * 255, 0, 255).round()
    return int(codes[0]), int(codes[1]), int(codes[2])
