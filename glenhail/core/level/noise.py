"""Noise at one level: what one output is like once it was smoothed until as little
noise is left as in another.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from glenhail.core.assess import assess
from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.level.costs import AtOneLevel, compared, verdict_said
from glenhail.core.level.way import Levelled
from glenhail.core.lineup.aligned import lined_up
from glenhail.core.measures.catalogue import Patch
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


def match_noise(
    source: Picture,
    one: Picture,
    other: Picture,
    truth: Picture | None = None,
    patches: Sequence[Patch] = (),
    names: tuple[str, str] = ("A", "B"),
) -> Levelled:
    """Smooth one output by the guided filter that leaves as little brightness noise as
    another has, and measure all three.

    Parameters
    ----------
    source : Picture
        The frame.
    one, other : Picture
        What is smoothed, and whose noise is wanted.
    truth : Picture, optional
        The known-good original.
    patches : sequence of Patch
        Where they are measured, frame px; plain ones among them.
    names : (str, str)
        Theirs, for the words.

    Raises
    ------
    NotMeasurable
        If no patch is plain.
    """
    flat = _plain(source, one, truth, patches)
    own = [_placed(source, one, p.rect) for p in flat]
    wanted = [_noise(other, _placed(source, other, p.rect)) for p in flat]
    before = _apart([_noise(one, place) for place in own], wanted)
    if before <= math.log(CLEAN):
        return Levelled(one, "", {}, {}, (), noise_said({}, (), names))
    low, high = (math.log(end) for end in ENDS)
    for _ in range(STEPS):
        middle = (low + high) / 2
        if _apart([_left(one, place, math.exp(middle)) for place in own], wanted) > 0:
            low = middle
        else:
            high = middle
    variance = math.exp(high)
    left = math.exp(_apart([_left(one, place, variance) for place in own], wanted))
    values = {"radius": float(RADIUS), "variance": variance}
    made = Picture(treat(one.pixels, METHOD, values), one.facts)
    readings = compared(source, truth, patches, (one, made, other))
    numbers = {"variance": variance, "left": left}
    return Levelled(made, METHOD, values, numbers, readings, noise_said(numbers, readings, names))


def _plain(
    source: Picture, one: Picture, truth: Picture | None, patches: Sequence[Patch]
) -> list[Patch]:
    flat = [p for p in patches if p.role == "flat"]
    taken = assess(source, one, truth, flat, ["noise_luma"]).readings if flat else ()
    known = {r.patch for r in taken if r.value is not None}
    usable = [p for p in flat if p.name in known]
    if not usable:
        raise NotMeasurable("no plain patch tells its noise; draw one on an even surface")
    return usable


def _placed(source: Picture, output: Picture, rect: Rect) -> Rect:
    """Whole output pixels of a patch."""
    return lined_up(source, output).mapping.rect(rect).whole().clipped(output.bounds).whole()


def _noise(output: Picture, place: Rect) -> float:
    return _spread(output.crop(place))


def _left(output: Picture, place: Rect, variance: float) -> float:
    """Noise of a place once it is smoothed, with as much around it as is looked at."""
    reach = 2 * RADIUS
    around = Rect(
        place.x - reach, place.y - reach, place.w + 2 * reach, place.h + 2 * reach
    ).clipped(output.bounds)
    made = treat(output.crop(around), METHOD, {"radius": RADIUS, "variance": variance})
    top, left = int(place.y - around.y), int(place.x - around.x)
    return _spread(made[top : top + int(place.h), left : left + int(place.w)])


def _spread(pixels: Any) -> float:
    return spread_alone(residual(srgb.luma(pixels) * CODES))


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
