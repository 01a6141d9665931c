"""A recorded degradation: ordered steps and a seed.

The same recipe on the same picture gives the same values.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from glenhail.core.degrade.steps import STEPS, StepKind
from glenhail.core.errors import BadRequest
from glenhail.core.parameters import Number, checked, in_words
from glenhail.core.picture import Floats

VERSION = 1
MOST_STEPS, MOST_IN_SERIES = 12, 24


@dataclass(frozen=True)
class RecipeStep:
    """A kind of step and a value for each of its parameters, in their order."""

    kind: StepKind
    values: tuple[float | str, ...]

    @property
    def named(self) -> dict[str, float | str]:
        return {p.name: v for p, v in zip(self.kind.parameters, self.values, strict=True)}

    def words(self) -> str:
        """As a reader is told of it."""
        return f"{self.kind.title}, {in_words(self.kind.parameters, self.named)}"


@dataclass(frozen=True)
class Recipe:
    """Steps in the order they are done, and the seed of all that is random in them."""

    steps: tuple[RecipeStep, ...]
    seed: int

    def as_json(self) -> dict[str, Any]:
        """Plain values, which `recipe_of` reads back."""
        return {
            "version": VERSION,
            "seed": self.seed,
            "steps": [{"kind": s.kind.id, **s.named} for s in self.steps],
        }

    def words(self) -> str:
        """As a reader is told of it."""
        return "; then ".join(s.words() for s in self.steps) + f"; seed {self.seed}"

    @property
    def key(self) -> str:
        """A short name that no other recipe has."""
        return hashlib.sha256(json.dumps(self.as_json(), sort_keys=True).encode()).hexdigest()[:10]


def recipe_of(values: Any) -> Recipe:
    """Read a recipe from plain values; a parameter that is not told takes its usual
    value.

    Parameters
    ----------
    values : Any
        Plain values, as JSON has them.

    Raises
    ------
    BadRequest
        If it is no recipe; the text names what is wrong and lists what is valid.
    """
    steps = values.get("steps") if isinstance(values, dict) else None
    if not isinstance(steps, list) or not 1 <= len(steps) <= MOST_STEPS:
        raise BadRequest(f"A recipe has 1 to {MOST_STEPS} steps.")
    if values.get("version", VERSION) != VERSION:
        raise BadRequest(
            f"This recipe is of version {values['version']}; version {VERSION} is known here."
        )
    seed = values.get("seed", 1)
    if not isinstance(seed, int) or isinstance(seed, bool) or not 0 <= seed < 2**32:
        raise BadRequest("The seed is a whole number from 0 to 4,294,967,295.")
    return Recipe(tuple(_step(i, s) for i, s in enumerate(steps, 1)), seed)


def _step(number: int, values: Any) -> RecipeStep:
    kind = STEPS.get(str(values.get("kind"))) if isinstance(values, dict) else None
    if kind is None:
        raise BadRequest(f"RecipeStep {number}: no such kind. Choose among {', '.join(STEPS)}.")
    told = {name: value for name, value in values.items() if name != "kind"}
    return RecipeStep(
        kind, tuple(checked(f"RecipeStep {number}, {kind.title}", kind.parameters, told).values())
    )


def degrade(linear: Floats, recipe: Recipe) -> Floats:
    """Do a recipe's steps to a picture in linear light.

    Every step draws from its own stream, told by the seed and its place: changing one
    step leaves the others' noise alone.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    recipe : Recipe
        The recorded degradation.

    Raises
    ------
    BadRequest
        If a blur reaches further than the picture.
    """
    for place, step in enumerate(recipe.steps):
        rng = np.random.default_rng([recipe.seed, place])
        try:
            linear = step.kind.work(linear, step.named, rng)
        except ValueError as error:
            raise BadRequest(f"RecipeStep {place + 1}, {step.kind.title}: {error}.") from error
    return linear


def series(recipe: Recipe, place: int, parameter: str, values: Iterable[float]) -> list[Recipe]:
    """One recipe for each value of one parameter of the step at `place` (0 is the
    first).

    Parameters
    ----------
    recipe : Recipe
        The recorded degradation.
    place : int
        Which step; 0 is the first.
    parameter : str
        The parameter's name.
    values : iterable of float
        The parameter's values.

    Raises
    ------
    BadRequest
        If there is no such parameter, a value is out of its bounds, or there are too
        many.
    """
    wanted = list(values)
    if not 1 <= len(wanted) <= MOST_IN_SERIES:
        raise BadRequest(f"A series has 1 to {MOST_IN_SERIES} values.")
    if not 0 <= place < len(recipe.steps):
        raise BadRequest(f"The recipe has no step {place + 1}.")
    step = recipe.steps[place]
    names = [p.name for p in step.kind.parameters if isinstance(p, Number)]
    if parameter not in names:
        raise BadRequest(
            f"{step.kind.title} has no number called {parameter}. Choose among {', '.join(names)}."
        )
    made = []
    for value in wanted:
        changed = _step(place + 1, {"kind": step.kind.id, **step.named, parameter: value})
        made.append(
            replace(recipe, steps=(*recipe.steps[:place], changed, *recipe.steps[place + 1 :]))
        )
    return made
