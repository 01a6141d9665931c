"""Noise at one level: what one output is like once it was smoothed until as little
noise is left as in another.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from glenhail.core.assess import readings_of
from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.level.costs import AtOneLevel, verdict_said
from glenhail.core.level.way import LevelPair, Sought, Values
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.noise import spread_alone
from glenhail.core.measures.residual import residual
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Picture, Rect
from glenhail.core.words import digits

METHOD = "guided"
RADIUS = 4  # px
ENDS = (1e-6, 1.0)  # of the variance that the method has
STEPS = 24
CODES = 255
CLEAN = 1.02  # times the other's noise: closer than this nothing has to be taken away
NEAR = 1.05  # times the other's noise that may be left
ASKED = ("noise_chroma", "detail_kept", "mtf50", "detail_added")


def find_smoothing(pair: LevelPair) -> Sought:
    """The guided filter that leaves as little brightness noise as another output has.

    Parameters
    ----------
    pair : LevelPair
        Both outputs.

    Raises
    ------
    NotMeasurable
        If no patch is plain in both.
    """
    mine, theirs = (_noise(pair, output) for output in (pair.one, pair.other))
    plain = [p for p in pair.patches if p.name in mine and p.name in theirs]
    if not plain:
        raise NotMeasurable("no plain patch tells both their noise; draw one on an even surface")
    wanted = [theirs[p.name] for p in plain]
    if _apart([mine[p.name] for p in plain], wanted) <= math.log(CLEAN):
        return Sought()
    places = [pair.one.mapping.rect(p.rect).whole() for p in plain]

    def over(variance: float) -> float:
        left = [_left(pair.one.picture, place, variance) for place in places]
        return _apart(left, wanted)

    low, high = (math.log(end) for end in ENDS)
    for _ in range(STEPS):
        middle = (low + high) / 2
        low, high = (middle, high) if over(math.exp(middle)) > 0 else (low, middle)
    variance = math.exp(high)
    values: Values = {"radius": float(RADIUS), "variance": variance}
    return Sought(METHOD, values, {"variance": variance, "left": math.exp(over(variance))})


def _noise(pair: LevelPair, output: AlignedPicture) -> dict[str, float]:
    """Brightness noise of plain patches that tell it, by name."""
    flat = [p for p in pair.patches if p.role == "flat"]
    taken = readings_of(pair.source, output, pair.truth, flat, ["noise_luma"]) if flat else []
    return {r.patch: r.value for r in taken if r.patch and r.value is not None}


def _left(output: Picture, place: Rect, variance: float) -> float:
    """Noise of a place once it is smoothed, with as much around it as is looked at."""
    reach = 2 * RADIUS
    around = Rect(
        place.x - reach, place.y - reach, place.w + 2 * reach, place.h + 2 * reach
    ).clipped(output.bounds)
    made = treat(output.crop(around), METHOD, {"radius": RADIUS, "variance": variance})
    top, left = int(place.y - around.y), int(place.x - around.x)
    inner = made[top : top + int(place.h), left : left + int(place.w)]
    return spread_alone(residual(srgb.luma(inner) * CODES))


def _apart(mine: Sequence[float], theirs: Sequence[float]) -> float:
    """Logarithm of how many times as much, in the middle of all patches."""
    least = 1e-3  # codes, so that a place without any noise has a logarithm
    return float(
        np.median(
            [math.log(max(a, least) / max(b, least)) for a, b in zip(mine, theirs, strict=True)]
        )
    )


def noise_said(
    numbers: Mapping[str, Any], readings: Sequence[AtOneLevel], names: tuple[str, str]
) -> str:
    """In words what smoothing does, and what it costs against the other.

    Parameters
    ----------
    numbers : mapping
        The filter's variance, and how many times the other's noise is left; empty where
        nothing has to be taken away.
    readings : sequence of AtOneLevel
        Of all three.
    names : (str, str)
        Who was smoothed, and as far as whom.
    """
    if not numbers:
        return f"{names[0]} is as clean as {names[1]}, or cleaner: nothing has to be taken away."
    how = f"With a guided filter of radius {RADIUS} px and variance {digits(numbers['variance'])}"
    if numbers["left"] > NEAR:
        return (
            f"{how}, {names[0]} comes nearest to {names[1]}, with"
            f" {100 * (numbers['left'] - 1):.0f} % more noise left: no such filter reaches it."
        )
    start = f"{how}, {names[0]} is as clean as {names[1]}"
    return verdict_said(start, readings, ASKED, names[1])
