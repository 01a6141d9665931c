"""The best straight edge within a patch of a natural picture, found where the picture
shows it best.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.colour.roots import kernel
from glenhail.core.errors import NotMeasurable
from glenhail.core.filters.blur import gaussian
from glenhail.core.measures.edge_profile import NOISE_FLOOR, find_edge, profiles
from glenhail.core.picture import Doubles, Floats, Rect

SIDES = (96, 64, 48, 36, 26)  # px of the square windows that are tried
TRIES = 5  # the most promising windows of each side
BLUR = 1.0  # px
GOOD = 0.9
LEAST = 0.15


@dataclass(frozen=True)
class Segment:
    """Part of a patch, in pixels from its corner, that holds one straight edge; quality
    from 0 to 1.
    """

    rect: Rect
    quality: float


def quality_of(light: Floats, scale: float = 1.0) -> float:
    """How well a part suits the slanted-edge method: contrast against what its plateaus
    still hold; 0 where not at all.

    Parameters
    ----------
    light : ndarray, shape (h, w), float32
        Linear luminance, 1 is white.
    scale : float
        Pixels of the patch for each of the subject's.
    """
    try:
        found = profiles(find_edge(light, scale), 0, scale).whole
    except NotMeasurable:
        return 0.0
    return max(0.0, 1 - found.noise / NOISE_FLOOR) if found.noise < NOISE_FLOOR else 0.0


def best_segment(light: Floats, scale: float = 1.0, blur: float = BLUR) -> Segment | None:
    """The part of a plane of linear luminance with the best edge of any direction; the
    whole plane if that will do.

    Windows are picked by how strongly and how uniformly their gradients point one way
    (structure tensor, Förstner and Gülch 1987), larger ones first; None if no window
    holds an edge that can be measured. Noise would hide edges: what is searched is
    blurred.

    Parameters
    ----------
    light : ndarray, shape (h, w), float32
        Linear luminance, 1 is white.
    scale : float
        Pixels of the patch for each of the subject's.
    blur : float
        Gaussian that takes noise off first, px.
    """
    height, width = light.shape
    if min(light.shape) < min(SIDES):
        return None
    whole = quality_of(light, scale)
    if whole >= GOOD:
        return Segment(Rect(0, 0, width, height), whole)
    best = Segment(Rect(0, 0, width, height), whole) if whole >= LEAST else None
    light = gaussian(light, blur)
    promise = _tensor(light)
    for side in (round(s * max(1.0, scale)) for s in SIDES):
        if side >= min(height, width):
            continue
        for x, y in _promising(promise, side):
            quality = quality_of(light[y : y + side, x : x + side], scale)
            if quality >= LEAST and (best is None or quality > best.quality + 0.05):
                best = Segment(Rect(x, y, side, side), quality)
        if best is not None and best.quality >= GOOD:
            return best
    return best


def _tensor(light: Floats) -> Doubles:
    """Summed-area tables of gx gx, gy gy and gx gy, shape (3, h + 1, w + 1)."""
    tables = np.zeros((3, light.shape[0] + 1, light.shape[1] + 1))
    _sum_gradients(light, tables)
    return tables


@kernel
def _sum_gradients(light: Floats, tables: Doubles) -> None:
    height, width = light.shape
    for y in range(height):
        up, down = max(y - 1, 0), min(y + 1, height - 1)
        xx = yy = xy = 0.0
        for x in range(width):
            left, right = max(x - 1, 0), min(x + 1, width - 1)
            gx = (light[y, right] - light[y, left]) / (right - left)
            gy = (light[down, x] - light[up, x]) / (down - up)
            xx, yy, xy = xx + gx * gx, yy + gy * gy, xy + gx * gy
            tables[0, y + 1, x + 1] = tables[0, y, x + 1] + xx
            tables[1, y + 1, x + 1] = tables[1, y, x + 1] + yy
            tables[2, y + 1, x + 1] = tables[2, y, x + 1] + xy


def _promising(tables: Doubles, side: int) -> list[tuple[int, int]]:
    """Corners of the windows whose gradients are strongest along one direction and
    weakest across it.
    """
    step = max(4, side // 4)
    left, right = slice(0, -side, step), slice(side, None, step)
    xx, yy, xy = (
        tables[:, right, right]
        - tables[:, left, right]
        - tables[:, right, left]
        + tables[:, left, left]
    )
    spread = np.hypot(xx - yy, 2 * xy)
    # Along minus four times across: a corner or a texture falls below zero.
    score = spread - 1.5 * (xx + yy - spread)
    order = np.argsort(-score, axis=None, kind="stable")[:TRIES]
    places = (divmod(int(i), score.shape[1]) for i in order if score.flat[i] > 0)
    return [(column * step, row * step) for row, column in places]
