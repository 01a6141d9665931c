"""In what one output is brought to another's level, and what comes of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from glenhail.core.level.costs import AtOneLevel
from glenhail.core.level.unsharp_fit import RatioCurve
from glenhail.core.lineup.aligned import AlignedPicture, aligned, lined_up
from glenhail.core.measures.catalogue import Patch
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
class LevelPair:
    """Two outputs of a frame: the one that is brought to a level, and the other, whose
    level is wanted; the known-good original where there is one, and patches, frame px.
    """

    source: Picture
    one: AlignedPicture
    other: AlignedPicture
    truth: AlignedPicture | None = None
    patches: Sequence[Patch] = ()

    @property
    def known(self) -> Picture:
        """What structure is told by: the truth, else the frame."""
        return self.truth.picture if self.truth is not None else self.source


def level_pair(
    source: Picture,
    one: Picture,
    other: Picture,
    truth: Picture | None = None,
    patches: Sequence[Patch] = (),
) -> LevelPair:
    """Two outputs, lined up with their frame.

    Parameters
    ----------
    source : Picture
        The frame.
    one, other : Picture
        What is brought to a level, and whose level is wanted.
    truth : Picture, optional
        The known-good original.
    patches : sequence of Patch
        Where they are measured, frame px.

    Raises
    ------
    NoLineUp
        If one of them does not lie on the frame.
    """
    first, second = (aligned(p, lined_up(source, p)) for p in (one, other))
    known = aligned(truth, lined_up(source, truth)) if truth is not None else None
    return LevelPair(source, first, second, known, patches)


@dataclass(frozen=True, eq=False)
class Sought:
    """The built-in ``method`` with the ``values`` that bring one to the other's level,
    empty where nothing has to be done; ``numbers`` what the words follow from beside
    the readings; ``curve`` what has to be raised by frequency, where that was asked,
    and ``fitted`` what the method raises at its frequencies.
    """

    method: str = ""
    values: Values = field(default_factory=dict)
    numbers: Mapping[str, Any] = field(default_factory=dict)
    curve: RatioCurve | None = None
    fitted: tuple[float, ...] = ()


@dataclass(frozen=True, eq=False)
class Levelled:
    """What was sought, what it made of the one output (which stays as it is where
    nothing has to be done), and both beside the other, measured and in words.
    """

    sought: Sought
    made: Picture
    readings: tuple[AtOneLevel, ...]
    said: str
