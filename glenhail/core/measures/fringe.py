"""Colour along edges: fringes beyond the mix of both sides, and red and blue that lie beside green."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from glenhail.core.colour.lab import lab
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.edge import GRID, edge_of
from glenhail.core.measures.edge_profile import BIN, Edge, find_edge
from glenhail.core.measures.intervals import jackknife
from glenhail.core.measures.places import pseudo
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import Laid, Subject
from glenhail.core.picture import Doubles, Floats, Mapping, Rect

GROUPS = 8
ZONE = 4.0  # px on either side of an edge that its fringe lies in
PLATEAU = (5.0, 9.0)  # px from the edge between which its sides' own colours are taken
RED, GREEN, BLUE = 0, 1, 2
LEAST_STEP = 0.02
Tell = Callable[[Edge, Floats, float, np.ndarray], "float | Doubles"]


@dataclass(frozen=True)
class _Edges:
    """The same edge in an output and in the frame, with their pixels, and their scales in px per frame px."""

    output: tuple[Edge, Floats, float]
    frame: tuple[Edge, Floats, float]


def _edges(subject: Subject, rect: Rect) -> _Edges:
    def find() -> _Edges:
        segment, _ = edge_of(subject, rect)
        mapping = subject.output.mapping
        frame = Subject(subject.source, Laid(subject.source, Mapping(), subject.whole))
        return _Edges((*_edge(subject, segment), (mapping.sx + mapping.sy) / 2), (*_edge(frame, segment), 1.0))

    return subject.once("colour edges", rect, find)


def _edge(subject: Subject, rect: Rect) -> tuple[Edge, Floats]:
    """An edge found in green, and the pixels turned as the edge was."""
    pixels = subject.native(rect)
    edge = find_edge(pixels[..., GREEN])
    if edge.light.shape != pixels.shape[:2] or not np.allclose(np.sort(edge.light[0]), np.sort(pixels[0, :, GREEN])):
        pixels = pixels.swapaxes(0, 1)
    if not np.allclose(edge.light, pixels[..., GREEN], atol=1e-6):
        pixels = pixels[:, ::-1]
    return edge, pixels


def _profiles(edge: Edge, pixels: Floats, scale: float, rows: np.ndarray) -> tuple[Doubles, Doubles]:
    """Mean linear RGB across the edge in bins of a quarter px; distances in frame px, shape (n,), and (n, 3)."""
    distance = edge.distance[rows]
    reach = PLATEAU[1] * scale + 1
    index = np.floor((distance + reach) / BIN).astype(int)
    bins = int(2 * reach / BIN)
    inside = (index >= 0) & (index < bins)
    count = np.bincount(index[inside], minlength=bins)
    full = count > 0
    sums = [np.bincount(index[inside], weights=pixels[rows][..., c][inside], minlength=bins)[full] for c in range(3)]
    at = (np.flatnonzero(full) + 0.5) * BIN - reach
    return np.asarray(at / scale), np.asarray(np.stack(sums, axis=1) / count[full, None])


def _extra(edge: Edge, pixels: Floats, scale: float, rows: np.ndarray) -> float:
    """Mean chroma within the zone beyond what a mix of both sides would have (CIELAB)."""
    at, colours = _profiles(edge, pixels, scale, rows)
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
        raise NotMeasurable(f"the edge needs {PLATEAU[1]:.0f} frame px of plain ground on both sides")
    low, high = (np.asarray(np.median(colours[side], axis=0), dtype=np.float64) for side in (dark, bright))
    if (high - low).mean() < LEAST_STEP:
        raise NotMeasurable("the edge's contrast is too low to tell its colours")
    return low, high


def _places(edge: Edge, pixels: Floats, scale: float, rows: np.ndarray) -> Doubles:
    """Where each channel crosses half of its step, frame px."""
    at, colours = _profiles(edge, pixels, scale, rows)
    dark, bright = _sides(at, colours)
    found = []
    for c in range(3):
        if abs(bright[c] - dark[c]) < LEAST_STEP:
            raise NotMeasurable(f"the edge has too little contrast in {('red', 'green', 'blue')[c]}")
        share = (colours[:, c] - dark[c]) / (bright[c] - dark[c])
        near = np.abs(at) < PLATEAU[0]
        # The area between a step and the profile is how far the profile lies off; it uses every bin, not the two at one half.
        width = np.gradient(at[near])
        found.append(float(((at[near] > 0).astype(float) - share[near]) @ width))
    return np.array(found)


def _with_groups(found: tuple[Edge, Floats, float], tell: Tell) -> tuple[Doubles, Doubles]:
    """What is told of all rows, and eight times of all but one eighth of them."""
    edge, pixels, scale = found
    rows = np.arange(edge.light.shape[0])
    group = rows * GROUPS // rows.size
    left_out = [tell(edge, pixels, scale, rows[group != g]) for g in range(GROUPS)]
    return np.asarray(tell(edge, pixels, scale, rows)), np.array(left_out)


def fringe(subject: Subject, rect: Rect) -> Measured:
    """Colour added along an edge: mean chroma C* beyond a mix of both sides, within 4 frame px, less the frame's own."""
    edges = _edges(subject, rect)
    (made, made_out), (own, own_out) = (_with_groups(e, _extra) for e in (edges.output, edges.frame))
    found = jackknife(float(made - own), made_out - own_out)
    return Measured(
        found.value,
        found.low,
        found.high,
        GRID,
        {"output": float(made), "frame": float(own)},
        pseudo(found.value, made_out - own_out),
    )


def lateral(subject: Subject, rect: Rect) -> Measured:
    """How far red or blue lies beside green along an edge, frame px, less the frame's own; the larger of both, with its sign."""
    edges = _edges(subject, rect)
    (made, made_out), (own, own_out) = (_with_groups(e, _places) for e in (edges.output, edges.frame))
    shift, shifts = made - own, made_out - own_out
    beside, besides = shift - shift[GREEN], shifts - shifts[:, GREEN : GREEN + 1]
    worst = max((RED, BLUE), key=lambda c: abs(beside[c]))
    found = jackknife(float(beside[worst]), besides[:, worst])
    details = {"red_px": float(beside[RED]), "blue_px": float(beside[BLUE])}
    return Measured(found.value, found.low, found.high, GRID, details, pseudo(found.value, besides[:, worst]))
