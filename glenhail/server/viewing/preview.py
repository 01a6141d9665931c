"""A degradation tried on a part of a picture as shown, before a whole frame is made."""

from __future__ import annotations

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.degrade.recipe import Recipe, degrade
from glenhail.core.files.encoding import encoded_codes, png_bytes
from glenhail.core.picture import Rect
from glenhail.server.material.models import Picture
from glenhail.server.viewing.crops import crop_codes

WIDTH, HEIGHT = 480, 360
MARGIN = 64  # px around it that blurs may reach into


def preview_png(picture: Picture, recipe: Recipe, x: float, y: float) -> bytes:
    """The recipe's result around a place of the picture, at the result's own size.

    Noise has the size it will have in the made frame, but falls elsewhere: it is drawn
    for this part alone.

    Raises
    ------
    BadRequest
        If a step can not be done to so small a picture.
    """
    whole = Rect(0, 0, picture.width, picture.height)
    left = min(max(0, round(x - WIDTH / 2)), max(0, picture.width - WIDTH))
    top = min(max(0, round(y - HEIGHT / 2)), max(0, picture.height - HEIGHT))
    part = Rect(left, top, WIDTH, HEIGHT).clipped(whole)
    wide = Rect(part.x - MARGIN, part.y - MARGIN, part.w + 2 * MARGIN, part.h + 2 * MARGIN).clipped(
        whole
    )
    light = srgb.decode(crop_codes(picture.pyramid, wide) / np.float32(255))
    made = degrade(np.asarray(light, dtype=np.float32), recipe)
    scale = made.shape[1] / wide.w
    x0, y0 = round((part.x - wide.x) * scale), round((part.y - wide.y) * scale)
    cut = made[y0 : y0 + max(1, round(part.h * scale)), x0 : x0 + max(1, round(part.w * scale))]
    return png_bytes(encoded_codes(cut, 8))
