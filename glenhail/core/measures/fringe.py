"""Colour along edges: fringes beyond the mix of both sides, and red and blue that lie
beside green.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.lab import lab
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.edge import GRID, profiles_of
from glenhail.core.measures.edge_profile import BIN, Edge, find_edge
from glenhail.core.measures.places import pseudo
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Doubles, Floats, Rect
from glenhail.core.statistics.intervals import jackknife

GROUPS = 8
ZONE = 4.0  # px on either side of an edge that its fringe lies in
PLATEAU = (5.0, 9.0)  # px from the edge between which its sides' own colours are taken
RED, GREEN, BLUE = 0, 1, 2
LEAST_STEP = 0.02
Tell = Callable[[Doubles, Doubles], "float | Doubles"]


@dataclass(frozen=True)
class _Edges:
    """The same edge in an output and in the frame, with their pixels, and their scales
    in px per frame px.
    """

    output: tuple[Edge, Floats, float]
    frame: tuple[Edge, Floats, float]


def _edges(subject: Subject, rect: Rect) -> _Edges:
    def find() -> _Edges:
        found, mapping = profiles_of(subject, rect), subject.output.mapping
        pixels = subject.native(found.segment)
        output = found.edge, found.edge.upright(pixels), (mapping.sx + mapping.sy) / 2
        if subject.output.picture is subject.source:
            return _Edges(output, output)
        own = subject.source.crop(found.segment.whole())
        edge = find_edge(srgb.luminance(own))
        return _Edges(output, (edge, edge.upright(own), 1.0))

    return subject.once("colour edges", rect, find)


def _profiles(edge: Edge, pixels: Floats, scale: float) -> list[tuple[Doubles, Doubles]]:
    """Mean linear RGB across the edge in bins of a quarter px: distances in frame px,
    shape (n,), and colours, (n, 3).

    The first over all rows, the others each without one eighth of them.
    """
    reach = PLATEAU[1] * scale + 1
    bins = int(2 * reach / BIN)
    index = np.floor((edge.distance + reach) / BIN).astype(int)
    inside = (index >= 0) & (index < bins)
    group = np.arange(edge.light.shape[0]) * GROUPS // edge.light.shape[0]
    index = (index + (group * bins)[:, None])[inside]
    size = GROUPS * bins
    planes = [np.bincount(index, weights=pixels[..., c][inside], minlength=size) for c in range(3)]
    count = np.bincount(index, minlength=size).reshape(GROUPS, bins)
    total = np.stack(planes, axis=1).reshape(GROUPS, bins, 3)
    at = ((np.arange(bins) + 0.5) * BIN - reach) / scale
    sums = [(total.sum(axis=0), count.sum(axis=0))]
    sums += [(sums[0][0] - t, sums[0][1] - c) for t, c in zip(total, count, strict=True)]
    return [(np.asarray(at[c > 0]), np.asarray(t[c > 0] / c[c > 0, None])) for t, c in sums]


def _extra(at: Doubles, colours: Doubles) -> float:
    """Mean chroma within the zone beyond what a mix of both sides would have (CIELAB)."""
    dark, bright = _sides(at, colours)
    light = colours.mean(axis=1)
    share = np.clip((light - dark.mean()) / (bright.mean() - dark.mean()), 0, 1)[:, None]
    near = np.abs(at) < ZONE
    seen, mixed = (lab(c[near])[:, 1:] for c in (colours, dark + share * (bright - dark)))
    return float(np.hypot(*(seen - mixed).T).mean())


def _sides(at: Doubles, colours: Doubles) -> tuple[Doubles, Doubles]:
    dark = (at < -PLATEAU[0]) & (at > -PLATEAU[1])
    bright = (at > PLATEAU[0]) & (at < PLATEAU[1])
    if dark.sum() < 4 or bright.sum() < 4:
        raise NotMeasurable(
            f"the edge needs {PLATEAU[1]:.0f} frame px of plain ground on both sides"
        )
    low, high = (
        np.asarray(np.median(colours[side], axis=0), dtype=np.float64) for side in (dark, bright)
    )
    if (high - low).mean() < LEAST_STEP:
        raise NotMeasurable("the edge's contrast is too low to tell its colours")
    return low, high


def _places(at: Doubles, colours: Doubles) -> Doubles:
    """Where each channel's edge lies, frame px."""
    dark, bright = _sides(at, colours)
    found = []
    for c in range(3):
        if abs(bright[c] - dark[c]) < LEAST_STEP:
            raise NotMeasurable(
                f"the edge has too little contrast in {('red', 'green', 'blue')[c]}"
            )
        share = (colours[:, c] - dark[c]) / (bright[c] - dark[c])
        near = np.abs(at) < PLATEAU[0]
        # The area between a step and the profile is how far the profile lies off; it uses every
        # bin, not the two at one half.
        width = np.gradient(at[near])
        found.append(float(((at[near] > 0).astype(float) - share[near]) @ width))
    return np.array(found)


def _with_groups(found: tuple[Edge, Floats, float], tell: Tell) -> tuple[Doubles, Doubles]:
    """What is told of all rows, and eight times of all but one eighth of them."""
    whole, *left_out = _profiles(*found)
    return np.asarray(tell(*whole)), np.array([tell(*p) for p in left_out])


def fringe(subject: Subject, rect: Rect) -> MeasuredValue:
    """Colour added along an edge: mean chroma C* beyond a mix of both sides, within 4
    frame px, less the frame's own.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    edges = _edges(subject, rect)
    (made, made_out), (own, own_out) = (
        _with_groups(e, _extra) for e in (edges.output, edges.frame)
    )
    found = jackknife(float(made - own), made_out - own_out)
    return MeasuredValue(
        found.value,
        found.low,
        found.high,
        GRID,
        {"output": float(made), "frame": float(own)},
        pseudo(found.value, made_out - own_out),
    )


def lateral(subject: Subject, rect: Rect) -> MeasuredValue:
    """How far red or blue lies beside green along an edge, frame px, less the frame's
    own; the larger of both, with its sign.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    edges = _edges(subject, rect)
    (made, made_out), (own, own_out) = (
        _with_groups(e, _places) for e in (edges.output, edges.frame)
    )
    shift, shifts = made - own, made_out - own_out
    beside, besides = shift - shift[GREEN], shifts - shifts[:, GREEN : GREEN + 1]
    worst = max((RED, BLUE), key=lambda c: abs(beside[c]))
    found = jackknife(float(beside[worst]), besides[:, worst])
    details = {"red_px": float(beside[RED]), "blue_px": float(beside[BLUE])}
    return MeasuredValue(
        found.value, found.low, found.high, GRID, details, pseudo(found.value, besides[:, worst])
    )
