"""Parts of a picture as shown, put together from its lossless tiles: nothing is decoded
as a whole.
"""

from __future__ import annotations

import math
from functools import lru_cache

import imagecodecs
import numpy as np

from glenhail.core.files.pyramid import Codes, part_of
from glenhail.core.picture import Rect
from glenhail.server.viewing.tiles import tile


def crop_codes(pyramid: str, rect: Rect) -> Codes:
    """8-bit display codes of a rectangle of whole pixels within the picture of a
    pyramid, shape (h, w, 3).

    Raises
    ------
    NoDisplay
        If the picture's display copy is gone.
    """
    return part_of(rect, lambda column, row: _codes(pyramid, column, row))


def reduced_codes(pyramid: str, levels: int, rect: Rect, across: int) -> Codes:
    """A large rectangle at about a width, from the level that comes next above it: for
    a glance, since its pixels were averaged and rounded on their way.

    Raises
    ------
    NoDisplay
        If the picture's display copy is gone.
    """
    level = min(levels, max(1, int(rect.w // across).bit_length())) - 1
    share = 0.5**level
    sides = (max(1, math.floor(rect.w * share)), max(1, math.floor(rect.h * share)))
    part = Rect(math.floor(rect.x * share), math.floor(rect.y * share), *sides)
    return part_of(part, lambda column, row: _codes(pyramid, column, row, level))


def thumb_codes(pyramid: str, levels: int) -> Codes:
    """The whole of a picture as its coarsest level shows it, at most 512 px a side.

    Raises
    ------
    NoDisplay
        If the picture's display copy is gone.
    """
    return np.asarray(imagecodecs.png_decode(tile(pyramid, levels - 1, 0, 0)))


@lru_cache(maxsize=64)
def _codes(pyramid: str, column: int, row: int, level: int = 0) -> Codes:
    return imagecodecs.png_decode(tile(pyramid, level, column, row))
