"""Sharpness at one level: what one output is like once it was sharpened as far as
another is sharp. Could a slider do it?
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from glenhail.core.level.costs import AtOneLevel, verdict_said
from glenhail.core.level.grid import ratio_of
from glenhail.core.level.unsharp_fit import fit_unsharp, unsharp_fit_told
from glenhail.core.level.way import LevelPair, Sought, Values

METHOD = "unsharp"
ASKED = ("noise_luma", "overshoot", "detail_added")


def find_mask(pair: LevelPair) -> Sought:
    """The unsharp mask that brings one output to another's transfer.

    Parameters
    ----------
    pair : LevelPair
        Both outputs.

    Raises
    ------
    NoLineUp, NotMeasurable
        If they do not lie on each other, or have no structure to tell by.
    """
    curve = ratio_of(pair)
    fit = fit_unsharp(curve)
    if not fit.raises:
        return Sought(curve=curve)
    values: Values = {"gain": fit.best.gain, "reach": fit.best.reach, "floor": 0.0, "on": "luma"}
    fitted = tuple(fit.curve(curve.frequency).tolist())
    return Sought(METHOD, values, {"fit": fit.told}, curve, fitted)


def sharpness_said(
    numbers: Mapping[str, Any], readings: Sequence[AtOneLevel], names: tuple[str, str]
) -> str:
    """In words what a slider does, and what it costs against the other.

    Parameters
    ----------
    numbers : mapping
        The fit as it is kept; empty where nothing has to be sharpened.
    readings : sequence of AtOneLevel
        Of all three.
    names : (str, str)
        Who was sharpened, and as far as whom.
    """
    if not numbers:
        return f"{names[0]} is as sharp as {names[1]}, or sharper: nothing has to be sharpened."
    fit = unsharp_fit_told(numbers["fit"])
    how = f"With radius {fit.best.reach:.1f} px and amount {100 * fit.best.gain:.0f} %"
    if not fit.reached:
        return (
            f"{how}, {names[0]} comes nearest to {names[1]}'s sharpness, and no unsharp mask"
            " reaches it: what is raised differs by frequency."
        )
    start = f"{how}, {names[0]} is as sharp as {names[1]}"
    return verdict_said(start, readings, ASKED, names[1])
