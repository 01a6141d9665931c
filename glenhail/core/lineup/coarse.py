"""The rough place of an output on its frame: scale, whole-pixel shift, and a turn where
there is one, from reduced versions.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.errors import NoLineUp
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.bend import turned
from glenhail.core.lineup.border import plain_border
from glenhail.core.lineup.correlate import coarse_shift, detail, likeness, window
from glenhail.core.picture import Floats, Mapping, Picture, Rect

PROXY_SIDE = 640
# Plain enlargements tools offer; one is tried beside the ratio of sizes when it is close to it.
PLAIN_SCALES = (0.25, 1 / 3, 0.5, 2 / 3, 0.75, 1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0)
CLOSE = 0.08
SCALE_RANGE = (0.2, 8.5)
# Turns are tried where the two look less alike than this; one is taken where it makes them this
# much more alike.
SURELY_ALIKE, MORE_ALIKE = 0.75, 0.03
TURNS = (-3.0, -2.25, -1.5, -0.75, 0.75, 1.5, 2.25, 3.0)


def check_sizes(source: Picture, output: Picture) -> None:
    """Raise NoLineUp where the sizes are too far apart.

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture
        The output.
    """
    low, high = SCALE_RANGE
    ratios = (output.width / source.width, output.height / source.height)
    if not all(low <= r <= high for r in ratios):
        raise NoLineUp(
            f"its size {output.width} × {output.height} is {ratios[0]:.2f} by {ratios[1]:.2f} times"
            f" the frame's {source.width} × {source.height}; ratios from {low} to {high} can be"
            " lined up"
        )
    if abs(ratios[0] / ratios[1] - 1) > 0.25:
        raise NoLineUp(
            f"its shape {output.width} × {output.height} differs from the frame's {source.width} ×"
            f" {source.height}; check that it is not turned and was not cropped"
        )


def coarse(source: Picture, output: Picture) -> tuple[Mapping, float]:
    """The best of the likely scales with its whole-proxy-pixel shift and perhaps a
    turn, and the likeness there.

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture
        The output.
    """
    found = [_try_scale(source, output, s) for s in likely_scales(source, output)]
    best, alike = max(found, key=lambda f: f[1])
    if alike < SURELY_ALIKE:
        others = [_try_scale(source, output, best.sx, degrees) for degrees in TURNS]
        other, more = max(others, key=lambda f: f[1])
        if more > alike + MORE_ALIKE:
            return other, more
    return best, alike


def likely_scales(source: Picture, output: Picture) -> list[float]:
    """The ratio of the sizes, with and without a border, and plain enlargements near
    it.

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture
        The output.
    """
    rx, ry = output.width / source.width, output.height / source.height
    inner = plain_border(output).inner(output.width, output.height)
    bordered = (inner.w / source.width + inner.h / source.height) / 2
    likely = [
        (rx + ry) / 2,
        bordered,
        *(s for s in PLAIN_SCALES if abs(s / ((rx + ry) / 2) - 1) < CLOSE),
    ]
    distinct: list[float] = []
    for scale in likely:
        if all(abs(scale / s - 1) > 2e-4 for s in distinct):
            distinct.append(scale)
    return distinct


def _try_scale(
    source: Picture, output: Picture, scale: float, degrees: float = 0.0
) -> tuple[Mapping, float]:
    """Phase-correlate reduced versions of the two under one scale and turn."""
    step = max(1.0, max(source.width, source.height) / PROXY_SIDE)
    one = _proxy(source, source.bounds, step)
    # The output's proxy has the same source pixels per proxy pixel; shapes are then made equal.
    two = _proxy(output, output.bounds, step * scale)
    if degrees:
        # About the frame's middle, which is where the turn of the mapping is told about.
        two = _turned_back(two, degrees, one.shape[1] / 2, one.shape[0] / 2)
    height, width = max(one.shape[0], two.shape[0]), max(one.shape[1], two.shape[1])
    a, b = (_padded(detail(p), height, width) for p in (one, two))
    dx, dy = coarse_shift(a, b)
    alike = likeness(*_overlap(a, b, dx, dy))
    if abs(dx) > 0.12 * width or abs(dy) > 0.12 * height:
        alike = min(alike, 0.0)
    mapping = Mapping(scale, scale, dx * step * scale, dy * step * scale)
    if degrees:
        # Shifted after it was turned back: before it, the shift itself was turned, which is little.
        mapping = replace(mapping, bend=turned(degrees, source.width, source.height))
    return mapping, alike


def _turned_back(plane: Floats, degrees: float, x: float, y: float) -> Floats:
    cos, sin = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    matrix = np.array([[cos, sin], [-sin, cos]])  # rows, columns
    centre = np.array([y - 0.5, x - 0.5])
    made = scipy.ndimage.affine_transform(
        plane, matrix, centre - matrix @ centre, order=1, mode="nearest"
    )
    return np.asarray(made, dtype=np.float32)


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
