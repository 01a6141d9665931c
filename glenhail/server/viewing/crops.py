"""Parts of a picture as shown, put together from its lossless tiles: nothing is decoded
as a whole.
"""

from __future__ import annotations

from functools import lru_cache

import imagecodecs
import numpy as np

from glenhail.core.files.pyramid import TILE
from glenhail.core.picture import Rect
from glenhail.server.material.models import Picture
from glenhail.server.viewing.tiles import tile


def crop_codes(picture: Picture, rect: Rect) -> np.ndarray:
    """8-bit display codes of a rectangle of whole pixels within the picture, shape (h,
    w, 3).

    Raises
    ------
    NoDisplay
        If the picture's display copy is gone.
    """
    x, y, w, h = (int(v) for v in (rect.x, rect.y, rect.w, rect.h))
    out = np.empty((h, w, 3), dtype=np.uint8)
    for row in range(y // TILE, (y + h - 1) // TILE + 1):
        for column in range(x // TILE, (x + w - 1) // TILE + 1):
            codes = _codes(picture.pyramid, column, row)
            left, top = column * TILE, row * TILE
            x0, x1 = max(x, left), min(x + w, left + codes.shape[1])
            y0, y1 = max(y, top), min(y + h, top + codes.shape[0])
            out[y0 - y : y1 - y, x0 - x : x1 - x] = codes[
                y0 - top : y1 - top, x0 - left : x1 - left
            ]
    return out


@lru_cache(maxsize=64)
def _codes(pyramid: str, column: int, row: int) -> np.ndarray:
    return np.asarray(imagecodecs.png_decode(tile(pyramid, 0, column, row)))
