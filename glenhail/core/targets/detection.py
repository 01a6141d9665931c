"""Finding a target sheet in a picture: its four marks, the number in its strip, and how
the sheet lies in the picture.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np
import scipy.ndimage

from glenhail.core.filters.resample import resample
from glenhail.core.picture import Doubles, Floats, Rect
from glenhail.core.targets import layout as sheets

SIDES = (
    2400,
    1200,
    600,
)  # longest side in px that is searched, finest first: less noise the coarser
MOST_MARKS = 14
LEAST_RING = 9  # px across
STRIP_ROWS = 7  # places across the strip's height that each cell is read at


@dataclass(frozen=True)
class RingMark:
    """A ring mark in a picture: its centre and radius, px."""

    x: float
    y: float
    radius: float


@dataclass(frozen=True)
class DetectedSheet:
    """A sheet's number, and its marks in the order of `Sheet.marks`."""

    number: int
    marks: tuple[RingMark, ...]

    def lie(self, sheet: sheets.Sheet) -> SheetPose:
        """How the sheet of that number lies in the picture."""
        return SheetPose(_homography(sheet.marks, [(m.x, m.y) for m in self.marks]))


@dataclass(frozen=True)
class SheetPose:
    """How a sheet lies in a picture: sheet px to picture px, as a plane seen in
    perspective (3 x 3).
    """

    matrix: Doubles

    @classmethod
    def of_corners(cls, sheet: sheets.Sheet, corners: list[list[float]]) -> SheetPose:
        """From where the sheet's corners lie in the picture: upper left, then
        clockwise.
        """
        w, h = sheet.width, sheet.height
        return cls(_homography(((0, 0), (w, 0), (w, h), (0, h)), [(x, y) for x, y in corners]))

    def to_picture(self, x: Doubles | float, y: Doubles | float) -> tuple[Doubles, Doubles]:
        """Picture places of sheet places."""
        return _through(
            self.matrix, np.asarray(x, dtype=np.float64), np.asarray(y, dtype=np.float64)
        )

    def to_sheet(self, x: Doubles | float, y: Doubles | float) -> tuple[Doubles, Doubles]:
        """Sheet places of picture places."""
        back = np.asarray(np.linalg.inv(self.matrix), dtype=np.float64)
        return _through(back, np.asarray(x, dtype=np.float64), np.asarray(y, dtype=np.float64))

    def scale(self, at: Rect) -> float:
        """Picture px for a sheet px in the middle of a part."""
        x, y = at.x + at.w / 2, at.y + at.h / 2
        px, py = self.to_picture(np.array([x, x + 1, x]), np.array([y, y, y + 1]))
        return math.sqrt(abs((px[1] - px[0]) * (py[2] - py[0]) - (px[2] - px[0]) * (py[1] - py[0])))

    @property
    def turn(self) -> float:
        """Degrees, clockwise, by which the sheet is turned in the picture."""
        x, y = self.to_picture(np.array([0.0, 1000.0]), np.array([0.0, 0.0]))
        return math.degrees(math.atan2(y[1] - y[0], x[1] - x[0]))

    def inner(self, part: Rect) -> Rect:
        """The upright rectangle that lies within a part of the sheet, picture px; empty
        where there is none.
        """
        x, y = self.to_picture(
            np.array([part.x, part.x + part.w, part.x + part.w, part.x]),
            np.array([part.y, part.y, part.y + part.h, part.y + part.h]),
        )
        left, right = math.ceil(max(x[0], x[3])), math.floor(min(x[1], x[2]))
        top, bottom = math.ceil(max(y[0], y[1])), math.floor(min(y[2], y[3]))
        return Rect(left, top, max(0, right - left), max(0, bottom - top))


def find(light: Floats) -> DetectedSheet | None:
    """The sheet in a plane of linear luminance, or None where none is seen whole.

    It may be scaled, turned, tilted and noisy; marks at least 9 px across are wanted.

    Parameters
    ----------
    light : ndarray, shape (h, w), float32
        Linear luminance, 1 is white.
    """
    height, width = light.shape
    tried = set()
    for side in SIDES:
        step = max(1.0, max(height, width) / side)
        if step in tried:
            continue
        tried.add(step)
        marks = _marks(_reduced(light, step))
        found = _sheet_of_marks(
            light, [RingMark(m.x * step, m.y * step, m.radius * step) for m in marks]
        )
        if found is not None:
            return found
    return None


def _reduced(light: Floats, step: float) -> Floats:
    if step == 1:
        return light
    height, width = int(light.shape[0] / step), int(light.shape[1] / step)
    return resample(light, Rect(0, 0, width * step, height * step), width, height, "area")


def _marks(light: Floats) -> list[RingMark]:
    """Rings with a dot in their middle, the most likely first."""
    seen = scipy.ndimage.gaussian_filter(np.sqrt(np.clip(light, 0, 1)), 0.8)
    around = scipy.ndimage.uniform_filter(seen, max(15, min(seen.shape) // 8))
    label, _ = scipy.ndimage.label(seen < 0.8 * around, structure=np.ones((3, 3)))
    boxes = scipy.ndimage.find_objects(label)
    area = np.bincount(label.ravel())
    rings, dots = [], []
    for i, (rows, columns) in enumerate(boxes, 1):
        h, w = rows.stop - rows.start, columns.stop - columns.start
        if not 0.7 < w / h < 1.43:
            continue
        place = ((columns.start + columns.stop) / 2, (rows.start + rows.stop) / 2, (w + h) / 2)
        full = area[i] / (w * h)
        if full > 0.6 and place[2] >= 3:
            dots.append(place)
        elif place[2] >= LEAST_RING and 0.2 < full < 0.62:
            rings.append(place)
    return _paired(rings, dots)


def _paired(
    rings: list[tuple[float, float, float]], dots: list[tuple[float, float, float]]
) -> list[RingMark]:
    """Rings whose dot lies in their middle and has its size; how well it does ranks
    them.
    """
    found = []
    for x, y, size in rings:
        for dx, dy, small in dots:
            off, ratio = math.hypot(dx - x, dy - y) / size, small / size / sheets.DOT
            if off < 0.1 and 0.6 < ratio < 1.5:
                found.append((off + abs(math.log(ratio)), RingMark(x, y, size / 2)))
    return [mark for _, mark in sorted(found, key=lambda f: f[0])[:MOST_MARKS]]


def _sheet_of_marks(light: Floats, marks: list[RingMark]) -> DetectedSheet | None:
    """Four marks of about one size between which a strip can be read."""
    for four in itertools.combinations(marks, 4):
        sizes = [m.radius for m in four]
        if max(sizes) > 1.5 * min(sizes):
            continue
        around = _clockwise(four)
        for first in range(4):
            turned = tuple(around[(first + i) % 4] for i in range(4))
            exact = tuple(_centred(light, m) for m in turned)
            number = _read_strip(light, exact)
            if number is not None:
                return DetectedSheet(number, exact)
    return None


def _clockwise(four: tuple[RingMark, ...]) -> list[RingMark]:
    x, y = sum(m.x for m in four) / 4, sum(m.y for m in four) / 4
    return sorted(four, key=lambda m: math.atan2(m.y - y, m.x - x))


def _centred(light: Floats, mark: RingMark) -> RingMark:
    """The mark with its centre to a fraction of a pixel: the centroid of its ink, at
    full size.
    """
    x, y = mark.x, mark.y
    for _ in range(3):
        reach = 1.25 * mark.radius
        x0, x1 = max(0, int(x - reach)), min(light.shape[1], int(x + reach) + 2)
        y0, y1 = max(0, int(y - reach)), min(light.shape[0], int(y + reach) + 2)
        part = light[y0:y1, x0:x1].astype(np.float64)
        gy, gx = np.mgrid[y0:y1, x0:x1] + 0.5
        distance = np.hypot(gx - x, gy - y)
        rim = part[(distance > 1.1 * mark.radius) & (distance < reach)]
        paper = float(np.median(rim)) if rim.size else float(part.max())
        # A soft end to the circle, so that no pixel comes or goes at once.
        weight = np.clip(paper - part, 0, None) * np.clip((reach - distance) / (0.1 * reach), 0, 1)
        if weight.sum() <= 0:
            break
        x, y = float((gx * weight).sum() / weight.sum()), float((gy * weight).sum() / weight.sum())
    return RingMark(x, y, mark.radius)


def _read_strip(light: Floats, four: tuple[RingMark, ...]) -> int | None:
    """The number in the strip between the first two of four marks, which may be seen in
    perspective.
    """
    # A square of side 1 between the marks: along its upper side the sheet's own scale is even,
    # whatever its shape.
    matrix = _homography(((0, 0), (1, 0), (1, 1), (0, 1)), [(m.x, m.y) for m in four])
    radius = sum(m.radius for m in four) / 4
    wide, high = (
        _length(four[i], four[j]) + _length(four[k], four[m])
        for i, j, k, m in ((0, 1, 3, 2), (0, 3, 1, 2))
    )
    for inch in (1.0, 0.96, 1.04, 0.92, 1.08):  # the ring's size is known to within some per cent
        start = sheets.STRIP_FROM * radius * inch / (wide / 2)
        if (1 - 2 * start) * wide / 2 < 1.5 * sheets.CELLS:
            return None
        value = _cells(light, matrix, start, radius / (high / 2))
        # The strip starts with ink then paper and ends with paper then ink: both levels are known
        # without guessing.
        ink, paper = (value[0] + value[-1]) / 2, (value[1] + value[-2]) / 2
        if paper - ink < 0.02:
            continue
        number = sheets.number_of([int(v < (ink + paper) / 2) for v in value])
        if number is not None:
            return number
    return None


def _length(one: RingMark, two: RingMark) -> float:
    return math.hypot(one.x - two.x, one.y - two.y)


def _cells(light: Floats, matrix: Doubles, start: float, radius: float) -> Doubles:
    """Mean light of each cell: several places across and along it, in a square of side
    1 between the marks.
    """
    cell = (1 - 2 * start) / sheets.CELLS
    along = start + (np.arange(sheets.CELLS) + 0.5) * cell
    across = np.linspace(-0.3, 0.3, STRIP_ROWS) * sheets.STRIP_HIGH * radius
    u = along[:, None, None] + (np.linspace(-0.25, 0.25, 5) * cell)[None, :, None]
    x, y = _through(matrix, *np.broadcast_arrays(u, across))
    values = scipy.ndimage.map_coordinates(light, [y - 0.5, x - 0.5], order=1, mode="nearest")
    return np.asarray(values.mean(axis=(1, 2)), dtype=np.float64)


def _homography(of: tuple[tuple[float, float], ...], to: list[tuple[float, float]]) -> Doubles:
    """The plane's mapping that takes four points to four others (direct linear
    transform).
    """
    rows, right = [], []
    for (x, y), (u, v) in zip(of, to, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    return np.append(np.linalg.solve(np.array(rows), np.array(right)), 1.0).reshape(3, 3)


def _through(matrix: Doubles, x: Doubles, y: Doubles) -> tuple[Doubles, Doubles]:
    w = matrix[2, 0] * x + matrix[2, 1] * y + matrix[2, 2]
    return (
        np.asarray((matrix[0, 0] * x + matrix[0, 1] * y + matrix[0, 2]) / w),
        np.asarray((matrix[1, 0] * x + matrix[1, 1] * y + matrix[1, 2]) / w),
    )
