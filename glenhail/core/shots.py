"""Shots of one scene with several bodies: which of another body's belongs to a frame."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

# Stops within which two ISO values belong together: a third, by the rounded values that bodies
# name (2,500 and 3,200 are 0.36 apart).
THIRD = 1 / 3 + 0.03


@dataclass(frozen=True)
class Shot:
    """A frame as a shot: its scene (None where it belongs to none), the body that its
    file names, and its ISO, 0 where the file names none.
    """

    scene: int | None
    camera: str = ""
    iso: float = 0.0


def nearest_iso(iso: float, others: Sequence[float]) -> float | None:
    """The ISO of another body that belongs to one: the nearest within a third of a
    stop, None where there is none.

    Parameters
    ----------
    iso : float
        Of the one.
    others : sequence of float
        Of the other body.
    """
    near = [o for o in others if abs(math.log2(o / iso)) <= THIRD]
    return min(near, key=lambda o: abs(math.log2(o / iso)), default=None)


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
    own = {
        i: s.iso
        for i, s in enumerate(shots)
        if s.scene == frame.scene and s.camera == body and s.iso > 0
    }
    iso = nearest_iso(frame.iso, list(own.values()))
    return next((i for i, of in own.items() if of == iso), None)
