"""The one type for a value that is not known exactly."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Interval:
    """An estimate and its 95 % bounds."""

    value: float
    low: float
    high: float
