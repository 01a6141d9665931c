"""Structure in an enlargement that is finer than the frame's pixels can hold: invented
texture, or repeated pixels.
"""

from __future__ import annotations

import cv2
import numpy as np

from glenhail.core.audit.bands import windows
from glenhail.core.audit.character import pooled
from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.interval import Interval
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part
from glenhail.core.picture import Doubles, Floats, Picture, Rect

ENLARGED = 1.4
BLOCK = 16  # frame px
MOST_WINDOWS, SIDE = 12, 256  # frame px


def finer_than_frame(frame: Picture, output: AlignedPicture) -> Interval | None:
    """What an enlargement has beyond the frame's grid, over what a plain one has;

    None where nothing was enlarged.

    The output is averaged to the frame's pixels and enlarged again (Lanczos): what that
    does not give back is finer than the frame can hold. Its energy, over that of the
    finest structure that the frame does hold, is compared with the same of a Lanczos
    enlargement of the frame: 1 is as plain, 0.6 bicubic, over 2 repeated pixels or
    texture of its own.

    Parameters
    ----------
    frame : Picture
        The frame.
    output : AlignedPicture
        The output with its line-up.
    """
    scale = min(output.mapping.sx, output.mapping.sy)
    if scale < ENLARGED:
        return None
    straight = output.straight
    part = shared_part(frame.bounds, straight.mapping, straight.usable)
    sums = [
        (_window(_on_grid(straight, w), w), _window(_plain(frame, w, straight), w))
        for w in _places(part)
    ]
    if not sums:
        return None
    excess, fine, plain_excess, plain_fine = (
        np.concatenate([s[i][j] for s in sums]) for i in (0, 1) for j in (0, 1)
    )
    lively = plain_fine >= np.quantile(plain_fine, 0.3)
    found, usual = (
        pooled(excess[lively], fine[lively]),
        pooled(plain_excess[lively], plain_fine[lively]),
    )
    if found is None or usual is None or usual.value <= 0:
        return None
    return Interval(found.value / usual.value, found.low / usual.value, found.high / usual.value)


def _per(laid: AlignedPicture) -> int:
    """Whole output pixels for each of the frame's that the comparison is made with."""
    return max(2, round(min(laid.mapping.sx, laid.mapping.sy)))


def _places(part: Rect) -> list[Rect]:
    side = int(min(SIDE, part.w // BLOCK * BLOCK, part.h // BLOCK * BLOCK))
    # A block on each side is left to the filters' reach.
    if side < 3 * BLOCK:
        return []
    wide = [w for w in windows(part) if w.w >= 3 * BLOCK]
    chosen = [Rect(w.x, w.y, min(w.w, side), min(w.h, side)) for w in wide] or [
        Rect(part.x, part.y, side, side)
    ]
    return [
        chosen[i]
        for i in np.unique(np.linspace(0, len(chosen) - 1, MOST_WINDOWS).round().astype(int))
    ]


def _on_grid(laid: AlignedPicture, place: Rect) -> Floats:
    """The output's luma with a whole number of pixels for each of the frame's; at 2x
    and 4x these are its own.
    """
    target = laid.mapping.rect(place)
    width, height = int(place.w) * _per(laid), int(place.h) * _per(laid)
    whole = target.is_whole() and (target.w, target.h) == (width, height)
    pixels = (
        laid.picture.crop(target)
        if whole
        else resample(laid.picture.pixels, target, width, height, "bicubic")
    )
    return _codes(pixels)


def _plain(frame: Picture, place: Rect, laid: AlignedPicture) -> Floats:
    """The frame's luma enlarged as much."""
    per = _per(laid)
    return _codes(resample(frame.pixels, place, int(place.w) * per, int(place.h) * per, "lanczos"))


def _codes(pixels: Floats) -> Floats:
    return srgb.luma(np.ascontiguousarray(pixels)) * np.float32(255)


def _window(codes: Floats, place: Rect) -> tuple[Doubles, Doubles]:
    """Energies of what is finer than the frame's grid, and of the finest that it holds,
    over blocks.
    """
    width, height = int(place.w), int(place.h)
    per = codes.shape[1] // width
    small = np.asarray(
        cv2.resize(codes, (width, height), interpolation=cv2.INTER_AREA), dtype=np.float32
    )
    excess = codes - resample(
        small, Rect(0, 0, width, height), width * per, height * per, "lanczos"
    )
    fine = small - cv2.GaussianBlur(small, (0, 0), 1.0)
    one, two = (
        excess[BLOCK * per : -BLOCK * per, BLOCK * per : -BLOCK * per],
        fine[BLOCK:-BLOCK, BLOCK:-BLOCK],
    )
    return _mean(one * one, BLOCK * per), _mean(two * two, BLOCK)


def _mean(plane: Floats, block: int) -> Doubles:
    rows, columns = plane.shape[0] // block, plane.shape[1] // block
    cut = plane[: rows * block, : columns * block]
    return np.asarray(
        cut.reshape(rows, block, columns, block).mean(axis=(1, 3), dtype=np.float64).ravel()
    )
