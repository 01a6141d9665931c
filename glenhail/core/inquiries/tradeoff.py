"""Noise against detail: which contenders no other beats at both, and what a plain blend with the frame would have given."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

STEPS = 10


@dataclass(frozen=True)
class Point:
    """A contender's place: noise (less is better) and detail (more is better)."""

    name: str
    noise: float
    detail: float


def front(points: Sequence[Point]) -> list[str]:
    """Names of those that no other beats at both or equals at one and beats at the other (Pareto front), by noise."""
    kept = [p for p in points if not any(_beats(o, p) for o in points)]
    return [p.name for p in sorted(kept, key=lambda p: p.noise)]


def _beats(one: Point, other: Point) -> bool:
    no_worse = one.noise <= other.noise and one.detail >= other.detail
    return no_worse and (one.noise < other.noise or one.detail > other.detail)


def blend(
    frame_noise: float, noise: float, correlation: float, frame_detail: float, detail: float
) -> list[tuple[float, float, float]]:
    """The even blends (1 - s) frame + s output: (s, noise, detail) for s from 0 to 1.

    Detail kept is a cross spectrum with the truth, so it is linear in s. The noise of a sum needs how far both noises go together
    (`correlation`, -1 to 1). Both are exact, on encoded values.
    """
    made = []
    for i in range(STEPS + 1):
        s = i / STEPS
        variance = ((1 - s) * frame_noise) ** 2 + (s * noise) ** 2 + 2 * s * (1 - s) * correlation * frame_noise * noise
        made.append((s, math.sqrt(max(0.0, variance)), (1 - s) * frame_detail + s * detail))
    return made
