"""Where a spot lies on a mosaic, and the part of it there."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from glenhail.core.files.raw import Mosaic
from glenhail.core.picture import Rect


def cut(mosaic: Mosaic, spot: Rect) -> Mosaic | None:
    """The part of a mosaic, from whole blocks of its pattern; None where it is too
    small to tell anything, or lies off the frame.

    Parameters
    ----------
    mosaic : Mosaic
        The whole.
    spot : Rect
        In shares of its sides: 0 to 1.
    """
    down, across = len(mosaic.pattern), len(mosaic.pattern[0])
    height, width = mosaic.values.shape
    top, left = (
        down * math.floor(spot.y * height / down),
        across * math.floor(spot.x * width / across),
    )
    bottom = down * math.ceil((spot.y + spot.h) * height / down)
    right = across * math.ceil((spot.x + spot.w) * width / across)
    values = mosaic.values[top:bottom, left:right]
    if min(values.shape) < 2 * max(down, across):
        return None
    return replace(mosaic, values=values)


# Exif's orientations that cameras write: how shares across and down are to be turned back.
_TURNED: dict[int, Callable[[float, float, float, float], Rect]] = {
    3: lambda x, y, w, h: Rect(1 - x - w, 1 - y - h, w, h),
    6: lambda x, y, w, h: Rect(y, 1 - x - w, h, w),
    8: lambda x, y, w, h: Rect(1 - y - h, x, h, w),
}


def share_of(rect: Rect, width: int, height: int, orientation: int = 1) -> Rect | None:
    """A rectangle in shares of the mosaic's sides, cut off where it leaves the picture;
    None where nothing of it is left.

    Parameters
    ----------
    rect : Rect
        In pixels of the upright picture.
    width, height : int
        Of that.
    orientation : int
        Exif's, which was applied.
    """
    left, top = max(0.0, rect.x / width), max(0.0, rect.y / height)
    right, bottom = min(1.0, (rect.x + rect.w) / width), min(1.0, (rect.y + rect.h) / height)
    if right <= left or bottom <= top:
        return None
    turn = _TURNED.get(orientation, Rect)
    return turn(left, top, right - left, bottom - top)
