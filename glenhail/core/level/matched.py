"""Sharpness at one level: what one output is like once it was sharpened as far as
another is sharp. Could a slider do it?
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.assess import assess
from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.level.unsharp_fit import RatioCurve, UnsharpFit, fit_unsharp
from glenhail.core.lineup.aligned import lined_up
from glenhail.core.lineup.grids import shared_part, to_truth_grid
from glenhail.core.measures.catalogue import Patch
from glenhail.core.measures.spectra import transfers
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats, Mapping, Picture, Rect

MOST_SIDE = 2048  # px about the middle that curves are taken of
GROUPS = 16
CODES = 255
# In words, what is worse where it is more.
TOLD = {
    "noise_luma": "is {} % noisier",
    "overshoot": "has {} % more halo",
    "detail_added": "has {} % more false detail",
}
OTHERS = ("detail_kept", "mtf50")
MOST = 10.0  # times, beyond which nothing more is told
WORSE = 1.1  # times: a tenth is what can be seen of noise; common practice, no source


@dataclass(frozen=True)
class AtOneLevel:
    """A measure of one patch: of the output as it was, sharpened, and of the other."""

    measure: str
    patch: str
    unit: str
    before: float | None
    sharpened: float | None
    other: float | None


@dataclass(frozen=True)
class Matched:
    """How an output is brought to another's sharpness, and what it is like then.

    ``fit`` is None where it is as sharp already, or sharper: ``said`` tells.
    """

    curve: RatioCurve
    fit: UnsharpFit | None
    made: Picture
    readings: tuple[AtOneLevel, ...]
    said: str


def ratio_of(one: Picture, other: Picture, known: Picture) -> RatioCurve:
    """How much more structure the other has, by frequency, on the first one's grid.

    Both are held against the same picture: what is in it and in them in place and in
    phase counts, noise and invention do not.

    Parameters
    ----------
    one, other : Picture
        Outputs of one frame.
    known : Picture
        Its truth, else the frame itself.

    Raises
    ------
    NotMeasurable
        If there is no structure, or too little in common.
    """
    own, theirs, instrument = _on_one_grid(one, (other, known))
    curves = [transfers(instrument, plane, GROUPS) for plane in (own, theirs)]
    mine, its = (c.whole for c in curves)
    pairs = list(zip(curves[0].left_out, curves[1].left_out, strict=True))
    usable = mine.kept > 0.05  # where nothing is left there is nothing to raise
    if not usable.any():
        raise NotMeasurable("the output has nothing of the frame's structure left to sharpen")
    left_out = np.array([b.kept[usable] / a.kept[usable] for a, b in pairs])
    return RatioCurve(
        mine.frequency[usable],
        its.kept[usable] / mine.kept[usable],
        left_out.reshape(len(pairs), int(usable.sum())),
    )


def _on_one_grid(one: Picture, others: Sequence[Picture]) -> list[Floats]:
    """Luma, codes, of the part about the middle that all show, on the first's grid."""
    shared = one.bounds
    mappings = [Mapping()]
    for other in others:
        found = lined_up(one, other)
        mappings.append(found.mapping)
        shared = shared_part(shared, found.mapping, found.usable(other))
    side = min(MOST_SIDE, shared.w), min(MOST_SIDE, shared.h)
    rect = Rect(shared.x + (shared.w - side[0]) // 2, shared.y + (shared.h - side[1]) // 2, *side)
    return [
        srgb.luma(to_truth_grid(p.pixels, m, rect).pixels) * np.float32(CODES)
        for p, m in zip((one, *others), mappings, strict=True)
    ]


def match_sharpness(
    source: Picture,
    one: Picture,
    other: Picture,
    truth: Picture | None = None,
    patches: Sequence[Patch] = (),
    names: tuple[str, str] = ("A", "B"),
) -> Matched:
    """Sharpen one output by the unsharp mask that brings it to another's transfer, and
    measure all three.

    Parameters
    ----------
    source : Picture
        The frame.
    one, other : Picture
        What is sharpened, and whose sharpness is wanted.
    truth : Picture, optional
        The known-good original.
    patches : sequence of Patch
        Where they are measured, frame px.
    names : (str, str)
        Theirs, for the words.

    Raises
    ------
    NoLineUp, NotMeasurable
        If they do not lie on each other, or have no structure to tell by.
    """
    curve = ratio_of(one, other, truth or source)
    fit = fit_unsharp(curve)
    if not fit.raises:
        return Matched(curve, None, one, (), level_said(None, (), names))
    values = {"gain": fit.best.gain, "reach": fit.best.reach, "floor": 0, "on": "luma"}
    made = Picture(treat(one.pixels, "unsharp", values), one.facts)
    readings = tuple(_compared(source, truth, patches, (one, made, other)))
    return Matched(curve, fit, made, readings, level_said(fit, readings, names))


def _compared(
    source: Picture,
    truth: Picture | None,
    patches: Sequence[Patch],
    outputs: tuple[Picture, Picture, Picture],
) -> list[AtOneLevel]:
    taken = [assess(source, output, truth, patches).readings for output in outputs]
    values = [{(r.measure, r.patch): r.value for r in of} for of in taken]
    return [
        AtOneLevel(r.measure, r.patch, r.unit, *(of.get((r.measure, r.patch)) for of in values))
        for r in taken[0]
        if r.patch and r.measure in (*TOLD, *OTHERS)
    ]


def level_said(
    fit: UnsharpFit | None, readings: Sequence[AtOneLevel], names: tuple[str, str]
) -> str:
    """In words what a slider does, and what it costs against the other.

    Parameters
    ----------
    fit : UnsharpFit or None
        None where nothing has to be sharpened.
    readings : sequence of AtOneLevel
        Of all three.
    names : (str, str)
        Who was sharpened, and as far as whom.
    """
    if fit is None:
        return f"{names[0]} is as sharp as {names[1]}, or sharper: nothing has to be sharpened."
    best = fit.best
    how = f"With radius {best.reach:.1f} px and amount {100 * best.gain:.0f} %"
    if not fit.reached:
        return (
            f"{how}, {names[0]} comes nearest to {names[1]}'s sharpness, and no unsharp mask"
            " reaches it: what is raised differs by frequency."
        )
    worse, costs = [], []
    for measure, words in TOLD.items():
        pairs = [
            (r.sharpened, r.other)
            for r in readings
            if r.measure == measure and r.sharpened is not None and r.other is not None
        ]
        if not pairs:
            continue
        ratio = float(np.median([_times(mine, theirs) for mine, theirs in pairs]))
        costs.append(measure)
        if ratio > WORSE:
            over = "over " if ratio >= MOST else ""
            worse.append(words.format(f"{over}{100 * (ratio - 1):.0f}"))
    as_sharp = f"{how}, {names[0]} is as sharp as {names[1]}"
    if not costs:
        return f"{as_sharp}; draw plain, edge and texture patches to see what that costs."
    if not worse:
        return f"{as_sharp}, and no worse in what was measured: a slider does it."
    return f"{as_sharp} and {' and '.join(worse)}: {names[1]}'s method is worth it."


def _times(mine: float, theirs: float) -> float:
    """How many times as much; of next to nothing no more than can be told."""
    if mine <= 0:
        return 1.0
    return min(MOST, mine / max(theirs, mine / MOST))
