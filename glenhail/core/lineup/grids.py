"""Bringing an output's pixels onto the grid of its frame, or of its truth."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from glenhail.core.filters.resample import resample
from glenhail.core.lineup.bend import straightened
from glenhail.core.picture import Floats, Mapping, Rect

ENLARGED = 1.25
REACH = 4  # px of the coarser grid that a kernel looks beyond a part
SLACK = 0.25  # frame px


@dataclass(frozen=True)
class GridPixels:
    """Pixels brought to another grid, and in words how."""

    pixels: Floats
    grid: str


def to_frame_grid(values: Floats, mapping: Mapping, rect: Rect) -> GridPixels:
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
    GridPixels
        Untouched pixels where the grids coincide; area averages of an enlargement, so
        that pixels doubled come back as they were; otherwise Lanczos, antialiased.
    """
    if mapping.bend is not None:
        return _unbent(values, mapping, rect, to_frame_grid)
    if min(mapping.sx, mapping.sy) >= ENLARGED:
        return _placed(values, mapping, rect, "frame grid", "area", "area averages")
    return _placed(values, mapping, rect, "frame grid", "lanczos", "Lanczos")


def to_truth_grid(values: Floats, mapping: Mapping, rect: Rect) -> GridPixels:
    """The part of an output that shows `rect` of the truth, one value per pixel of the
    truth.

    `mapping` goes from the truth's pixels to the output's. Untouched pixels where the
    grids coincide, else Lanczos, antialiased where the output is the larger one: what
    an output has beyond the truth's grid must not come back as noise on it.

    Parameters
    ----------
    values : ndarray, shape (h, w) or (h, w, 3), float32
        Pixels.
    mapping : Mapping
        From frame coordinates to output pixels.
    rect : Rect
        The patch, frame px.
    """
    if mapping.bend is not None:
        return _unbent(values, mapping, rect, to_truth_grid)
    return _placed(values, mapping, rect, "truth's grid", "lanczos", "Lanczos")


def _placed(
    values: Floats, mapping: Mapping, rect: Rect, grid: str, method: str, words: str
) -> GridPixels:
    """Untouched pixels where the grids coincide, else resampled by a method."""
    target = mapping.rect(rect)
    if mapping.keeps_pixels():
        x, y, w, h = (int(v) for v in (target.x, target.y, target.w, target.h))
        return GridPixels(values[y : y + h, x : x + w], f"{grid}, pixels untouched")
    return GridPixels(
        resample(values, target, int(rect.w), int(rect.h), method), f"{grid}, {words}"
    )


def _unbent(
    values: Floats,
    mapping: Mapping,
    rect: Rect,
    place: Callable[[Floats, Mapping, Rect], GridPixels],
) -> GridPixels:
    """As without a bend, once the part is straightened."""
    target = mapping.straight.rect(rect)
    margin = REACH * max(1.0, mapping.sx, mapping.sy, 1 / mapping.sx, 1 / mapping.sy)
    left, top = math.floor(target.x - margin), math.floor(target.y - margin)
    part = Rect(
        left,
        top,
        math.ceil(target.x + target.w + margin) - left,
        math.ceil(target.y + target.h + margin) - top,
    )
    plain = Mapping(mapping.sx, mapping.sy, mapping.dx - left, mapping.dy - top)
    placed = place(straightened(values, mapping, part), plain, rect)
    return GridPixels(placed.pixels, f"{placed.grid}, straightened")


def shared_part(rect: Rect, mapping: Mapping, usable: Rect) -> Rect:
    """Whole frame pixels of `rect` that land within the `usable` part of the output.

    Parameters
    ----------
    rect : Rect
        The patch, frame px.
    mapping : Mapping
        From frame coordinates to output pixels.
    usable : Rect
        The part of the output that is picture, output px.
    """
    if mapping.bend is None:
        return rect.clipped(mapping.back(usable)).whole()
    shares = np.linspace(0, 1, 9)
    left, right = (
        max_or_min([mapping.back(Rect(x, usable.y + t * usable.h, 0, 0)).x for t in shares])
        for x, max_or_min in ((usable.x, max), (usable.x + usable.w, min))
    )
    top, bottom = (
        max_or_min([mapping.back(Rect(usable.x + t * usable.w, y, 0, 0)).y for t in shares])
        for y, max_or_min in ((usable.y, max), (usable.y + usable.h, min))
    )
    # Between the places looked at the side may curve a little further in.
    inner = Rect(
        left + SLACK,
        top + SLACK,
        max(0.0, right - left - 2 * SLACK),
        max(0.0, bottom - top - 2 * SLACK),
    )
    return rect.clipped(inner).whole()
