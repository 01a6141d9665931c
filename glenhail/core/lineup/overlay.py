"""An output laid over its frame, at the frame's size or larger: one layer of a stack."""

from __future__ import annotations

from dataclasses import dataclass

from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.picture import Floats, Rect


@dataclass(frozen=True)
class Overlay:
    """Pixels and where their upper left corner lies in the stack."""

    pixels: Floats
    x: int
    y: int


def overlay(laid: AlignedPicture, frame: Rect, scale: float = 1.0) -> Overlay:
    """The part of an output that shows its frame, on the frame's grid or on one `scale`
    times as fine.

    Parameters
    ----------
    laid : AlignedPicture
        The output with its line-up.
    frame : Rect
        The frame's own bounds, frame px.
    scale : float
        Pixels of the stack for each of the frame, at least 1.

    Returns
    -------
    Overlay
        At scale 1 as `to_frame_grid` gives them, at others by Lanczos; float32.
    """
    part = shared_part(frame, laid.mapping, laid.usable)
    if scale == 1:
        pixels = to_frame_grid(laid.picture.pixels, laid.mapping, part).pixels
    else:
        straight = laid.straight
        width, height = round(part.w * scale), round(part.h * scale)
        target = straight.mapping.rect(part)
        pixels = resample(straight.picture.pixels, target, width, height, "lanczos")
    return Overlay(pixels, round(part.x * scale), round(part.y * scale))
