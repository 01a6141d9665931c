"""Numbers and words that steps of a recipe and fields of a target ask for, and the one check of both."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from glenhail.core.errors import BadRequest

Values = Mapping[str, float | str]


@dataclass(frozen=True)
class Number:
    """A number within bounds, both included."""

    name: str
    title: str
    unit: str
    low: float
    high: float
    usual: float
    whole: bool = False
    odd: bool = False


@dataclass(frozen=True)
class Choice:
    """One of several words."""

    name: str
    title: str
    among: tuple[str, ...]
    usual: str


def checked(where: str, parameters: Iterable[Number | Choice], values: Mapping[str, Any]) -> dict[str, float | str]:
    """A value for each parameter; one that is not told takes its usual value.

    Raises
    ------
    BadRequest
        If a value is unknown or out of its bounds; the text begins with `where` and lists what is valid.
    """
    parameters = tuple(parameters)
    unknown = set(values) - {p.name for p in parameters}
    if unknown:
        known = ", ".join(p.name for p in parameters)
        raise BadRequest(f"{where}: it has no {', '.join(sorted(unknown))}; it has {known}.")
    return {p.name: _value(where, p, values.get(p.name, p.usual)) for p in parameters}


def _value(where: str, parameter: Number | Choice, value: Any) -> float | str:
    if isinstance(parameter, Choice):
        if value not in parameter.among:
            raise BadRequest(f"{where}: {parameter.title} is one of {', '.join(parameter.among)}.")
        return str(value)
    good = isinstance(value, int | float) and not isinstance(value, bool) and parameter.low <= value <= parameter.high
    if not good or (parameter.whole and value != int(value)):
        bounds = f"from {parameter.low:,g} to {parameter.high:,g} {parameter.unit}".strip()
        raise BadRequest(f"{where}: {parameter.title} is a number {bounds}.")
    if parameter.odd and int(value) % 2 == 0:
        raise BadRequest(f"{where}: the {parameter.title} is odd, so that nothing moves.")
    return int(value) if parameter.whole else float(value)


def in_words(parameters: Iterable[Number | Choice], values: Values) -> str:
    """As a reader is told of it."""
    told = []
    for p in parameters:
        value = values[p.name]
        plain = f"{value:,g}" if isinstance(value, int | float) else value
        told.append(f"{p.title} {plain} {p.unit}".strip() if isinstance(p, Number) else f"{p.title} {plain}")
    return ", ".join(told)
