"""In what one output is brought to another's level, and what comes of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from glenhail.core.level.costs import AtOneLevel
from glenhail.core.level.unsharp_fit import RatioCurve, UnsharpFit
from glenhail.core.picture import Picture

Values = Mapping[str, float | str]


class Way(StrEnum):
    """By what, and in what, one is brought to the other."""

    SHARPNESS = "sharpness"
    DECONVOLUTION = "deconvolution"
    NOISE = "noise"
    CONTRAST = "contrast"
    SIZE = "size"


@dataclass(frozen=True, eq=False)
class Levelled:
    """What brings an output to another's level, and what it is like then.

    ``method`` and ``values`` are the built-in method's that does so, empty where
    nothing has to be done; ``numbers`` what the words follow from beside the readings;
    ``curve`` and ``fit`` are those of sharpness, where that was asked.
    """

    made: Picture
    method: str
    values: Values
    numbers: Mapping[str, Any]
    readings: tuple[AtOneLevel, ...]
    said: str
    curve: RatioCurve | None = None
    fit: UnsharpFit | None = None
    fitted: tuple[float, ...] = field(default=())
