"""A whole family of treatments in one go: each differs from the others in one thing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import permutations

from glenhail.core.errors import BadRequest
from glenhail.core.parameters import Value
from glenhail.core.treatments.step import FEEDS, Setting, Step, Treatment

MOST = 24
STRENGTH, MODE = "strength", "mode"


def _all_different(made: Sequence[Treatment]) -> list[Treatment]:
    kept = list(dict.fromkeys(made))
    if len(kept) > MOST:
        raise BadRequest(
            f"That makes {len(kept)} treatments; {MOST} at most can be entered in one go."
        )
    return kept


def _step(base: Treatment, at: int) -> Step:
    if not 0 <= at < len(base.steps):
        raise BadRequest(f"There is no step {at + 1}; the treatment has {len(base.steps)}.")
    return base.steps[at]


def _with_step(base: Treatment, at: int, step: Step) -> Treatment:
    return replace(base, steps=(*base.steps[:at], step, *base.steps[at + 1 :]))


def swept(base: Treatment, at: int, name: str, values: Sequence[Value]) -> list[Treatment]:
    """One for each value of a setting of one step, or of its strength or mode; the
    setting is by hand then.

    Parameters
    ----------
    base : Treatment
        The treatment to vary.
    at : int
        Which step; 0 is the first.
    name : str
        By which it is known.
    values : sequence
        The setting's values.

    Raises
    ------
    BadRequest
        If there is no such step, no value, or a strength out of bounds.
    """
    step = _step(base, at)
    if not values:
        raise BadRequest("A sweep needs values.")
    if not all(isinstance(v, int | float | str) for v in values):
        raise BadRequest("A sweep's values are numbers or words.")
    return _all_different([_with_step(base, at, _with_value(step, name, v)) for v in values])


def _with_value(step: Step, name: str, value: Value) -> Step:
    if name == STRENGTH:
        if isinstance(value, str | bool) or not 0 <= value <= 100:
            raise BadRequest(f"{step.tool}: strength is from 0 to 100 %.")
        return replace(step, strength=float(value))
    if name == MODE:
        return replace(step, mode=str(value))
    unit = next((s.unit for s in step.settings if s.name == name), "")
    setting = Setting(name, value, unit)
    if all(s.name != name for s in step.settings):
        return replace(step, settings=(*step.settings, setting))
    return replace(step, settings=tuple(setting if s.name == name else s for s in step.settings))


def orders(base: Treatment) -> list[Treatment]:
    """The steps in every order.

    Parameters
    ----------
    base : Treatment
        The treatment to vary.

    Raises
    ------
    BadRequest
        If there is only one step, or there are too many orders.
    """
    if len(base.steps) < 2:
        raise BadRequest("Steps in every order need at least two steps.")
    if len(base.steps) > 4:
        raise BadRequest("Steps in every order: four at most, which make 24 treatments.")
    return _all_different([replace(base, steps=steps) for steps in permutations(base.steps)])


def releases(base: Treatment, at: int, names: Sequence[str]) -> list[Treatment]:
    """One for each release of one step's tool.

    Parameters
    ----------
    base : Treatment
        The treatment to vary.
    at : int
        Which step; 0 is the first.
    names : sequence of str
        The releases' names.

    Raises
    ------
    BadRequest
        If there is no such step, or fewer than two releases are named.
    """
    step = _step(base, at)
    if len(set(names)) < 2:
        raise BadRequest("One release against another needs two of them.")
    return _all_different([_with_step(base, at, replace(step, release=name)) for name in names])


def feeds(base: Treatment) -> list[Treatment]:
    """The same on the raw file and on the TIFF.

    Parameters
    ----------
    base : Treatment
        The treatment to vary.
    """
    return [replace(base, feed=feed) for feed in FEEDS]
