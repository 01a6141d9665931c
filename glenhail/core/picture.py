"""Picture, Rect and Mapping: the few types everything in the core speaks."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from operator import mul

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]
Doubles = NDArray[np.float64]


@dataclass(frozen=True)
class Facts:
    """What a file says about itself.

    ``bits`` is per channel, ``shutter_s`` in seconds, ``focal_mm`` in millimetres,
    ``ppi`` in pixels per inch, ``developed`` how a raw file was rendered, ``doubts``
    what may have been meant otherwise. A fact the file does not give is None. ``width``
    and ``height`` are in pixels after the orientation was applied.
    """

    name: str
    format: str
    width: int
    height: int
    bits: int
    sample: str
    compression: str
    profile: str
    profile_assumed: bool
    orientation: int = 1
    size_bytes: int = 0
    camera: str | None = None
    lens: str | None = None
    iso: float | None = None
    shutter_s: float | None = None
    aperture: float | None = None
    focal_mm: float | None = None
    taken: str | None = None
    software: str | None = None
    ppi: float | None = None
    developed: str | None = None
    doubts: list[str] = field(default_factory=list)

    @property
    def megapixels(self) -> float:
        """Size in millions of pixels."""
        return self.width * self.height / 1e6


@dataclass(frozen=True)
class Rect:
    """A rectangle in pixels, origin at the top left corner of the picture; floats
    allowed.

    Coordinates name places between pixels: pixel (0, 0) covers 0..1 in x and y, and its
    centre is at (0.5, 0.5). A plain 2x enlargement therefore has scale 2 and shift 0.
    """

    x: float
    y: float
    w: float
    h: float

    def inside(self, width: float, height: float, slack: float = 1e-6) -> bool:
        """Whether the rectangle lies within a picture of that size, to within `slack`
        px.
        """
        return bool(
            self.x >= -slack
            and self.y >= -slack
            and self.x + self.w <= width + slack
            and self.y + self.h <= height + slack
        )

    def whole(self) -> Rect:
        """The largest rectangle of whole pixels within this one (edges within 1e-3 px
        count).
        """
        x0, y0 = math.ceil(self.x - 1e-3), math.ceil(self.y - 1e-3)
        x1, y1 = math.floor(self.x + self.w + 1e-3), math.floor(self.y + self.h + 1e-3)
        return Rect(x0, y0, max(0, x1 - x0), max(0, y1 - y0))

    def outer(self) -> Rect:
        """The smallest rectangle of whole pixels around this one (edges within 1e-3 px
        count).
        """
        x0, y0 = math.floor(self.x + 1e-3), math.floor(self.y + 1e-3)
        x1, y1 = math.ceil(self.x + self.w - 1e-3), math.ceil(self.y + self.h - 1e-3)
        return Rect(x0, y0, x1 - x0, y1 - y0)

    def clipped(self, other: Rect) -> Rect:
        """The part shared with `other`; its size is zero where nothing is shared."""
        x0, y0 = max(self.x, other.x), max(self.y, other.y)
        x1, y1 = min(self.x + self.w, other.x + other.w), min(self.y + self.h, other.y + other.h)
        return Rect(x0, y0, max(0.0, x1 - x0), max(0.0, y1 - y0))

    def is_whole(self) -> bool:
        """Whether all four edges lie on pixel borders."""
        return all(float(v).is_integer() for v in (self.x, self.y, self.w, self.h))


@dataclass(frozen=True)
class Bend:
    """A smooth left-over shift: a cubic polynomial of the place in the frame.

    With u = (x - ``x``) / ``reach`` and v likewise, ``across`` and ``down`` are the
    shifts' coefficients in frame px, of 1, u, v, uu, uv, vv, uuu, uuv, uvv, vvv.
    """

    x: float
    y: float
    reach: float
    across: tuple[float, ...]
    down: tuple[float, ...]

    def shift(self, x: float, y: float) -> tuple[float, float]:
        """The left-over shift at a place of the frame, frame px."""
        u, v = (x - self.x) / self.reach, (y - self.y) / self.reach
        products = (1.0, u, v, u * u, u * v, v * v, u**3, u * u * v, u * v * v, v**3)
        return sum(map(mul, self.across, products)), sum(map(mul, self.down, products))


@dataclass(frozen=True)
class Mapping:
    """From source-frame coordinates to output pixels:

    ``output = scale * (source + bend(source)) + shift``.
    """

    sx: float = 1.0
    sy: float = 1.0
    dx: float = 0.0
    dy: float = 0.0
    bend: Bend | None = None

    def rect(self, r: Rect) -> Rect:
        """Where a source rectangle lands in the output; with a bend, exactly so for its
        middle.
        """
        bx, by = self.bend.shift(r.x + r.w / 2, r.y + r.h / 2) if self.bend else (0.0, 0.0)
        return Rect(
            self.sx * (r.x + bx) + self.dx,
            self.sy * (r.y + by) + self.dy,
            self.sx * r.w,
            self.sy * r.h,
        )

    @property
    def straight(self) -> Mapping:
        """Scale and shift alone."""
        return Mapping(self.sx, self.sy, self.dx, self.dy)

    def back(self, r: Rect) -> Rect:
        """Where a rectangle of the output lies in the frame; with a bend, to within
        1e-6 px for its middle.
        """
        plain = Rect(
            (r.x - self.dx) / self.sx, (r.y - self.dy) / self.sy, r.w / self.sx, r.h / self.sy
        )
        bx = by = 0.0
        for _ in range(8 if self.bend else 0):
            assert self.bend is not None
            bx, by = self.bend.shift(plain.x + plain.w / 2 - bx, plain.y + plain.h / 2 - by)
        return Rect(plain.x - bx, plain.y - by, plain.w, plain.h)

    def seen_from(self, other: Mapping) -> Mapping:
        """From the pixels of another picture of the frame, which is not bent, to this
        one's.
        """
        assert other.bend is None
        sx, sy = self.sx / other.sx, self.sy / other.sy
        bend = self.bend and Bend(
            other.sx * self.bend.x + other.dx,
            other.sy * self.bend.y + other.dy,
            (other.sx + other.sy) / 2 * self.bend.reach,
            tuple(other.sx * c for c in self.bend.across),
            tuple(other.sy * c for c in self.bend.down),
        )
        return Mapping(sx, sy, self.dx - sx * other.dx, self.dy - sy * other.dy, bend)

    def keeps_pixels(self) -> bool:
        """Whether source pixels fall exactly on output pixels: scale 1 and a whole
        shift.
        """
        return (
            self.bend is None
            and self.sx == self.sy == 1.0
            and float(self.dx).is_integer()
            and float(self.dy).is_integer()
        )


@dataclass(frozen=True, eq=False)
class Picture:
    """A decoded picture; two are the same only if they are one.

    Attributes
    ----------
    pixels : ndarray of float32, shape (height, width, 3)
        Linear light, BT.709/sRGB primaries, D65, 1.0 = display white, never clipped.
    facts : Facts
        What the file said about itself.
    """

    pixels: Floats
    facts: Facts = field(repr=False)

    @property
    def width(self) -> int:
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        return int(self.pixels.shape[0])

    @property
    def bounds(self) -> Rect:
        """The whole picture as a rectangle."""
        return Rect(0, 0, self.width, self.height)

    def crop(self, rect: Rect) -> Floats:
        """The pixels of a rectangle of whole pixels, as a view (no copy).

        Raises
        ------
        ValueError
            If the rectangle is not made of whole pixels or leaves the picture.
        """
        if not rect.is_whole() or not rect.inside(self.width, self.height):
            raise ValueError(f"{rect} is not a whole-pixel part of {self.width} × {self.height}")
        x, y, w, h = int(rect.x), int(rect.y), int(rect.w), int(rect.h)
        return self.pixels[y : y + h, x : x + w]
