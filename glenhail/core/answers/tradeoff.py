"""Noise against detail: which contenders no other beats at both, and what a plain blend
with the frame would have given.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import median
from typing import Any

from glenhail.core.answers.board import Board
from glenhail.core.measures.best import distance
from glenhail.core.measures.catalogue import MEASURES

STEPS = 10
BLENDED = ("noise_luma", "detail_kept")  # the two that an even blend can be worked out for


@dataclass(frozen=True)
class Point:
    """A contender's place: noise (less is better) and detail (more is better)."""

    name: str
    noise: float
    detail: float


def front(points: Sequence[Point]) -> list[str]:
    """Names of those that no other beats at both or equals at one and beats at the
    other (Pareto front), by noise.

    Parameters
    ----------
    points : sequence of Point
        Each contender's noise and detail.
    """
    kept = [p for p in points if not any(_beats(o, p) for o in points)]
    return [p.name for p in sorted(kept, key=lambda p: p.noise)]


def _beats(one: Point, other: Point) -> bool:
    no_worse = one.noise <= other.noise and one.detail >= other.detail
    return no_worse and (one.noise < other.noise or one.detail > other.detail)


def blend(
    frame_noise: float, noise: float, correlation: float, frame_detail: float, detail: float
) -> list[tuple[float, float, float]]:
    """The even blends (1 - s) frame + s output: (s, noise, detail) for s from 0 to 1.

    Detail kept is a cross spectrum with the truth, so it is linear in s. The noise of a
    sum needs how far both noises go together (`correlation`, -1 to 1). Both are exact,
    on encoded values.

    Parameters
    ----------
    frame_noise : float
        The frame's noise, 8-bit codes.
    noise : float
        The output's noise, 8-bit codes.
    correlation : float
        How far both noises go together, -1..1.
    frame_detail : float
        Detail that the frame keeps, per cent.
    detail : float
        Detail that the output keeps, per cent.
    """
    made = []
    for i in range(STEPS + 1):
        s = i / STEPS
        variance = (
            ((1 - s) * frame_noise) ** 2
            + (s * noise) ** 2
            + 2 * s * (1 - s) * correlation * frame_noise * noise
        )
        made.append((s, math.sqrt(max(0.0, variance)), (1 - s) * frame_detail + s * detail))
    return made


def tradeoff(
    board: Board, x: str, y: str, correlations: Mapping[str, Sequence[float]]
) -> dict[str, Any]:
    """Two measures against each other by contender: medians over their places, the
    front, even blends where they can be told.

    `correlations` are how far each contender's brightness noise goes with the frame's,
    one a place.

    Parameters
    ----------
    board : Board
        A study's readings by place, measure and contender.
    x : str
        The measure across, by id.
    y : str
        The measure down, by id.
    correlations : Mapping of str to sequence of float
        By contender's letter, one a place.
    """
    points, middles = [], []
    for column in board.columns:
        across, down = board.median(x, column.letter), board.median(y, column.letter)
        if column.truth or across is None or down is None:
            continue
        middles.append({"letter": column.letter, "x": across, "y": down})
        if not column.unprocessed:
            points.append(Point(column.letter, _less(x, across.value), -_less(y, down.value)))
    blends = _blends(board, correlations) if (x, y) == BLENDED else []
    return {"x": x, "y": y, "points": middles, "front": front(points), "blends": blends}


def _less(measure: str, value: float) -> float:
    """A value's distance from its measure's best: less is better."""
    best = MEASURES[measure].best
    return value if best is None else distance(value, best)


def _blends(board: Board, correlations: Mapping[str, Sequence[float]]) -> list[dict[str, Any]]:
    """Even blends of the frame with each output whose noise is known to go with the
    frame's.
    """
    noises, details = (
        {c: board.median(m, c) for c in (board.unprocessed or "", *board.contenders)}
        for m in BLENDED
    )
    frame_noise, frame_detail = (found[board.unprocessed or ""] for found in (noises, details))
    made = []
    for letter in board.contenders:
        noise, detail, along = noises[letter], details[letter], correlations.get(letter)
        if frame_noise and frame_detail and noise and detail and along:
            curve = blend(
                frame_noise.value, noise.value, median(along), frame_detail.value, detail.value
            )
            made.append(
                {"letter": letter, "x": [n for _, n, _ in curve], "y": [d for _, _, d in curve]}
            )
    return made
