"""A strength series out of its pictures: every step on the frame's own pixels."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from glenhail.core.errors import BadRequest
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.picture import Floats, Picture, Rect
from glenhail.core.strength.course import StrengthStep, step_of
from glenhail.core.strength.evenness import evenness, full_change
from glenhail.core.strength.recognised import LEAST


@dataclass(frozen=True)
class MappedStep:
    """A step with the map of its shares, one for each block of the frame."""

    step: StrengthStep
    shares: Floats


def strength_series(
    frame: Picture,
    steps: Sequence[tuple[float, Callable[[], AlignedPicture]]],
    heard: Callable[[int], None] = lambda done: None,
) -> list[MappedStep]:
    """Each step held against the even blend of the frame and the last one.

    Parameters
    ----------
    frame : Picture
        What the tool was handed.
    steps : sequence of (float, callable)
        Settings with what gives their outputs, lined up with the frame: each is asked
        for twice at most, and one at a time held.
    heard : callable
        Told how many steps are done.

    Returns
    -------
    list of MappedStep
        By their settings.

    Raises
    ------
    BadRequest
        If there are fewer than three settings, or outputs share no part of the frame.
    NotMeasurable
        If full strength changes next to nothing.
    """
    ordered = sorted(steps, key=lambda step: step[0])
    if len({setting for setting, _ in ordered}) < LEAST:
        raise BadRequest(f"A strength series has {LEAST} settings or more, each with its output.")
    part = frame.bounds
    for _, give in ordered:
        laid = give()
        part = shared_part(part, laid.mapping, laid.usable)
    full = full_change(_cut(frame.pixels, part), _on_frame(ordered[-1][1](), part))
    made = []
    for done, (setting, give) in enumerate(ordered, 1):
        found = evenness(full, _on_frame(give(), part))
        made.append(MappedStep(step_of(setting, found), found.shares))
        heard(done)
    return made


def _cut(pixels: Floats, part: Rect) -> Floats:
    x, y, w, h = (int(v) for v in (part.x, part.y, part.w, part.h))
    return pixels[y : y + h, x : x + w]


def _on_frame(laid: AlignedPicture, part: Rect) -> Floats:
    return to_frame_grid(laid.picture.pixels, laid.mapping, part).pixels
