"""Finding the mapping from a frame to an output: scale, sub-pixel shift, border, residual."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NoLineUp
from glenhail.core.lineup.border import Border, border, plain_border
from glenhail.core.lineup.cells import Cell, cell_shifts
from glenhail.core.lineup.correlate import coarse_shift, detail, likeness, window
from glenhail.core.methods.resample import resample
from glenhail.core.picture import Doubles, Floats, Mapping, Picture, Rect

VERSION = "1"

PROXY_SIDE = 640
# Plain enlargements tools offer; one is tried beside the ratio of sizes when it is close to it.
PLAIN_SCALES = (0.25, 1 / 3, 0.5, 2 / 3, 0.75, 1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0)
CLOSE = 0.08
SCALE_RANGE = (0.2, 8.5)
# Likeness of the structure of two proxies under which they are not the same picture.
# Chosen on degraded pairs and pairs of different pictures: see tests/core/lineup.
SAME_PICTURE = 0.3
# What counts as plain: end to end, a scale off by this many pixels of the coarser grid; a
# shift off by this many.
# Blurring in linear light moves an edge in encoded values by about as much, so less can not be told.
SNAP_SCALE = 0.15
SNAP_SHIFT = 0.05
# A correction smaller than this, in frame pixels, is the last.
SETTLED = 0.1


@dataclass(frozen=True)
class LineUp:
    """How an output lies on its frame.

    Attributes
    ----------
    mapping : Mapping
        Frame coordinates to output pixels.
    border : Border
        What is not picture, in output pixels.
    residual : float
        What the mapping leaves over: robust root mean square over cells, in frame pixels.
    likeness : float
        Correlation of the structure of the two, reduced; -1..1.
    cells : tuple of Cell
        Where the residual was measured.
    """

    mapping: Mapping
    border: Border
    residual: float
    likeness: float
    cells: tuple[Cell, ...] = field(repr=False, default=())

    def usable(self, output: Picture) -> Rect:
        """The part of the output that is picture, in output pixels."""
        return self.border.inner(output.width, output.height)


def identical(picture: Picture) -> LineUp:
    """The line-up of a frame with itself."""
    return LineUp(Mapping(), Border(), 0.0, 1.0)


def line_up(source: Picture, output: Picture) -> LineUp:
    """Line an output up with its frame.

    Parameters
    ----------
    source, output : Picture
        The frame, and what was made of it: any size ratio from 0.2 to 8.5, shifted or cropped by up
        to a tenth of its side, with or without a plain border.

    Returns
    -------
    LineUp
        A scale within `SNAP_SCALE` of a plain one, and a shift within `SNAP_SHIFT` of whole pixels,
        are taken as exactly that.

    Raises
    ------
    NoLineUp
        If the two do not show the same picture, or sizes are too far apart.
    """
    _check_sizes(source, output)
    if _same_pixels(source, output):
        return identical(source)
    start, alike = _coarse(source, output)
    if alike < SAME_PICTURE:
        raise NoLineUp(
            f"it does not show the same picture as the frame (likeness {alike:.2f}, at least {SAME_PICTURE} needed); "
            "check that it was made from this frame and not turned or mirrored"
        )
    mapping, cells = _refined(source, output, start)
    residual = _residual(cells)
    return LineUp(mapping, border(source, output, mapping), residual, alike, tuple(cells))


def _same_pixels(source: Picture, output: Picture) -> bool:
    return source.pixels.shape == output.pixels.shape and np.array_equal(source.pixels, output.pixels)


def _check_sizes(source: Picture, output: Picture) -> None:
    low, high = SCALE_RANGE
    ratios = (output.width / source.width, output.height / source.height)
    if not all(low <= r <= high for r in ratios):
        raise NoLineUp(
            f"its size {output.width} x {output.height} is {ratios[0]:.2f} by {ratios[1]:.2f} times the frame's "
            f"{source.width} x {source.height}; ratios from {low} to {high} can be lined up"
        )
    if abs(ratios[0] / ratios[1] - 1) > 0.25:
        raise NoLineUp(
            f"its shape {output.width} x {output.height} differs from the frame's {source.width} x {source.height}; "
            "check that it is not turned and was not cropped"
        )


def _coarse(source: Picture, output: Picture) -> tuple[Mapping, float]:
    """The best of the likely scales with its whole-proxy-pixel shift, and the likeness there."""
    found = [_try_scale(source, output, s) for s in _likely_scales(source, output)]
    return max(found, key=lambda f: f[1])


def _likely_scales(source: Picture, output: Picture) -> list[float]:
    rx, ry = output.width / source.width, output.height / source.height
    inner = plain_border(output).inner(output.width, output.height)
    bordered = (inner.w / source.width + inner.h / source.height) / 2
    likely = [(rx + ry) / 2, bordered, *(s for s in PLAIN_SCALES if abs(s / ((rx + ry) / 2) - 1) < CLOSE)]
    distinct: list[float] = []
    for scale in likely:
        if all(abs(scale / s - 1) > 2e-4 for s in distinct):
            distinct.append(scale)
    return distinct


def _try_scale(source: Picture, output: Picture, scale: float) -> tuple[Mapping, float]:
    """Phase-correlate reduced versions of the two under one scale."""
    step = max(1.0, max(source.width, source.height) / PROXY_SIDE)
    one = _proxy(source, source.bounds, step)
    # The output's proxy has the same source pixels per proxy pixel; shapes are then made equal.
    two = _proxy(output, output.bounds, step * scale)
    height, width = max(one.shape[0], two.shape[0]), max(one.shape[1], two.shape[1])
    a, b = (_padded(detail(p), height, width) for p in (one, two))
    dx, dy = coarse_shift(a, b)
    alike = likeness(*_overlap(a, b, dx, dy))
    if abs(dx) > 0.12 * width or abs(dy) > 0.12 * height:
        alike = min(alike, 0.0)
    return Mapping(scale, scale, dx * step * scale, dy * step * scale), alike


def _proxy(picture: Picture, box: Rect, step: float) -> Floats:
    """Luma of a picture reduced so that one pixel stands for `step` of its own."""
    width, height = max(16, round(box.w / step)), max(16, round(box.h / step))
    part = Rect(0, 0, min(box.w, width * step), min(box.h, height * step))
    small = resample(srgb.luminance(picture.pixels), part, width, height, "area")
    return np.asarray(srgb.encode(np.maximum(small, 0)), dtype=np.float32)


def _padded(plane: Floats, height: int, width: int) -> Floats:
    out = np.zeros((height, width), dtype=np.float32)
    out[: plane.shape[0], : plane.shape[1]] = plane * window((plane.shape[0], plane.shape[1]))
    return out


def _overlap(a: Floats, b: Floats, dx: int, dy: int) -> tuple[Floats, Floats]:
    height, width = a.shape
    ya, xa = max(0, -dy), max(0, -dx)
    yb, xb = max(0, dy), max(0, dx)
    h, w = height - abs(dy), width - abs(dx)
    return a[ya : ya + h, xa : xa + w], b[yb : yb + h, xb : xb + w]


def _refined(source: Picture, output: Picture, start: Mapping) -> tuple[Mapping, list[Cell]]:
    """Cell shifts and a robust straight line through them, until nothing more is to be corrected."""
    mapping = start
    for reach in (8.0, 3.0, 1.5):
        cells = cell_shifts(source, output, mapping, reach)
        if len(cells) < 4:
            raise NoLineUp("too little structure to line it up by; a frame with some detail is needed")
        better = _corrected(mapping, cells)
        settled = _apart(mapping, better, source) < SETTLED
        mapping = better
        if settled:
            break
    snapped = _snapped(mapping, source, output)
    if snapped == start and settled:
        return snapped, cells
    return snapped, cell_shifts(source, output, snapped, 1.5)


def _apart(one: Mapping, two: Mapping, source: Picture) -> float:
    """How far two mappings differ at most within the frame, frame px."""
    corners = (Rect(0, 0, 0, 0), Rect(source.width, source.height, 0, 0))
    gaps = [max(abs(a.x - b.x), abs(a.y - b.y)) for a, b in ((one.rect(c), two.rect(c)) for c in corners)]
    return max(gaps) / min(one.sx, one.sy)


def _corrected(mapping: Mapping, cells: list[Cell]) -> Mapping:
    (ax, bx), (ay, by) = _fit(cells)
    # A cell's shift is in frame pixels: output = s * (x + a + b x) + d.
    return Mapping(mapping.sx * (1 + bx), mapping.sy * (1 + by), mapping.dx + mapping.sx * ax, mapping.dy + mapping.sy * ay)


def _fit(cells: list[Cell], slope_free: bool = True) -> tuple[tuple[float, float], tuple[float, float]]:
    """Intercept and slope of the cells' shifts along x and along y."""
    table = np.array([(c.x, c.dx, c.weight_x, c.y, c.dy, c.weight_y) for c in cells]).T
    x, dx, weight_x, y, dy, weight_y = table
    return _robust_line(x, dx, weight_x, slope_free), _robust_line(y, dy, weight_y, slope_free)


def _robust_line(at: Doubles, value: Doubles, weight: Doubles, slope_free: bool) -> tuple[float, float]:
    """Weighted intercept and slope by iteratively reweighted least squares, Tukey's biweight."""
    centre = float(np.average(at, weights=weight))
    design = np.stack([np.ones_like(at), at - centre], axis=1)
    if not slope_free or np.ptp(at) < 1:
        design = design[:, :1]
    fit = np.zeros(design.shape[1])
    fit[0] = _weighted_median(value, weight)
    for _ in range(15):
        rest = value - design @ fit
        scale = max(1.4826 * _weighted_median(np.abs(rest), weight), 2e-3)
        root = np.sqrt(weight * np.clip(1 - (rest / (4.685 * scale)) ** 2, 0, None) ** 2)
        if (root > 0).sum() < 3:
            break
        fit[:] = np.linalg.lstsq(design * root[:, None], value * root, rcond=None)[0]
    slope = float(fit[1]) if fit.size > 1 else 0.0
    return float(fit[0]) - slope * centre, slope


def _weighted_median(value: Doubles, weight: Doubles) -> float:
    order = np.argsort(value)
    running = np.cumsum(weight[order])
    return float(value[order][np.searchsorted(running, running[-1] / 2)])


def _snapped(mapping: Mapping, source: Picture, output: Picture) -> Mapping:
    """The plain mapping that is as good as the one found, its shift measured anew where the scale changed."""
    sx = _plain_scale(mapping.sx, source.width, output.width)
    sy = _plain_scale(mapping.sy, source.height, output.height)
    if (sx, sy) != (mapping.sx, mapping.sy):
        # Changing the scale about the picture's middle leaves the middle where it was.
        dx = mapping.dx + (mapping.sx - sx) * source.width / 2
        dy = mapping.dy + (mapping.sy - sy) * source.height / 2
        mapping = Mapping(sx, sy, dx, dy)
        (ax, _), (ay, _) = _fit(cell_shifts(source, output, mapping, 1.5), slope_free=False)
        mapping = Mapping(sx, sy, dx + sx * ax, dy + sy * ay)
    return Mapping(sx, sy, _whole_shift(mapping.dx, sx), _whole_shift(mapping.dy, sy))


def _plain_scale(scale: float, source_size: int, output_size: int) -> float:
    """The plain scale, or the ratio of the sizes, that is as good as the one found."""
    for plain in (*PLAIN_SCALES, output_size / source_size):
        if abs(scale / plain - 1) * min(source_size, output_size) < SNAP_SCALE:
            return plain
    return scale


def _whole_shift(shift: float, scale: float) -> float:
    nearest = float(round(shift))
    return nearest if abs(shift - nearest) < SNAP_SHIFT * max(1.0, scale) else shift


def _residual(cells: list[Cell]) -> float:
    """Robust root mean square length of the cells' shifts, frame px."""
    if not cells:
        return 0.0
    lengths = np.array([np.hypot(c.dx, c.dy) for c in cells])
    median = _weighted_median(lengths, np.array([c.weight_x + c.weight_y for c in cells]))
    # For a two-dimensional normal spread the median length is 1.1774 sigma, the r.m.s. 1.4142 sigma.
    return median / 1.1774 * 1.4142
