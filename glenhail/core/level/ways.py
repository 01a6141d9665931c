"""All ways to bring one output to another's level: what does it, and its words."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from glenhail.core.level.contrast import contrast_said, find_contrast
from glenhail.core.level.costs import AtOneLevel, compared
from glenhail.core.level.deconvolved import deconvolution_said, find_deconvolution
from glenhail.core.level.matched import find_mask, sharpness_said
from glenhail.core.level.noise import find_smoothing, noise_said
from glenhail.core.level.size import find_factor, size_said
from glenhail.core.level.way import Levelled, LevelPair, Sought, Way
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Mapping as Placed
from glenhail.core.picture import Picture, Rect

Said = Callable[[Mapping[str, Any], Sequence[AtOneLevel], tuple[str, str]], str]


@dataclass(frozen=True)
class Means:
    """What is sought, and its words: from numbers, readings and both names; what it
    brings to one level, and by what where there is more than one; what was done to
    the one output, before the other's name, which is as well how files that were made
    so are called.
    """

    find: Callable[[LevelPair], Sought]
    said: Said
    level: str
    done: str
    by: str = ""


MEANS = {
    Way.SHARPNESS: Means(find_mask, sharpness_said, "sharpness", "sharpened to", "an unsharp mask"),
    Way.DECONVOLUTION: Means(
        find_deconvolution, deconvolution_said, "sharpness", "deconvolved to", "a deconvolution"
    ),
    Way.NOISE: Means(find_smoothing, noise_said, "noise", "smoothed to"),
    Way.CONTRAST: Means(find_contrast, contrast_said, "contrast", "at the contrast of"),
    Way.SIZE: Means(find_factor, size_said, "size", "resized to"),
}


def asked(way: Way, names: tuple[str, str]) -> str:
    """The question whether one can be brought to the other's level.

    Parameters
    ----------
    way : Way
        In what, and by what.
    names : (str, str)
        Of the one that is to be brought, and of the other.
    """
    means = MEANS[way]
    by = means.by or "a slider"
    return f"Could {by} bring {names[0]} to {names[1]} in {means.level}?"


def brought(way: Way, pair: LevelPair, names: tuple[str, str] = ("A", "B")) -> Levelled:
    """Bring one output to another's level, and measure it, what was made, and the
    other.

    Parameters
    ----------
    way : Way
        In what, and by what.
    pair : LevelPair
        Both outputs.
    names : (str, str)
        Theirs, for the words.

    Raises
    ------
    NoLineUp, NotMeasurable
        If they do not lie on each other, or show nothing to tell it by.
    """
    means = MEANS[way]
    sought, one = means.find(pair), pair.one.picture
    if not sought.method:
        return Levelled(sought, one, (), means.said(sought.numbers, (), names))
    made = Picture(treat(one.pixels, sought.method, sought.values), one.facts)
    outputs = pair.one, _as_it_lies(pair.one, made), pair.other
    readings = compared(pair.source, pair.truth, pair.patches, outputs)
    return Levelled(sought, made, readings, means.said(sought.numbers, readings, names))


def _as_it_lies(one: AlignedPicture, made: Picture) -> AlignedPicture:
    """What was made of an output lies as that does, at its own size."""
    x, y = made.width / one.picture.width, made.height / one.picture.height
    m, u = one.mapping, one.usable
    placed = Placed(x * m.sx, y * m.sy, x * m.dx, y * m.dy, m.bend)
    usable = Rect(x * u.x, y * u.y, x * u.w, y * u.h).whole()
    return replace(one, picture=made, mapping=placed, usable=usable)
