"""Plain borders that a tool left around a picture: black or white lines, padding."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.picture import Floats, Mapping, Picture, Rect

# A border line varies by less than this along its length, and differs from what the frame shows
# there by more than that; both in encoded units (8-bit codes / 255).
PLAIN = 0.7 / 255
DIFFERENT = 6 / 255
SAME_TONE = 1.5 / 255
DEEPEST = 0.1  # of the side
LINES_AT_ONCE = 16


@dataclass(frozen=True)
class Border:
    """Widths in output pixels of what is not picture."""

    left: int = 0
    top: int = 0
    right: int = 0
    bottom: int = 0

    def inner(self, width: int, height: int) -> Rect:
        """The part of the output that is picture."""
        return Rect(
            self.left, self.top, width - self.left - self.right, height - self.top - self.bottom
        )

    @property
    def any(self) -> bool:
        return bool(self.left or self.top or self.right or self.bottom)


def plain_border(output: Picture) -> Border:
    """Borders told by their plainness alone: candidates, since a dark sky is plain as
    well.

    Parameters
    ----------
    output : Picture
        The output.
    """
    sides = [_plain_lines(_from_side(output.pixels, side)) for side in range(4)]
    return Border(*sides)


def border(source: Picture, output: Picture, mapping: Mapping) -> Border:
    """Plain lines along the output's edges that the frame does not have there.

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture
        The output.
    mapping : Mapping
        From frame coordinates to output pixels.
    """
    candidate = plain_border(output)
    counts = (candidate.left, candidate.top, candidate.right, candidate.bottom)
    kept = [
        n if n and _differs(source, output, mapping, side, n) else 0
        for side, n in enumerate(counts)
    ]
    return Border(*kept)


def _from_side(pixels: Floats, side: int) -> Floats:
    """The picture turned so that the wanted edge comes first: left, top, right, bottom."""
    turned = pixels.transpose(1, 0, 2) if side in (0, 2) else pixels
    return turned[::-1] if side in (2, 3) else turned


def _plain_lines(lines: Floats) -> int:
    """How many lines from the first on are plain, the corners (2 % each end) left out."""
    limit = int(lines.shape[0] * DEEPEST)
    trim = max(1, lines.shape[1] // 50)
    first = None
    for start in range(0, limit, LINES_AT_ONCE):
        block = srgb.encode(lines[start : min(limit, start + LINES_AT_ONCE), trim:-trim])
        means = block.mean(axis=1)
        first = means[0] if first is None else first
        # A border is of one tone; plain ground of the picture beside it is of another.
        ended = (block.std(axis=1).max(axis=1) > PLAIN) | (
            np.abs(means - first).max(axis=1) > SAME_TONE
        )
        if ended.any():
            return start + int(ended.argmax())
    # Plain as deep as one looks: that is the picture's own ground, not a border.
    return 0


def _differs(source: Picture, output: Picture, mapping: Mapping, side: int, count: int) -> bool:
    """Whether the frame shows something else where the border stands, or nothing at
    all.
    """
    w, h = output.width, output.height
    strip = [
        Rect(0, 0, count, h),
        Rect(0, 0, w, count),
        Rect(w - count, 0, count, h),
        Rect(0, h - count, w, count),
    ][side]
    in_source = mapping.back(strip)
    seen = (
        Rect(in_source.x - 0.5, in_source.y - 0.5, in_source.w + 1, in_source.h + 1)
        .whole()
        .clipped(source.bounds)
    )
    if seen.w < 1 or seen.h < 1:
        return True
    frame = srgb.encode(source.crop(seen)).mean(axis=(0, 1))
    x, y, sw, sh = int(strip.x), int(strip.y), int(strip.w), int(strip.h)
    line = srgb.encode(output.pixels[y : y + sh, x : x + sw]).mean(axis=(0, 1))
    # The tone of the whole output may have moved; what counts is the step to its own next lines.
    inside = srgb.encode(_from_side(output.pixels, side)[count : count + max(2, count)]).mean(
        axis=(0, 1)
    )
    return bool(np.abs(frame - line).max() > DIFFERENT and np.abs(inside - line).max() > DIFFERENT)
