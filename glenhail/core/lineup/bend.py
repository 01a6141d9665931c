"""What scale and shift leave over between a frame and an output: a small turn, a lens
correction, a keystone.
"""

from __future__ import annotations

import math

import numpy as np
import scipy.ndimage

from glenhail.core.picture import Bend, Doubles, Floats, Mapping, Rect

ROWS_AT_ONCE = 256
MARGIN = 8  # output px around a band, for the spline's own reach


def terms(u: Doubles, v: Doubles) -> Doubles:
    """The ten products of a cubic polynomial at normalised places, shape (..., 10), in
    the order of `Bend`.

    Radial lens correction of the third order (Brown 1966, k1) and any small turn or
    keystone are sums of these.

    Parameters
    ----------
    u : ndarray
        Places across, -1..1.
    v : ndarray
        Places down, -1..1; same shape.
    """
    uu, vv = u * u, v * v
    return np.stack([np.ones_like(u), u, v, uu, u * v, vv, uu * u, uu * v, u * vv, vv * v], axis=-1)


def at(bend: Bend, x: Doubles, y: Doubles) -> tuple[Doubles, Doubles]:
    """The left-over shift at places of the frame, frame px.

    Parameters
    ----------
    bend : Bend
        What scale and shift leave over.
    x : ndarray, shape (n,)
        Places across.
    y : ndarray, shape (n,)
        Places down, or values at the places across.
    """
    products = terms((x - bend.x) / bend.reach, (y - bend.y) / bend.reach)
    return products @ np.asarray(bend.across), products @ np.asarray(bend.down)


def turn_of(bend: Bend) -> float:
    """By how many degrees it turns the picture clockwise about its middle: the
    antisymmetric half of its linear part.

    Parameters
    ----------
    bend : Bend
        What scale and shift leave over.
    """
    return math.degrees((bend.down[1] - bend.across[2]) / 2 / bend.reach)


def largest(bend: Bend, width: float, height: float) -> float:
    """The largest left-over shift over a frame, frame px; looked for on a grid.

    Parameters
    ----------
    bend : Bend
        What scale and shift leave over.
    width : float
        The frame's width, px.
    height : float
        The frame's height, px.
    """
    x, y = np.meshgrid(np.linspace(0, width, 25), np.linspace(0, height, 17))
    dx, dy = at(bend, x, y)
    return float(np.hypot(dx, dy).max())


def turned(degrees: float, width: float, height: float) -> Bend:
    """A turn about the frame's middle, clockwise.

    Parameters
    ----------
    degrees : float
        Clockwise, degrees.
    width : float
        The frame's width, px.
    height : float
        The frame's height, px.
    """
    reach = math.hypot(width, height) / 2
    slope = math.radians(degrees) * reach
    return Bend(width / 2, height / 2, reach, (0, 0, -slope, *[0] * 7), (0, slope, 0, *[0] * 7))


def straightened(values: Floats, mapping: Mapping, target: Rect) -> Floats:
    """Pixels of an output as they would lie without its bend.

    Parameters
    ----------
    values : ndarray, shape (h, w) or (h, w, 3)
        The output.
    mapping : Mapping
        From frame coordinates to output pixels, with the bend.
    target : Rect
        Whole pixels to make; those beyond the output's edge repeat the nearest ones.

    Returns
    -------
    ndarray
        Cubic spline values (Unser 1999). Without a bend, the pixels themselves.
    """
    x0, y0, w, h = (int(v) for v in (target.x, target.y, target.w, target.h))
    if mapping.bend is None:
        return values[y0 : y0 + h, x0 : x0 + w]
    out = np.empty((h, w, *values.shape[2:]), dtype=np.float32)
    for start in range(0, h, ROWS_AT_ONCE):
        stop = min(h, start + ROWS_AT_ONCE)
        out[start:stop] = _band(
            values, mapping, np.arange(x0, x0 + w), np.arange(y0 + start, y0 + stop)
        )
    return out


def _band(values: Floats, mapping: Mapping, columns: np.ndarray, rows: np.ndarray) -> Floats:
    assert mapping.bend is not None
    u, v = np.meshgrid(columns + 0.5, rows + 0.5)
    dx, dy = at(mapping.bend, (u - mapping.dx) / mapping.sx, (v - mapping.dy) / mapping.sy)
    u, v = u + mapping.sx * dx - 0.5, v + mapping.sy * dy - 0.5
    height, width = values.shape[:2]
    top, bottom = _span(v, height)
    left, right = _span(u, width)
    part = values[top:bottom, left:right]
    places = np.stack([v - top, u - left])
    planes = part[..., None] if part.ndim == 2 else part
    made = [
        scipy.ndimage.map_coordinates(planes[..., i], places, order=3, mode="nearest")
        for i in range(planes.shape[-1])
    ]
    return np.asarray(made[0] if part.ndim == 2 else np.stack(made, axis=-1), dtype=np.float32)


def _span(places: Doubles, size: int) -> tuple[int, int]:
    """The pixels that a band needs, at least two of them."""
    low = min(max(0, math.floor(places.min()) - MARGIN), max(0, size - 2))
    return low, max(low + min(2, size), min(size, math.ceil(places.max()) + MARGIN + 1))
