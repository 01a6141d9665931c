"""Bringing an output's pixels onto the grid of its frame."""

from __future__ import annotations

from dataclasses import dataclass

from glenhail.core.methods.resample import resample
from glenhail.core.picture import Floats, Mapping, Rect

ENLARGED = 1.25


@dataclass(frozen=True)
class Placed:
    """Pixels brought to the frame's grid, and in words how."""

    pixels: Floats
    grid: str


def to_frame_grid(values: Floats, mapping: Mapping, rect: Rect) -> Placed:
    """The part of an output that shows `rect` of the frame, one value per frame pixel.

    Parameters
    ----------
    values : ndarray, shape (h, w) or (h, w, 3)
        The output.
    mapping : Mapping
        From frame coordinates to output pixels.
    rect : Rect
        Whole pixels of the frame; must land within the output.

    Returns
    -------
    Placed
        Untouched pixels where the grids coincide; area averages of an enlargement, so that pixels
        doubled come back as they were; otherwise Lanczos, antialiased.
    """
    target = mapping.rect(rect)
    if mapping.keeps_pixels():
        x, y, w, h = (int(v) for v in (target.x, target.y, target.w, target.h))
        return Placed(values[y : y + h, x : x + w], "frame grid, pixels untouched")
    enlarged = min(mapping.sx, mapping.sy) >= ENLARGED
    method, words = ("area", "area averages") if enlarged else ("lanczos", "Lanczos")
    return Placed(resample(values, target, int(rect.w), int(rect.h), method), f"frame grid, {words}")


def shared_part(rect: Rect, mapping: Mapping, usable: Rect) -> Rect:
    """Whole frame pixels of `rect` that land within the `usable` part of the output."""
    back = mapping.inverse().rect(usable)
    return rect.clipped(back).whole()
