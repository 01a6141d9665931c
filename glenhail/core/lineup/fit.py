"""From shifts measured in cells to scale, shift and, only where the cells ask for it, a
turn or a bend.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from glenhail.core.lineup.bend import at, terms
from glenhail.core.lineup.cells import ShiftCell
from glenhail.core.picture import Bend, Doubles, Mapping, Rect

ROUNDS = 15
LEAST_SCATTER = 2e-3  # frame px, under which scatter is taken for rounding
NORMAL = 1.4826
# Ever freer models, each with how many cells it needs, by how much (frame px) it must move the
# corners to be believed, and what share of the simpler one's scatter it may leave; besides, it must
# lie this many of its standard errors from nothing.
LADDER = (
    (("turn",), 8, 0.1, 0.85),
    (("turn", "radial"), 16, 0.2, 0.75),
    (("turn", "radial", "keystone across", "keystone down"), 24, 0.3, 0.65),
)
SURE = 5.0


@dataclass(frozen=True)
class Table:
    """Cells as columns; the shifts hold what the mapping they were measured under has
    bent already.
    """

    x: Doubles
    y: Doubles
    dx: Doubles
    dy: Doubles
    weight_x: Doubles
    weight_y: Doubles


def table(cells: list[ShiftCell], mapping: Mapping) -> Table:
    """The cells' whole shift against scale and shift alone.

    Parameters
    ----------
    cells : list of ShiftCell
        Measured places with their shifts, frame px.
    mapping : Mapping
        From frame coordinates to output pixels.
    """
    x, y, dx, dy, wx, wy = np.array(
        [(c.x, c.y, c.dx, c.dy, c.weight_x, c.weight_y) for c in cells]
    ).T
    if mapping.bend is not None:
        bx, by = at(mapping.bend, x, y)
        dx, dy = dx + bx, dy + by
    return Table(x, y, dx, dy, wx, wy)


def corrected(
    mapping: Mapping, cells: list[ShiftCell], frame: Rect, bend_free: bool = True
) -> Mapping:
    """The simplest mapping that explains the cells: straight, turned, or bent.

    Parameters
    ----------
    mapping : Mapping
        From frame coordinates to output pixels.
    cells : list of ShiftCell
        Measured places with their shifts, frame px.
    frame : Rect
        The whole frame, px.
    bend_free : bool
        Whether it may turn or bend.
    """
    t = table(cells, mapping)
    best = _straight(t)
    for names, needed, least, leaves in LADDER:
        if bend_free and len(cells) >= needed:
            fit = _shaped(t, frame, names)
            if fit.corner > least and fit.errors > SURE and fit.scatter < leaves * best.scatter:
                best = fit
    return folded(mapping, best.bend)


@dataclass(frozen=True)
class _Fit:
    """A model fitted to the cells, what it leaves over, and how far its shapes move the
    corners: frame px, and standard errors.
    """

    bend: Bend
    scatter: float
    corner: float = 0.0
    errors: float = 0.0


# Shapes that may be added to shift and scale, as (across, down) of normalised u, v. The turn
# (small); the third-order radial distortion of a lens (Brown 1966, k1); the two keystones of a
# plane seen askew.
SHAPES = {
    "turn": ((0, 0, -1, 0, 0, 0, 0, 0, 0, 0), (0, 1, 0, 0, 0, 0, 0, 0, 0, 0)),
    "radial": ((0, 0, 0, 0, 0, 0, 1, 0, 1, 0), (0, 0, 0, 0, 0, 0, 0, 1, 0, 1)),
    "keystone across": ((0, 0, 0, 1, 0, 0, 0, 0, 0, 0), (0, 0, 0, 0, 1, 0, 0, 0, 0, 0)),
    "keystone down": ((0, 0, 0, 0, 1, 0, 0, 0, 0, 0), (0, 0, 0, 0, 0, 1, 0, 0, 0, 0)),
}


def _straight(t: Table) -> _Fit:
    fits = [robust_line(t.x, t.dx, t.weight_x), robust_line(t.y, t.dy, t.weight_y)]
    (ax, bx), (ay, by) = fits
    bend = Bend(0, 0, 1, (ax, bx, *[0.0] * 8), (ay, 0, by, *[0.0] * 7))
    return _Fit(bend, _scatter(t, bend))


def _shaped(t: Table, frame: Rect, names: tuple[str, ...]) -> _Fit:
    """Shift and scales with some shapes, in one fit of both directions."""
    reach = math.hypot(frame.w, frame.h) / 2
    u, v = (t.x - frame.w / 2) / reach, (t.y - frame.h / 2) / reach
    products, one, zero = terms(u, v), np.ones_like(u), np.zeros_like(u)
    shapes = [np.array(SHAPES[name], dtype=float) for name in names]
    across = np.stack([one, u, zero, zero, *(products @ s[0] for s in shapes)], axis=1)
    down = np.stack([zero, zero, one, v, *(products @ s[1] for s in shapes)], axis=1)
    design = np.concatenate([across, down])
    value, weight = np.concatenate([t.dx, t.dy]), np.concatenate([t.weight_x, t.weight_y])
    ax, bx, ay, by, *amounts = _robust(design, value, weight)
    bent = [
        sum((k * s[i] for k, s in zip(amounts, shapes, strict=True)), np.zeros(10)) for i in (0, 1)
    ]
    bent[0][:2] += ax, bx
    bent[1][[0, 2]] += ay, by
    bend = Bend(frame.w / 2, frame.h / 2, reach, *(tuple(float(c) for c in part) for part in bent))
    scatter = _scatter(t, bend)
    free = np.array(amounts)
    covariance = np.linalg.pinv(design.T @ (design * (weight / weight.mean())[:, None]))
    error = float(np.sqrt(np.trace(covariance[4:, 4:]))) * NORMAL * scatter
    return _Fit(
        bend, scatter, float(np.abs(free).max()), float(np.abs(free).max()) / max(error, 1e-9)
    )


def _scatter(t: Table, bend: Bend) -> float:
    dx, dy = at(bend, t.x, t.y)
    parts = [(t.dx - dx, t.weight_x), (t.dy - dy, t.weight_y)]
    return math.hypot(
        *(max(LEAST_SCATTER, weighted_median(np.abs(rest), weight)) for rest, weight in parts)
    )


def folded(mapping: Mapping, b: Bend) -> Mapping:
    """Constant and own-direction slope go into shift and scale; what remains, if
    anything, is the bend.

    Parameters
    ----------
    mapping : Mapping
        From frame coordinates to output pixels.
    b : Bend
        What was fitted, straight part included.
    """
    kx, ky = b.across[1] / b.reach, b.down[2] / b.reach
    dx = mapping.dx + mapping.sx * (b.across[0] - kx * b.x)
    dy = mapping.dy + mapping.sy * (b.down[0] - ky * b.y)
    across = tuple(0.0 if i in (0, 1) else v / (1 + kx) for i, v in enumerate(b.across))
    down = tuple(0.0 if i in (0, 2) else v / (1 + ky) for i, v in enumerate(b.down))
    rest = Bend(b.x, b.y, b.reach, across, down) if any(across) or any(down) else None
    return Mapping(mapping.sx * (1 + kx), mapping.sy * (1 + ky), dx, dy, rest)


def robust_line(
    at_: Doubles, value: Doubles, weight: Doubles, slope_free: bool = True
) -> tuple[float, float]:
    """Weighted intercept and slope, robust.

    Parameters
    ----------
    at_ : ndarray, shape (n,)
        Where they were taken.
    value : ndarray, shape (n,)
        Values.
    weight : ndarray, shape (n,)
        Their weights, none negative.
    slope_free : bool
        Whether it may slope.
    """
    centre = float(np.average(at_, weights=weight))
    design = np.stack([np.ones_like(at_), at_ - centre], axis=1)
    if not slope_free or np.ptp(at_) < 1:
        design = design[:, :1]
    fit = _robust(design, value, weight)
    slope = float(fit[1]) if fit.size > 1 else 0.0
    return float(fit[0]) - slope * centre, slope


def _robust(design: Doubles, value: Doubles, weight: Doubles) -> Doubles:
    """Iteratively reweighted least squares with Tukey's biweight, from the weighted
    median on.
    """
    fit = np.zeros(design.shape[1])
    rest = (
        value - weighted_median(value, weight)
        if design.shape[1] <= 2
        else value - design @ _plain(design, value, weight)
    )
    for _ in range(ROUNDS):
        scale = max(NORMAL * weighted_median(np.abs(rest), weight), LEAST_SCATTER)
        trust = weight * np.clip(1 - (rest / (4.685 * scale)) ** 2, 0, None) ** 2
        if (trust > 0).sum() < design.shape[1] + 1:
            break
        fit = _plain(design, value, trust)
        rest = value - design @ fit
    return fit


def _plain(design: Doubles, value: Doubles, weight: Doubles) -> Doubles:
    root = np.sqrt(weight)
    return np.asarray(np.linalg.lstsq(design * root[:, None], value * root, rcond=None)[0])


def weighted_median(value: Doubles, weight: Doubles) -> float:
    """The value half of the weight lies under.

    Parameters
    ----------
    value : ndarray, shape (n,)
        Values.
    weight : ndarray, shape (n,)
        Their weights, none negative.
    """
    order = np.argsort(value)
    running = np.cumsum(weight[order])
    return float(value[order][np.searchsorted(running, running[-1] / 2)])


def residual(cells: list[ShiftCell]) -> float:
    """Robust root mean square length of the cells' shifts, frame px.

    Parameters
    ----------
    cells : list of ShiftCell
        Measured places with their shifts, frame px.
    """
    if not cells:
        return 0.0
    lengths = np.array([np.hypot(c.dx, c.dy) for c in cells])
    median = weighted_median(lengths, np.array([c.weight_x + c.weight_y for c in cells]))
    # For a two-dimensional normal spread the median length is 1.1774 sigma, the r.m.s. 1.4142
    # sigma.
    return median / 1.1774 * 1.4142
