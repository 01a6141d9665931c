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
    draw_marks,
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
    ``width`` by ``height`` frame px, magnified by one of ``steps`` if one fits.
    """

    heading: str
    below: str
    exhibits: Sequence[Exhibit]
    width: float
    height: float
    steps: Sequence[float] = STEPS


@dataclass(frozen=True)
class Ground:
    """A picture with its words, the room between them from ``top`` to ``bottom``, and
    what that leaves for crops, px; below each of these ``label`` px are its own words'.
    """

    sheet: Image.Image
    fonts: tuple[ImageFont.FreeTypeFont, ImageFont.FreeTypeFont]
    margin: int
    top: int
    bottom: int
    label: int

    @property
    def room(self) -> tuple[int, int]:
        """Px across and down, labels included."""
        return self.sheet.width - 2 * self.margin, self.bottom - self.top - self.margin


@dataclass(frozen=True)
class Grid:
    """Rows of cells, and by how much crops are magnified in them; a cell's px."""

    columns: int
    rows: int
    times: float
    width: int
    height: int


def grid_of(
    count: int,
    size: tuple[float, float],
    room: tuple[int, int],
    gap: int,
    steps: Sequence[float] = STEPS,
) -> Grid:
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
    steps : sequence of float
        Magnifications that are wanted, the largest first.

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
        times = next((s for s in steps if s <= fits), fits)
        made.append(Grid(columns, rows, times, width, height))
    # Few columns leave room for words.
    best = max(made, key=lambda g: (g.times, count - g.columns * g.rows, -g.columns), default=None)
    return best or Grid(count, 1, min(room[0] / count / size[0], room[1] / size[1]), 1, 1)


def ground_of(
    heading: str, below: str, size: tuple[int, int], text_font: Path, mono_font: Path
) -> Ground:
    """A picture of this size with its words and neutral grey between them.

    Parameters
    ----------
    heading, below : str
        What stands above and below.
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
    for words in lines_of(heading, text, room):
        pen.text((margin, top), words, INK, text)
        top += round(1.3 * text.size)
    top += margin // 2
    bottom = size[1] - margin
    for words in reversed(lines_of(below, mono, room)):
        pen.text((margin, bottom), words, SOFT, mono, anchor="ls")
        bottom -= round(1.3 * mono.size)
    bottom -= margin // 2
    # Even, as all that a video lays over another has to lie.
    top, bottom = top + top % 2, bottom - bottom % 2
    pen.rectangle((0, top, size[0], bottom), SURROUND)
    return Ground(sheet, (text, mono), margin, top, bottom, round(2.9 * text.size))


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
    ground = ground_of(poster.heading, poster.below, size, text_font, mono_font)
    label, margin = ground.label, ground.margin
    count, of = len(poster.exhibits), (poster.width, poster.height)
    grid = grid_of(count, of, ground.room, label, poster.steps)
    for i, exhibit in enumerate(poster.exhibits):
        column, row = i % grid.columns, i // grid.columns
        last = count - row * grid.columns
        used = min(grid.columns, last) * grid.width + (min(grid.columns, last) - 1) * (label // 4)
        left = margin + (ground.room[0] - used) // 2 + column * (grid.width + label // 4)
        top = ground.top + margin // 2 + row * (grid.height + label)
        show(ground, exhibit, poster, grid.times, (left, top, grid.width, grid.height))
    return ground.sheet


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


def show(
    ground: Ground,
    exhibit: Exhibit,
    poster: Poster,
    times: float,
    place: tuple[int, int, int, int],
) -> None:
    """One crop in the middle of its cell, its letter, name and number below it.

    Its corner has even coordinates: where video takes colour for two by two pixels,
    these are whole pixels of a crop that is magnified evenly.

    Parameters
    ----------
    ground : Ground
        On what.
    exhibit : Exhibit
        The crop.
    poster : Poster
        To which it belongs.
    times : float
        Its magnification, of the frame.
    place : tuple of int
        The cell: left, top, width and height, px.
    """
    left, top, room, tall = place
    width = max(1, min(room, round(poster.width * times)))
    height = max(1, min(tall, round(poster.height * times)))
    crop = Image.fromarray(magnified(exhibit.codes, exhibit.box, width, height))
    pen = ImageDraw.Draw(ground.sheet)
    text, mono = ground.fonts
    side = round(1.3 * text.size)
    x, y = (v - v % 2 for v in (left + (room - width) // 2, top + (tall - height) // 2))
    ground.sheet.paste(crop, (x, y))
    draw_marks(pen, exhibit.marks, (x, y), (width, height), mono)
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
