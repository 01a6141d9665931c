"""A command template of a tool, and its filling in. No shell ever sees it."""

from __future__ import annotations

import os
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from glenhail.core.errors import BadRequest
from glenhail.core.parameters import Value
from glenhail.core.treatments.step import Step

PLACE = re.compile(r"\{([^{}]+)\}")
INPUT, OUTPUT = "input", "output"
ENDINGS = (".tif", ".tiff", ".png", ".jpg", ".dng", ".webp")
MOST_ARGUMENTS, LONGEST = 40, 300
MOST = {"seconds": 86_400, "memory_mb": 262_144, "output_mb": 65_536}


@dataclass(frozen=True)
class Command:
    """How a release is run.

    ``program`` is the name of a file in the directory of allowed programs. Each
    argument may name places in braces: {input}, {output}, {mode}, {strength}, or a
    setting's name; one that names a place which a step does not tell is left out.
    ``network`` says whether an owner lets it use the network.
    """

    program: str
    arguments: tuple[str, ...]
    ending: str = ".tif"
    seconds: float = 600
    memory_mb: float = 4000
    output_mb: float = 2000
    network: bool = False

    def line(self, program: Path, step: Step, source: Path, target: Path) -> list[str]:
        """The whole command line for one step on one file."""
        told: dict[str, Value | None] = {s.name: s.value for s in step.settings if not s.automatic}
        told |= {
            "mode": step.mode or None,
            "strength": step.strength,
            INPUT: str(source),
            OUTPUT: str(target),
        }
        filled = (_filled(argument, told) for argument in self.arguments)
        return [str(program), *(a for a in filled if a is not None)]


def _filled(argument: str, told: Mapping[str, Value | None]) -> str | None:
    names = PLACE.findall(argument)
    if any(told.get(name) is None for name in names):
        return None
    for name in names:
        value = told[name]
        if isinstance(value, str) and name not in (INPUT, OUTPUT):
            _check_value(value, argument, name)
    return PLACE.sub(lambda m: _plain(told[m.group(1)]), argument)


def _check_value(value: str, argument: str, name: str) -> None:
    """Refuse a text that would be more than a value where it stands.

    Raises
    ------
    BadRequest
        If it would begin an argument with a sign that tools take for an option, leave
        the folder of a path, or end a line.
    """
    begins = argument.startswith(f"{{{name}}}")
    if begins and value.startswith(("-", "+", "@")):
        raise BadRequest(
            f"“{value}” can not be handed over: the tool would take it for one of its options."
        )
    if not value.isprintable():
        raise BadRequest(
            f"The value of {name} can not be handed over: it holds signs that can not be seen."
        )
    parts = re.split(r"[/\\]", value)
    alone = argument == f"{{{name}}}"
    if (
        ".." in parts
        or value.startswith(("/", "\\", "~"))
        or re.match(r"[A-Za-z]:[/\\]", value)
        or (len(parts) > 1 and not alone)
    ):
        raise BadRequest(
            f"“{value}” can not be handed over: as part of a path it would lead elsewhere."
        )


def _plain(value: Value | None) -> str:
    if isinstance(value, bool):
        return "on" if value else "off"
    return f"{value:g}" if isinstance(value, int | float) else str(value)


def command_of(told: Mapping[str, Any]) -> Command:
    """A template, checked.

    Parameters
    ----------
    told : Mapping
        Plain values, as they were kept or sent.

    Raises
    ------
    BadRequest
        If it names no input or output, has limits that make no sense, or an argument
        that is none.
    """
    program = str(told.get("program", "")).strip()
    arguments: Sequence[Any] = told.get("arguments", ())
    if not program or "/" in program or program.startswith("."):
        raise BadRequest(
            "A command names a program by the name of its file in the directory of allowed"
            " programs."
        )
    if len(arguments) > MOST_ARGUMENTS or not all(
        isinstance(a, str) and len(a) <= LONGEST and "\0" not in a for a in arguments
    ):
        raise BadRequest(
            f"A command has at most {MOST_ARGUMENTS} arguments of at most {LONGEST} characters."
        )
    places = {name for a in arguments for name in PLACE.findall(a)}
    if not {INPUT, OUTPUT} <= places:
        raise BadRequest(
            "A command's arguments name {input} and {output}, so that the tool knows its files."
        )
    ending = str(told.get("ending", ".tif"))
    if ending not in ENDINGS:
        raise BadRequest(f"A tool's files end in one of {', '.join(ENDINGS)}.")
    limits = {
        name: _limit(name, told.get(name, getattr(Command, name)), most)
        for name, most in MOST.items()
    }
    return Command(
        program, tuple(arguments), ending, **limits, network=bool(told.get("network", False))
    )


def _limit(name: str, value: Any, most: float) -> float:
    if not isinstance(value, int | float) or isinstance(value, bool) or not 0 < value <= most:
        raise BadRequest(f"A command's limit {name} is a number above 0 and at most {most:,}.")
    return float(value)


def allowed(directory: Path) -> list[str]:
    """The names of the programs in the directory of allowed ones.

    Parameters
    ----------
    directory : Path
        The directory of allowed programs.
    """
    if not directory.is_dir():
        return []
    return sorted(
        p.name
        for p in directory.iterdir()
        if p.is_file() and os.access(p, os.X_OK) and not p.name.startswith(".")
    )


def find_program(directory: Path, name: str) -> Path:
    """An allowed program's file.

    Parameters
    ----------
    directory : Path
        The directory of allowed programs.
    name : str
        By which it is known.

    Raises
    ------
    BadRequest
        If there is none of that name; the text says where it would have to be.
    """
    if name not in allowed(directory):
        raise BadRequest(
            f"“{name}” is not among the allowed programs. An owner puts it, or a link to it, into"
            " their directory."
        )
    return directory / name
