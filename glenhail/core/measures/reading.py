"""What a measure gives back."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True)
class MeasuredValue:
    """A number with its 95 % interval, the grid it was taken on, and what stands behind
    it.

    ``parts`` are jackknife pseudo-values, one for each part of the patch in a fixed
    order: two outputs' readings of one patch are compared part by part, so that what
    both share (texture, the frame's own noise) cancels. Empty where there are none.
    """

    value: float
    low: float
    high: float
    grid: str
    details: dict[str, Any] = field(default_factory=dict)
    parts: tuple[float, ...] = ()


@dataclass(frozen=True)
class Reading:
    """One measure of one output on one patch, or the reason why there is none.

    ``patch`` is None for the whole frame; exactly one of ``value`` and ``reason`` is
    set. ``concerns`` is False where the measure asks what this output was never meant
    to do.
    """

    measure: str
    patch: str | None
    value: float | None
    low: float | None
    high: float | None
    unit: str
    version: str
    grid: str | None = None
    reason: str | None = None
    concerns: bool = True
    details: dict[str, Any] = field(default_factory=dict)
    parts: tuple[float, ...] = ()
