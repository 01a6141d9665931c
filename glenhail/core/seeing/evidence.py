"""Pictures that show where a difference is seen: maps over the picture, and both sides
of the place where most is.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np

from glenhail.core.files.pyramid import Codes
from glenhail.core.picture import Floats, Rect
from glenhail.core.seeing.visible import VisibleMaps

LONGEST = 960  # px of a map
CROP = (240, 180)  # px of a place, as it is seen
FULL = 6.0  # CIEDE2000 that is drawn in full colour
INK = np.array((176, 40, 30), dtype=np.float32)  # 8-bit sRGB, told apart by its depth alone
PALE = 0.45  # of the picture's own contrast left below the map


@dataclass(frozen=True)
class VisibleEvidence:
    """8-bit sRGB codes, shape (h, w, 3): the map of CIEDE2000 as seen over the paled
    picture, the map of FLIP (white where it is 1), and the place in both pictures.
    """

    map: Codes
    flip: Codes
    one: Codes
    two: Codes


def evidence_of(maps: VisibleMaps) -> VisibleEvidence:
    """What shows a difference as it is seen.

    Parameters
    ----------
    maps : VisibleMaps
        Of both pictures.
    """
    apart, flip = (small(m) for m in (maps.de00, maps.flip))
    place = maps.told.place
    one, two = (about_place(codes, place) for codes in (maps.one.codes, maps.two.codes))
    grey = np.clip(np.rint(flip * 255), 0, 255).astype(np.uint8)
    below = small(maps.one.codes)
    return VisibleEvidence(
        drawn_over(below, apart / FULL), np.repeat(grey[..., None], 3, axis=2), one, two
    )


def small(plane: Floats | Codes) -> Any:
    """A map or a picture at most `LONGEST` px long: areas are averaged, so that what is
    told of a map's shares is what is drawn.

    Parameters
    ----------
    plane : ndarray, shape (h, w) or (h, w, 3)
        Values or codes.
    """
    height, width = plane.shape[:2]
    scale = min(1.0, LONGEST / max(height, width))
    size = max(1, round(width * scale)), max(1, round(height * scale))
    return np.asarray(cv2.resize(plane, size, interpolation=cv2.INTER_AREA), dtype=plane.dtype)


def drawn_over(below: Codes, depth: Floats) -> Codes:
    """A map in red over a paled picture, 8-bit codes.

    Parameters
    ----------
    below : ndarray, shape (h, w, 3), uint8
        The picture.
    depth : ndarray, shape (h, w)
        0 is nothing, 1 and more full colour.
    """
    luma = below.astype(np.float32) @ np.array((0.2126, 0.7152, 0.0722), dtype=np.float32)
    pale = (255 - PALE * (255 - luma))[..., None]
    return np.asarray(np.rint(pale + np.clip(depth, 0, 1)[..., None] * (INK - pale)), np.uint8)


def about_place(codes: Codes, place: Rect) -> Codes:
    """As many pixels as are shown, about the middle of a place.

    Parameters
    ----------
    codes : ndarray, shape (h, w, 3), uint8
        The picture.
    place : Rect
        In shares of its width and height.
    """
    height, width = codes.shape[:2]
    w, h = min(CROP[0], width), min(CROP[1], height)
    left = min(max(0, round((place.x + place.w / 2) * width - w / 2)), width - w)
    top = min(max(0, round((place.y + place.h / 2) * height - h / 2)), height - h)
    return codes[top : top + h, left : left + w]
