"""Shots of one scene with several bodies: which of another body's belongs to a frame."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

# Stops within which two ISO values belong together: a third, by the rounded values that bodies
# name (2,500 and 3,200 are 0.36 apart).
THIRD = 1 / 3 + 0.03
NEAR = 2.0**THIRD  # times the ISO


@dataclass(frozen=True)
class Shot:
    """A frame as a shot: its scene (None where it belongs to none), the body that its
    file names, and its ISO, 0 where the file names none.
    """

    scene: int | None
    camera: str = ""
    iso: float = 0.0


def nearest_shot(frame: Shot, body: str, shots: Sequence[Shot]) -> int | None:
    """Another body's shot of a frame's scene with the nearest ISO.

    Parameters
    ----------
    frame
        The frame.
    body
        The other body's name.
    shots
        Those there are, in any order.

    Returns
    -------
    int or None
        Its place in `shots`; None where the frame is that body's own, where the ISO is
        more than a third of a stop away, or where either file names none.
    """
    if frame.scene is None or frame.camera == body or frame.iso <= 0:
        return None
    near = [
        i
        for i, s in enumerate(shots)
        if s.scene == frame.scene and s.camera == body and 1 / NEAR < s.iso / frame.iso < NEAR
    ]
    return min(near, key=lambda i: abs(math.log(shots[i].iso / frame.iso)), default=None)
