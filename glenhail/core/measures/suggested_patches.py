"""Where to measure: the most even lit and dark places of a frame, its richest texture,
its best edges, its lights; and why.

What is suggested was measured: a place that reads nothing in the frame itself is passed
over.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.lights import find_lights
from glenhail.core.measures.segments import best_segment
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Doubles, Floats, Mapping, Picture, Rect

VERSION = "2"
CELL = 8  # px, side of the cells that statistics are taken of
SIDES = (64, 192)  # px, smallest and largest side of a suggested patch
SHARE = 14  # of a frame's shorter side
EACH = 2  # suggestions a role
MOST_TRIED = 24
LIT, DARK = (70.0, 215.0), (6.0, 45.0)  # codes between which a place counts as lit, or as dark
LEAST_TEXTURE = 4.0  # codes
LEAST_LIGHTS, LEAST_STRENGTH = 4, 12.0
EVEN = (
    3.0  # codes that cells of an even place differ by besides what noise leaves of them, an eighth
)
PLAIN_GROUND = 5.0  # codes, spread within cells of the ground that lights stand on


@dataclass(frozen=True)
class Suggestion:
    """A patch worth measuring, in the frame's pixels, and the reason in words."""

    role: str
    rect: Rect
    reason: str


@dataclass(frozen=True)
class _Windows:
    """Statistics of square windows, half overlapping: level, structure coarser than a
    cell, spread within cells; codes.
    """

    side: int
    x: np.ndarray
    y: np.ndarray
    level: Doubles
    structure: Doubles
    fine: Doubles
    plainest: Doubles

    def rect(self, at: int) -> Rect:
        return Rect(float(self.x[at]), float(self.y[at]), self.side, self.side)


def suggest(frame: Picture, truth: AlignedPicture | None = None) -> list[Suggestion]:
    """Patches for a frame, at most two a role, none over another of its role; a truth
    shows what is plain and what an edge.

    Parameters
    ----------
    frame : Picture
        The frame.
    truth : AlignedPicture, optional
        The known-good original with its line-up.
    """
    luma = srgb.luma(frame.pixels) * np.float32(255)
    side = int(np.clip(min(luma.shape) // SHARE // CELL * CELL, *SIDES))
    if min(luma.shape) < side:
        return []
    w = _windows(luma, side)
    subject = Subject(frame, AlignedPicture(frame, Mapping(), frame.bounds), truth)
    # Noise rises with brightness; structure is held against the spread that the plainest cells near
    # that level have.
    return [
        *_even(w, subject, "flat", LIT, "lit"),
        *_even(w, subject, "shadow", DARK, "dark"),
        *_texture(w, subject),
        *_edges(subject, w),
        *_lights(luma, subject, w),
    ]


def _windows(luma: Floats, side: int) -> _Windows:
    rows, columns = luma.shape[0] // CELL, luma.shape[1] // CELL
    cells = luma[: rows * CELL, : columns * CELL].reshape(rows, CELL, columns, CELL)
    mean = cells.mean(axis=(1, 3), dtype=np.float64)
    square = np.einsum("icjd,icjd->ij", cells, cells, dtype=np.float64) / CELL**2
    spread = np.sqrt(np.maximum(square - mean**2, 0))
    n = side // CELL
    y, x = np.mgrid[0 : rows - n + 1 : max(1, n // 2), 0 : columns - n + 1 : max(1, n // 2)]
    views = [
        np.lib.stride_tricks.sliding_window_view(p, (n, n))[y.ravel(), x.ravel()]
        for p in (mean, spread)
    ]
    level = views[0].mean(axis=(1, 2))
    structure = views[0].std(axis=(1, 2))
    fine, plainest = np.median(views[1], axis=(1, 2)), np.quantile(views[1], 0.1, axis=(1, 2))
    return _Windows(side, x.ravel() * CELL, y.ravel() * CELL, level, structure, fine, plainest)


def _even(
    w: _Windows, subject: Subject, role: str, between: tuple[float, float], name: str
) -> list[Suggestion]:
    fits = (w.level > between[0]) & (w.level < between[1])
    # Even: cells differ little from one another, and one cell within is much like the other.
    score = w.structure + 0.5 * w.fine
    order = [
        int(i)
        for i in np.argsort(score)
        if fits[i] and w.structure[i] < EVEN + w.fine[i] / (CELL - 2)
    ]
    return [
        Suggestion(
            role,
            w.rect(i),
            f"the most even {name} place: {w.level[i]:.0f} levels, varies by {w.structure[i]:.1f}",
        )
        for i in _apart(w, order, reads=_reads(subject, w, role, "noise_luma"))
    ]


def _texture(w: _Windows, subject: Subject) -> list[Suggestion]:
    # Rich all over: even its plainest cells have structure, and more of it than noise leaves in the
    # plainest windows of the frame.
    noise = float(np.quantile(w.fine, 0.05))
    score = w.plainest + 0.3 * w.fine
    order = [
        int(i)
        for i in np.argsort(-score)
        if w.plainest[i] > LEAST_TEXTURE + 1.5 * noise and LIT[0] / 2 < w.level[i] < 240
    ]
    return [
        Suggestion(
            "texture",
            w.rect(i),
            f"rich texture all over: spreads by {w.fine[i]:.0f} levels, by {w.plainest[i]:.0f}"
            " where least",
        )
        for i in _apart(w, order, reads=_reads(subject, w, "texture", "contrast_change"))
    ]


def _edges(subject: Subject, w: _Windows) -> list[Suggestion]:
    """Windows with strong steps, tried in order until the slanted-edge method suits two
    of them.
    """
    order = [int(i) for i in np.argsort(-w.structure)[:120]]
    found: list[tuple[float, Suggestion]] = []
    for i in _apart(w, order, 14):
        if not _reads(subject, w, "edge", "mtf50")(i):
            continue
        rect = w.rect(i)
        light = srgb.luminance(subject.source.crop(rect))
        segment = best_segment(light)
        if segment is not None:
            text = f"a straight edge, quality {segment.quality:.2f} of 1"
            found.append((segment.quality, Suggestion("edge", rect, text)))
    return [s for _, s in sorted(found, key=lambda f: -f[0])[:EACH]]


def _lights(luma: Floats, subject: Subject, w: _Windows) -> list[Suggestion]:
    """Windows with most points of light on dark ground."""
    if float(np.median(luma)) > LIT[0]:
        return []
    found = find_lights(luma).surely()
    places = found.places[found.strength > LEAST_STRENGTH]
    if places.shape[0] < LEAST_LIGHTS:
        return []
    inside = (
        (places[None, :, 0] >= w.x[:, None])
        & (places[None, :, 0] < w.x[:, None] + w.side)
        & (places[None, :, 1] >= w.y[:, None])
        & (places[None, :, 1] < w.y[:, None] + w.side)
    )
    count = inside.sum(axis=1)
    order = [
        int(i)
        for i in np.argsort(-count)
        if count[i] >= LEAST_LIGHTS and w.level[i] < LIT[0] and w.fine[i] < PLAIN_GROUND
    ]
    return [
        Suggestion("lights", w.rect(i), f"{count[i]} points of light on dark ground")
        for i in _apart(w, order, reads=_reads(subject, w, "lights", "lights_kept"))
    ]


def _apart(
    w: _Windows, order: list[int], most: int = EACH, reads: Callable[[int], bool] = lambda i: True
) -> list[int]:
    """The first few of an order that do not overlap and can be measured; after so many
    that can not there are none.
    """
    kept: list[int] = []
    tried = 0
    for i in order:
        if all(abs(w.x[i] - w.x[k]) >= w.side or abs(w.y[i] - w.y[k]) >= w.side for k in kept):
            tried += 1
            if reads(i):
                kept.append(i)
        if len(kept) == most or tried == MOST_TRIED:
            break
    return kept


def _reads(subject: Subject, w: _Windows, role: str, measure: str) -> Callable[[int], bool]:
    """Whether a window reads something in the frame itself."""
    return lambda i: take(subject, MEASURES[measure], Patch("", role, w.rect(i))).value is not None
