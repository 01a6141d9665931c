"""What a gate is to look at, as a TOML file: rules, and for each frame the files of the
build and of the last release.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from glenhail.core.errors import BadFile, BadRequest
from glenhail.core.gate.rules import Bound, parse_bound

KNOWN = {"source", "new", "last", "truth", "patches"}
MOST_RULES, MOST_FRAMES = 100, 10_000


@dataclass(frozen=True)
class Build:
    """One frame with both outputs, its truth where there is one, and its patches as
    they were written.
    """

    source: Path
    new: Path
    last: Path
    truth: Path | None
    patches: tuple[str, ...]


def builds_of(text: str, file: Path) -> tuple[list[Bound], list[Build]]:
    """Rules and frames of a gate.

    Parameters
    ----------
    text : str
        TOML: ``rules`` a list of rules; ``frame`` tables with ``source``, ``new``,
        ``last``, and where there are ``truth`` and ``patches`` (NAME:ROLE:x,y,w,h).
    file : Path
        Where it lies: paths in it are of its folder.

    Raises
    ------
    BadFile
        If it is not so, with what is wrong in it.
    """
    try:
        told = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise BadFile(file.name, f"it is no TOML ({error})", "Correct it there.") from error
    try:
        rules = [parse_bound(str(rule)) for rule in _listed(told, "rules", MOST_RULES)]
        return rules, [_build(f, file.parent) for f in _listed(told, "frame", MOST_FRAMES)]
    except BadRequest as error:
        raise BadFile(file.name, f"something in it is not right: {error}", "Correct it.") from error


def _listed(told: Mapping[str, Any], key: str, most: int) -> list[Any]:
    found = told.get(key)
    if not isinstance(found, list) or not 0 < len(found) <= most:
        raise BadRequest(f"{key} is a list of 1 to {most}")
    return found


def _build(told: Any, folder: Path) -> Build:
    if not isinstance(told, dict):
        raise BadRequest("each frame is a table, written as [[frame]]")
    if more := sorted(set(told) - KNOWN):
        raise BadRequest(f"a frame has {', '.join(sorted(KNOWN))}, not {more[0]}")
    for key in ("source", "new", "last"):
        if not isinstance(told.get(key), str) or not told[key]:
            raise BadRequest(f"each frame has a path as its {key}")
    truth, patches = told.get("truth"), told.get("patches", [])
    if not isinstance(patches, list) or not all(isinstance(p, str) for p in patches):
        raise BadRequest("patches are a list of NAME:ROLE:x,y,w,h")
    if truth is not None and not isinstance(truth, str):
        raise BadRequest("truth is a path")
    source, new, last = (folder / told[key] for key in ("source", "new", "last"))
    return Build(source, new, last, folder / truth if truth else None, tuple(patches))
