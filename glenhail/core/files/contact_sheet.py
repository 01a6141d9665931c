"""Crops side by side on neutral grey with their labels, as one picture that can travel
alone.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Rect

SURROUND = (119, 119, 119)  # L* 50, after ISO 3664's neutral surround
PAPER, INK, SOFT = (251, 251, 250), (26, 28, 28), (92, 97, 97)
MARGIN, GAP, LABEL = 20, 12, 58


@dataclass(frozen=True)
class Mark:
    """A part of a crop that is outlined: its place in shares of the crop's sides, and
    the word that stands in one of its corners, as ``top-left``, or ``beside-right``.
    """

    word: str
    place: Rect
    corner: str


@dataclass(frozen=True)
class Exhibit:
    """One crop: the display codes around it, where in them it lies, what it is called,
    and what of it is marked.
    """

    codes: np.ndarray
    box: Rect
    letter: str
    colour: str
    title: str
    line: str
    marks: Sequence[Mark] = ()


def magnified(codes: np.ndarray, box: Rect, width: int, height: int) -> np.ndarray:
    """A part of a shown picture (uint8) at a given size: pixels stay pixels when
    enlarged, else averages in linear light.

    Parameters
    ----------
    codes : ndarray, unsigned integer
        Codes of a coded picture.
    box : Rect
        The part, px.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    if width >= box.w and height >= box.h:
        rows = np.floor(box.y + (np.arange(height) + 0.5) * box.h / height).astype(int)
        columns = np.floor(box.x + (np.arange(width) + 0.5) * box.w / width).astype(int)
        return np.asarray(
            codes[rows.clip(0, codes.shape[0] - 1)][:, columns.clip(0, codes.shape[1] - 1)]
        )
    linear = srgb.decode(codes.astype(np.float32) / 255)
    return srgb.to_display(resample(linear, box, width, height, "area"))


def draw_sheet(
    heading: str,
    exhibits: Sequence[Exhibit],
    width: int,
    height: int,
    text_font: Path,
    mono_font: Path,
) -> Image.Image:
    """Lay exhibits out in a row, every crop `width` x `height`, labels below and never
    over pixels.

    Parameters
    ----------
    heading : str
        The line above all of them.
    exhibits : sequence of Exhibit
        Crops with their labels, left to right.
    width : int
        Each crop's, px.
    height : int
        Each crop's, px.
    text_font : Path
        The typeface of labels.
    mono_font : Path
        The typeface of numbers.
    """
    text, mono = font(text_font, 16), font(mono_font, 14)
    cell = max(width, 190)
    total = 2 * MARGIN + len(exhibits) * cell + (len(exhibits) - 1) * GAP
    sheet = Image.new("RGB", (total, 3 * MARGIN + 24 + height + 2 * GAP + LABEL), PAPER)
    pen = ImageDraw.Draw(sheet)
    pen.text((MARGIN, MARGIN - 6), heading, INK, text)
    top = MARGIN + 24
    pen.rectangle(
        (MARGIN - GAP // 2, top, total - MARGIN + GAP // 2, top + height + 2 * GAP), SURROUND
    )
    for i, exhibit in enumerate(exhibits):
        left = MARGIN + i * (cell + GAP)
        crop = magnified(exhibit.codes, exhibit.box, width, height)
        corner = left + (cell - width) // 2, top + GAP
        sheet.paste(Image.fromarray(crop), corner)
        draw_marks(pen, exhibit.marks, corner, (width, height), mono)
        _label(pen, exhibit, left, top + height + 3 * GAP, text, mono, cell)
    return sheet


def draw_marks(
    pen: ImageDraw.ImageDraw,
    marked: Sequence[Mark],
    corner: tuple[int, int],
    size: tuple[int, int],
    face: ImageFont.FreeTypeFont,
) -> None:
    """Outline parts of a drawn crop, each with its word: light within dark, so that
    they are seen on any ground.

    Parameters
    ----------
    pen : ImageDraw
        Of the picture on which the crop is drawn.
    marked : sequence of Mark
        The parts.
    corner, size : tuple of int
        Of the drawn crop, px.
    face : FreeTypeFont
        Of the words.
    """
    for mark in marked:
        lies = mark.place
        left, top = corner[0] + lies.x * size[0], corner[1] + lies.y * size[1]
        right, bottom = left + lies.w * size[0], top + lies.h * size[1]
        pen.rectangle((left - 1, top - 1, right + 1, bottom + 1), outline=INK)
        pen.rectangle((left, top, right, bottom), outline=PAPER)
        w = math.ceil(face.getlength(mark.word)) + 6
        h = math.ceil(1.3 * face.size)
        beside = w + 2 if mark.corner.startswith("beside") else 0
        x = left + 1 - beside if mark.corner.endswith("left") else right - 1 - w + beside
        y = bottom - 1 - h if mark.corner.startswith("bottom") else top + 1
        pen.rectangle((x, y, x + w, y + h), fill=INK)
        pen.text((x + w / 2, y + h / 2), mark.word, PAPER, face, anchor="mm")


def draw_marked(codes: np.ndarray, marked: Sequence[Mark], mono_font: Path) -> np.ndarray:
    """A picture with parts of it outlined.

    Parameters
    ----------
    codes : ndarray, shape (h, w, 3), uint8
        The picture.
    marked : sequence of Mark
        The parts.
    mono_font : Path
        The typeface of their words.
    """
    sheet = Image.fromarray(codes)
    face = font(mono_font, max(12, round(sheet.width / 90)))
    draw_marks(ImageDraw.Draw(sheet), marked, (0, 0), sheet.size, face)
    return np.asarray(sheet)


@cache
def font(path: Path, size: int) -> ImageFont.FreeTypeFont:
    """A typeface at a size; read once.

    Parameters
    ----------
    path : Path
        Of its file.
    size : int
        Px.
    """
    return ImageFont.truetype(path, size)


def _label(
    pen: ImageDraw.ImageDraw,
    exhibit: Exhibit,
    x: int,
    y: int,
    text: ImageFont.FreeTypeFont,
    mono: ImageFont.FreeTypeFont,
    room: int,
) -> None:
    letter_box(pen, exhibit, x, y, 20, text)
    pen.text((x + 28, y), fitted(exhibit.title, text, room - 28), INK, text)
    pen.text((x, y + 28), fitted(exhibit.line, mono, room), SOFT, mono)


def letter_box(
    pen: ImageDraw.ImageDraw,
    exhibit: Exhibit,
    x: int,
    y: int,
    side: int,
    face: ImageFont.FreeTypeFont,
) -> None:
    """A contender's letter on its colour.

    Parameters
    ----------
    pen : ImageDraw
        Of the picture.
    exhibit : Exhibit
        Whose letter.
    x, y, side : int
        The box, px.
    face : FreeTypeFont
        Of the letter.
    """
    fill, edge = exhibit.colour or PAPER, exhibit.colour or INK
    pen.rectangle((x, y, x + side, y + side), fill=fill, outline=edge, width=2)
    ink = "white" if exhibit.colour else INK
    pen.text((x + side / 2, y + side / 2), exhibit.letter, ink, face, anchor="mm")


def fitted(words: str, face: ImageFont.FreeTypeFont, room: int) -> str:
    """As much of a text as there is room for.

    Parameters
    ----------
    words : str
        The text.
    face : FreeTypeFont
        Its typeface.
    room : int
        Px.
    """
    if face.getlength(words) <= room:
        return words
    while words and face.getlength(words + "…") > room:
        words = words[:-1]
    return words.rstrip() + "…"
