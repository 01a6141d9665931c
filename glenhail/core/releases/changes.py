"""What a release makes of a frame that the one before it made otherwise, pixel by
pixel.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import cv2
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.files.pyramid import Codes
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.picture import Floats, Rect
from glenhail.core.picture import Mapping as Placed

LEVELS = 255
CELL = 64  # px of a place in which the most is sought
BAND = 512  # rows worked on at once
STILL = 0.05  # px that two line-ups may lie apart by their own uncertainty
RESIZED = 0.01  # of its size, from which on it is told as another size
MIDDLE = 768  # px about the middle by which it is told how two lie
LEAST = 16  # px that both must show either way


@dataclass(frozen=True)
class PictureChange:
    """One frame's outputs of two releases.

    ``same`` is whether both files hold the same pixels, value by value; ``changed`` the
    share of pixels that differ by one 8-bit level or more in any colour; ``rms`` the
    root mean square of what differs, 8-bit levels; ``most`` the same at the place where
    it is highest; ``place`` that place in shares of the part that both show; ``moved``
    how far the later one's content lies apart, px; ``sizes`` (w, h) of both where they
    differ.
    """

    same: bool
    changed: float
    rms: float
    most: float
    place: Rect = field(default_factory=lambda: Rect(0, 0, 1, 1))
    moved: float = 0.0
    sizes: tuple[tuple[int, int], tuple[int, int]] | None = None


def change_told(kept: Mapping[str, Any]) -> PictureChange:
    """A frame's change as it was kept; its place, which no words tell, is left out.

    Parameters
    ----------
    kept : mapping
        Its values by name.
    """
    sizes = kept["sizes"] and tuple((w, h) for w, h in kept["sizes"])
    told = ("same", "changed", "rms", "most", "moved")
    return PictureChange(**{k: kept[k] for k in told}, sizes=sizes)


@dataclass(frozen=True, eq=False)
class ChangeMaps:
    """A change with what shows it, over the part that both show, on the earlier one's
    pixels: 8-bit levels that each pixel differs by, shape (h, w), and both as 8-bit
    codes, shape (h, w, 3).
    """

    told: PictureChange
    apart: Floats
    earlier: Codes
    later: Codes


def picture_change(earlier: AlignedPicture, later: AlignedPicture) -> ChangeMaps:
    """Hold one release's output against that of the release before it.

    Levels are those of the display codes (IEC 61966-2-1), so that a difference counts
    as much as it shows.

    Parameters
    ----------
    earlier, later : AlignedPicture
        Of one frame.

    Raises
    ------
    NotMeasurable
        If they share next to nothing of the frame.
    """
    one, two = earlier.straight, later.straight
    apart = two.mapping.seen_from(one.mapping)
    equal_size = one.picture.pixels.shape == two.picture.pixels.shape
    if equal_size and _lies_still(one, two, apart):
        apart = Placed()
    moved = _moved(apart, one)
    part = shared_part(one.usable, apart, two.usable)
    if min(part.w, part.h) < LEAST:
        raise NotMeasurable("the two releases' outputs show next to nothing of the same part")
    codes = _Codes(one, two, apart, part)
    squares = codes.squares / np.float32(3)
    place, most = _place(squares)
    sizes = None if equal_size else (_size(one), _size(two))
    told = PictureChange(
        same=equal_size and np.array_equal(earlier.picture.pixels, later.picture.pixels),
        changed=codes.changed / squares.size,
        rms=float(np.sqrt(squares.mean(dtype=np.float64))),
        most=most,
        place=place,
        moved=moved,
        sizes=sizes,
    )
    return ChangeMaps(told, np.sqrt(squares), codes.one, codes.two)


class _Codes:
    """Both pictures' codes and the sum of squared differences over colours, band by
    band: what is not kept of a band costs no memory.
    """

    def __init__(self, one: AlignedPicture, two: AlignedPicture, apart: Placed, part: Rect) -> None:
        width, height = int(part.w), int(part.h)
        self.squares = np.empty((height, width), dtype=np.float32)
        self.one = np.empty((height, width, 3), dtype=np.uint8)
        self.two = np.empty_like(self.one)
        self.changed = 0
        for top in range(0, height, BAND):
            rows = slice(top, min(height, top + BAND))
            place = Rect(part.x, part.y + top, width, rows.stop - top)
            mine = one.picture.crop(place)
            theirs = to_frame_grid(two.picture.pixels, apart, place).pixels
            codes = [srgb.encode(np.clip(p, 0, 1)) * np.float32(LEVELS) for p in (mine, theirs)]
            difference = codes[1] - codes[0]
            self.squares[rows] = (difference * difference).sum(axis=2)
            self.changed += int((np.abs(difference).max(axis=2) >= 1).sum())
            for kept, told in zip((self.one, self.two), codes, strict=True):
                kept[rows] = np.rint(told)


def _size(of: AlignedPicture) -> tuple[int, int]:
    return of.picture.width, of.picture.height


def _lies_still(one: AlignedPicture, two: AlignedPicture, apart: Placed) -> bool:
    """Whether pixel upon pixel is the better place, or as good as can be told: each
    line-up has its own uncertainty, which is large where little but noise is in the
    frame.
    """
    if _moved(apart, one) < STILL:
        return True
    middle = shared_part(_middle(one), apart, two.usable)
    if min(middle.w, middle.h) < LEAST:
        return False
    placed = [_Codes(one, two, place, middle).squares.mean() for place in (Placed(), apart)]
    return bool(placed[0] <= placed[1])


def _middle(of: AlignedPicture) -> Rect:
    w, h = min(MIDDLE, of.picture.width), min(MIDDLE, of.picture.height)
    return Rect((of.picture.width - w) // 2, (of.picture.height - h) // 2, w, h)


def _moved(apart: Placed, one: AlignedPicture) -> float:
    """The furthest that a corner lies from where it would with plain enlargement, px."""
    if max(abs(apart.sx - 1), abs(apart.sy - 1)) > RESIZED:
        return 0.0  # another size is told as such
    across = max(abs(apart.dx), abs(apart.dx + (apart.sx - 1) * one.picture.width))
    down = max(abs(apart.dy), abs(apart.dy + (apart.sy - 1) * one.picture.height))
    return float(np.hypot(across, down))


def _place(squares: Floats) -> tuple[Rect, float]:
    """Where the mean square is highest, and its root."""
    height, width = squares.shape
    down, across = max(1, height // CELL), max(1, width // CELL)
    means = np.atleast_2d(cv2.resize(squares, (across, down), interpolation=cv2.INTER_AREA))
    row, column = np.unravel_index(int(means.argmax()), means.shape)
    place = Rect(float(column / across), float(row / down), 1 / across, 1 / down)
    return place, float(np.sqrt(means[row, column]))
