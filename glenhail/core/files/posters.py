"""A figure as one picture of a given size, for videos and posts: crops as large as they
go in whole pixels, and words that can be read on a phone.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from PIL import Image, ImageDraw, ImageFont

from glenhail.core.files.contact_sheet import (
    INK,
    PAPER,
    SOFT,
    SURROUND,
    Exhibit,
    fitted,
    font,
    letter_box,
    magnified,
)

# Pixels across and down: film and its double (ITU-R BT.709, BT.2020), and an upright post (4 : 5,
# common practice, no source).
SIZES = ((1920, 1080), (3840, 2160), (1080, 1350))
# Of the shorter side. 1,080 px lie on some 390 CSS px of a phone, so that words have 13 of them.
TEXT, SMALL, MARGIN = 0.034, 0.026, 0.03
STEPS = (16, 12, 10, 8, 6, 5, 4, 3, 2, 1, 1 / 2, 1 / 4, 1 / 8, 1 / 16)


@dataclass(frozen=True)
class Poster:
    """What is shown, above it what it is, below it where that comes from; crops are of
    ``width`` by ``height`` frame px.
    """

    heading: str
    below: str
    exhibits: Sequence[Exhibit]
    width: float
    height: float


@dataclass(frozen=True)
class Grid:
    """Rows of cells, and by how much crops are magnified in them; a cell's px."""

    columns: int
    rows: int
    times: float
    width: int
    height: int


def grid_of(count: int, size: tuple[float, float], room: tuple[int, int], gap: int) -> Grid:
    """The rows in which so many crops are largest.

    Parameters
    ----------
    count : int
        How many crops.
    size : tuple of float
        Of a crop, frame px across and down.
    room : tuple of int
        For all of them, px across and down; what stands below each is not in it.
    gap : int
        Between two cells, and room for what stands below each, px.

    Returns
    -------
    Grid
        Of equally large ones, that with the fewest empty cells, then columns. `times`
        is of whole pixels, 1 / 2, 1 / 4 and so on, or what fits if none does.
    """
    made = []
    for columns in range(1, count + 1):
        rows = math.ceil(count / columns)
        width = (room[0] - (columns - 1) * (gap // 4)) // columns
        height = room[1] // rows - gap
        if width < 1 or height < 1:
            continue
        fits = min(width / size[0], height / size[1])
        times = next((s for s in STEPS if s <= fits), fits)
        made.append(Grid(columns, rows, times, width, height))
    # Few columns leave room for words.
    best = max(made, key=lambda g: (g.times, count - g.columns * g.rows, -g.columns), default=None)
    return best or Grid(count, 1, min(room[0] / count / size[0], room[1] / size[1]), 1, 1)


def draw_poster(
    poster: Poster, size: tuple[int, int], text_font: Path, mono_font: Path
) -> Image.Image:
    """A figure on a picture of this size; no word lies over a pixel of a crop.

    Parameters
    ----------
    poster : Poster
        What is shown.
    size : tuple of int
        Px across and down.
    text_font, mono_font : Path
        The typefaces of words and of numbers.
    """
    short = min(size)
    margin = round(MARGIN * short)
    text, mono = font(text_font, round(TEXT * short)), font(mono_font, round(SMALL * short))
    sheet = Image.new("RGB", size, PAPER)
    pen = ImageDraw.Draw(sheet)
    room = size[0] - 2 * margin
    top = margin
    for words in lines_of(poster.heading, text, room):
        pen.text((margin, top), words, INK, text)
        top += round(1.3 * text.size)
    top += margin // 2
    bottom = size[1] - margin
    for words in reversed(lines_of(poster.below, mono, room)):
        pen.text((margin, bottom), words, SOFT, mono, anchor="ls")
        bottom -= round(1.3 * mono.size)
    bottom -= margin // 2
    pen.rectangle((0, top, size[0], bottom), SURROUND)
    label = round(2.9 * text.size)
    inner = (room, bottom - top - margin)
    grid = grid_of(len(poster.exhibits), (poster.width, poster.height), inner, label)
    for i, exhibit in enumerate(poster.exhibits):
        column, row = i % grid.columns, i // grid.columns
        last = len(poster.exhibits) - row * grid.columns
        used = min(grid.columns, last) * grid.width + (min(grid.columns, last) - 1) * (label // 4)
        left = margin + (room - used) // 2 + column * (grid.width + label // 4)
        place = (left, top + margin // 2 + row * (grid.height + label), grid.width, grid.height)
        _show(sheet, pen, exhibit, poster, grid.times, place, (text, mono))
    return sheet


def lines_of(words: str, face: ImageFont.FreeTypeFont, room: int) -> list[str]:
    """A text in at most two lines, the second cut where it is too long.

    Parameters
    ----------
    words : str
        The text.
    face : FreeTypeFont
        Its typeface.
    room : int
        Px.
    """
    first: list[str] = []
    rest = words.split()
    while rest and (not first or face.getlength(" ".join([*first, rest[0]])) <= room):
        first.append(rest.pop(0))
    return [fitted(" ".join(part), face, room) for part in (first, rest) if part]


def _show(
    sheet: Image.Image,
    pen: ImageDraw.ImageDraw,
    exhibit: Exhibit,
    poster: Poster,
    times: float,
    place: tuple[int, int, int, int],
    fonts: tuple[ImageFont.FreeTypeFont, ImageFont.FreeTypeFont],
) -> None:
    """One crop in the middle of its cell, its letter, name and number below it."""
    left, top, room, tall = place
    width = max(1, min(room, round(poster.width * times)))
    height = max(1, min(tall, round(poster.height * times)))
    crop = Image.fromarray(magnified(exhibit.codes, exhibit.box, width, height))
    text, mono = fonts
    side = round(1.3 * text.size)
    x, y = left + (room - width) // 2, top + (tall - height) // 2
    sheet.paste(crop, (x, y))
    # As wide as there is room, and beginning where the crop does.
    words = room - (x - left)
    at = y + height + round(0.25 * text.size)
    letter_box(pen, exhibit, x, at, side, text)
    beside = x + side + text.size // 3
    title = fitted(exhibit.title, text, words - side - int(text.size) // 3)
    pen.text((beside, at + side / 2), title, "white", text, anchor="lm")
    pen.text(
        (x, at + side + mono.size // 3), fitted(exhibit.line, mono, words), (235, 235, 235), mono
    )
