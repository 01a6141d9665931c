"""What steps of a recipe, fields of a target, methods and settings of tools ask for,
and the one check of all of them.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import asdict, dataclass
from typing import Any

from glenhail.core.errors import BadRequest

Value = float | str | bool
Values = Mapping[str, Value]


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


@dataclass(frozen=True)
class Switch:
    """On or off."""

    name: str
    title: str
    usual: bool = False


@dataclass(frozen=True)
class Text:
    """Any words."""

    name: str
    title: str
    usual: str = ""


Parameter = Number | Choice | Switch | Text
KINDS: dict[str, type[Parameter]] = {
    "number": Number,
    "choice": Choice,
    "switch": Switch,
    "text": Text,
}


def checked(
    where: str, parameters: Iterable[Parameter], values: Mapping[str, Any]
) -> dict[str, Value]:
    """A value for each parameter; one that is not told takes its usual value.

    Parameters
    ----------
    where : str
        What messages begin with.
    parameters : iterable of Parameter
        What there is.
    values : Mapping
        Plain values by name.

    Raises
    ------
    BadRequest
        If a value is unknown or out of its bounds; the text begins with `where` and
        lists what is valid.
    """
    parameters = tuple(parameters)
    unknown = set(values) - {p.name for p in parameters}
    if unknown:
        known = ", ".join(p.name for p in parameters) or "no settings"
        raise BadRequest(f"{where}: it has no {', '.join(sorted(unknown))}; it has {known}.")
    return {p.name: value_of(where, p, values.get(p.name, p.usual)) for p in parameters}


def value_of(where: str, parameter: Parameter, value: Any) -> Value:
    """One value, checked.

    Parameters
    ----------
    where : str
        What messages begin with.
    parameter : Parameter
        A parameter with its bounds.
    value : Any
        A value as it was told.

    Raises
    ------
    BadRequest
        If it is none of what the parameter takes.
    """
    if isinstance(parameter, Number):
        return _number(where, parameter, value)
    if isinstance(parameter, Choice):
        if value not in parameter.among:
            raise BadRequest(f"{where}: {parameter.title} is one of {', '.join(parameter.among)}.")
        return str(value)
    if isinstance(parameter, Switch):
        if not isinstance(value, bool):
            raise BadRequest(f"{where}: {parameter.title} is on or off.")
        return value
    if not isinstance(value, str):
        raise BadRequest(f"{where}: {parameter.title} is told in words.")
    return value.strip()


def _number(where: str, parameter: Number, value: Any) -> float:
    good = (
        isinstance(value, int | float)
        and not isinstance(value, bool)
        and parameter.low <= value <= parameter.high
    )
    if not good or (parameter.whole and value != int(value)):
        bounds = f"from {parameter.low:,g} to {parameter.high:,g} {parameter.unit}".strip()
        raise BadRequest(
            f"{where}: {parameter.title} is a {'whole ' if parameter.whole else ''}number {bounds}."
        )
    if parameter.odd and int(value) % 2 == 0:
        raise BadRequest(f"{where}: the {parameter.title} is odd, so that nothing moves.")
    return int(value) if parameter.whole else float(value)


def plain(value: Value) -> str:
    """A value as a reader is told of it.

    Parameters
    ----------
    value : float, str or bool
        A parameter's value.
    """
    if isinstance(value, bool):
        return "on" if value else "off"
    return f"{value:,g}" if isinstance(value, int | float) else value


def in_words(parameters: Iterable[Parameter], values: Values) -> str:
    """All values as a reader is told of them.

    Parameters
    ----------
    parameters : iterable of Parameter
        What there is.
    values : Mapping
        Parameters by name, checked.
    """
    return ", ".join(
        f"{p.title} {plain(values[p.name])} {getattr(p, 'unit', '')}".strip() for p in parameters
    )


def as_json(parameter: Parameter) -> dict[str, Any]:
    """A parameter as it is kept and sent.

    Parameters
    ----------
    parameter : Parameter
        A parameter with its bounds.
    """
    kind = next(name for name, cls in KINDS.items() if type(parameter) is cls)
    return {"kind": kind, **asdict(parameter)}


def parameter_of(told: Mapping[str, Any]) -> Parameter:
    """A parameter out of what `as_json` gave, or a reviewer wrote.

    Parameters
    ----------
    told : Mapping
        Plain values, as they were kept or sent.

    Raises
    ------
    BadRequest
        If it is of no known kind, lacks a part or contradicts itself.
    """
    kind, name = told.get("kind"), str(told.get("name", "")).strip()
    if kind not in KINDS:
        raise BadRequest(f"A setting is a {', '.join(KINDS)}.")
    if not name:
        raise BadRequest("A setting needs a name.")
    title = str(told.get("title", "")).strip() or name
    if kind == "number":
        return _number_of(name, title, told)
    if kind == "choice":
        among = tuple(w for w in (str(a).strip() for a in told.get("among", ())) if w)
        if not among:
            raise BadRequest(f"{title}: a choice needs words to choose from.")
        usual = str(told.get("usual") or among[0])
        return Choice(
            name, title, among, str(value_of(title, Choice(name, title, among, among[0]), usual))
        )
    if kind == "switch":
        return Switch(name, title, bool(told.get("usual", False)))
    return Text(name, title, str(told.get("usual") or ""))


def _number_of(name: str, title: str, told: Mapping[str, Any]) -> Number:
    try:
        low, high = float(told["low"]), float(told["high"])
        usual = low if told.get("usual") is None else float(told["usual"])
    except (KeyError, TypeError, ValueError) as error:
        raise BadRequest(f"{title}: a number has a lowest, a highest and a usual value.") from error
    if not low < high:
        raise BadRequest(f"{title}: its lowest value must be below its highest.")
    number = Number(
        name,
        title,
        str(told.get("unit", "")).strip(),
        low,
        high,
        usual,
        bool(told.get("whole", False)),
    )
    value_of(title, number, usual)
    return number
