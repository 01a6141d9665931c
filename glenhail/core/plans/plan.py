"""What a plan says: question, frames, treatments, patches, measures, uses."""

from __future__ import annotations

import json
import math
import re
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from typing import Any

import tomlkit

from glenhail.core.errors import BadFile, BadRequest
from glenhail.core.execution.command import Command, command_of
from glenhail.core.lineup.points import PointPair
from glenhail.core.measures.catalogue import MEASURES, ROLES
from glenhail.core.picture import Rect
from glenhail.core.treatments.step import Treatment, treatment_of
from glenhail.core.uses.own import kept_use
from glenhail.core.uses.table import Use

FORMAT = "glenhail plan 1"
NOTHING = r"\u0000"  # as JSON writes it: nothing that keeps texts takes it
HASH = re.compile(r"[0-9a-f]{64}")
MOST_FRAMES, MOST_CONTENDERS, MOST_PATCHES, MOST_USES = 1000, 60, 2000, 40
TAKEN_LETTERS = "TU"  # truth and unprocessed, which every study has


@dataclass(frozen=True)
class PlannedPatch:
    """A patch of a frame, px of that."""

    name: str
    role: str
    rect: Rect


@dataclass(frozen=True)
class PlannedFrame:
    """A frame, known by the hash of its decoded pixels (`files.pixels`), with that of
    its truth and of another exposure of its burst where there are such.

    ``file`` is what it was called; ``points`` are the places that were set by hand to
    line an output up, by the contender's letter.
    """

    name: str
    pixels: str
    file: str = ""
    truth: str = ""
    truth_file: str = ""
    second: str = ""
    patches: tuple[PlannedPatch, ...] = ()
    points: Mapping[str, tuple[PointPair, ...]] = field(default_factory=dict)


@dataclass(frozen=True)
class PlannedContender:
    """A treatment under its letter, with how the program of each step is run: None for
    built-in methods, and where nobody told.
    """

    letter: str
    treatment: Treatment
    commands: tuple[Command | None, ...]


@dataclass(frozen=True)
class Plan:
    """A whole study before anything is made. One without frames is a method, which any
    frames may be put to.
    """

    question: str
    factor: str = "tool"
    frames: tuple[PlannedFrame, ...] = ()
    contenders: tuple[PlannedContender, ...] = ()
    # Versions of the measures, by id.
    measures: Mapping[str, str] = field(default_factory=dict)
    # Where its outputs are seen.
    uses: tuple[Use, ...] = ()


def as_toml(plan: Plan) -> str:
    """A plan as it is written.

    Parameters
    ----------
    plan : Plan
        The plan.
    """
    whole = tomlkit.document()
    whole.add(tomlkit.comment("A study that can be carried out again: see docs/plans.md."))
    told: dict[str, Any] = {
        "format": FORMAT,
        "question": plan.question,
        "factor": plan.factor,
        "measures": dict(plan.measures),
        "frames": [_frame(f) for f in plan.frames],
        "contenders": [_contender(c) for c in plan.contenders],
        **({"uses": [_plain(asdict(use)) for use in plan.uses]} if plan.uses else {}),
    }
    for key, value in told.items():
        whole.add(key, tomlkit.item(value))
    return tomlkit.dumps(whole)


def _frame(frame: PlannedFrame) -> dict[str, Any]:
    names = ("name", "pixels", "file", "truth", "truth_file", "second")
    told = {k: v for k in names if (v := getattr(frame, k))}
    patches = [
        {"name": p.name, "role": p.role, "rect": [p.rect.x, p.rect.y, p.rect.w, p.rect.h]}
        for p in frame.patches
    ]
    points = {k: [[p.x, p.y, p.u, p.v] for p in v] for k, v in frame.points.items() if v}
    more = {"patches": patches, "points": points}
    return told | {k: v for k, v in more.items() if v}


def _contender(contender: PlannedContender) -> dict[str, Any]:
    steps = []
    for step, command in zip(contender.treatment.steps, contender.commands, strict=True):
        told = _plain(asdict(step))
        if command is not None:
            told["command"] = _plain(asdict(command))
        steps.append(told)
    return {"letter": contender.letter, "feed": contender.treatment.feed, "steps": steps}


def _plain(value: Any) -> Any:
    """Without what is empty: TOML has no word for nothing."""
    if isinstance(value, dict):
        return {k: _plain(v) for k, v in value.items() if v not in (None, "", (), [], False)}
    if isinstance(value, list | tuple):
        return [_plain(v) for v in value]
    return value


def plan_of(text: str, name: str) -> Plan:
    """A plan as it was written.

    Parameters
    ----------
    text : str
        TOML.
    name : str
        What messages call the file.

    Raises
    ------
    BadFile
        If it is no plan, with what is wrong in it.
    """
    try:
        told = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise BadFile(
            name, f"it is no TOML ({error})", "Take the file as it was exported."
        ) from error
    if told.get("format") != FORMAT:
        raise BadFile(
            name, f"its form is {told.get('format')!r}", f"Only {FORMAT!r} is known here."
        )
    if NOTHING in json.dumps(told, default=str):
        raise BadFile(name, "a text in it has a character that is none (NUL)", "Correct it there.")
    try:
        return _plan(told)
    except (BadRequest, KeyError, TypeError, ValueError, AttributeError) as error:
        what = f"{error} is missing" if isinstance(error, KeyError) else str(error)
        raise BadFile(name, f"something in it is not right: {what}", "Correct it there.") from error


def _plan(told: Mapping[str, Any]) -> Plan:
    question = str(told["question"]).strip()
    if not question:
        raise BadRequest("it has no question")
    frames = tuple(_frame_of(f) for f in _listed(told, "frames", MOST_FRAMES))
    contenders = tuple(_contender_of(c) for c in _listed(told, "contenders", MOST_CONTENDERS))
    letters = [c.letter for c in contenders]
    if len(set(letters)) < len(letters):
        raise BadRequest("two contenders have one letter")
    if sum(len(f.patches) for f in frames) > MOST_PATCHES:
        raise BadRequest(f"it has more than {MOST_PATCHES} patches")
    return Plan(
        question,
        str(told.get("factor", "tool")),
        frames,
        contenders,
        {str(k): str(v) for k, v in dict(told.get("measures", {})).items()},
        tuple(kept_use(u) for u in _listed(told, "uses", MOST_USES)),
    )


def _listed(told: Mapping[str, Any], key: str, most: int) -> Sequence[Mapping[str, Any]]:
    found = told.get(key, [])
    if not isinstance(found, list) or len(found) > most:
        raise BadRequest(f"{key} is a list of at most {most}")
    return found


def _frame_of(told: Mapping[str, Any]) -> PlannedFrame:
    name = str(told["name"])
    hashes = {k: str(told.get(k, "")) for k in ("pixels", "truth", "second")}
    for key, value in hashes.items():
        if not HASH.fullmatch(value) and (value or key == "pixels"):
            raise BadRequest(f"{key} of frame “{name}” is no SHA-256")
    patches = tuple(_patch_of(name, p) for p in _listed(told, "patches", MOST_PATCHES))
    texts = {k: str(told.get(k, "")) for k in ("file", "truth_file")}
    points = {str(k): _points_of(name, k, v) for k, v in dict(told.get("points", {})).items()}
    return PlannedFrame(name, patches=patches, points=points, **hashes, **texts)


def _points_of(frame: str, letter: str, told: Any) -> tuple[PointPair, ...]:
    pairs = tuple(PointPair(*(float(v) for v in pair)) for pair in told)
    if not all(math.isfinite(v) for pair in pairs for v in (pair.x, pair.y, pair.u, pair.v)):
        raise BadRequest(f"a point of {letter} on “{frame}” is no place")
    return pairs


def _patch_of(frame: str, told: Mapping[str, Any]) -> PlannedPatch:
    name, role = str(told["name"]), str(told["role"])
    if role not in ROLES:
        raise BadRequest(f"“{role}” of patch “{name}” is no type of patch; {', '.join(ROLES)} are")
    x, y, w, h = (float(v) for v in told["rect"])
    if not (w > 0 and h > 0):
        raise BadRequest(f"patch “{name}” of “{frame}” has no size")
    return PlannedPatch(name, role, Rect(x, y, w, h))


def _contender_of(told: Mapping[str, Any]) -> PlannedContender:
    letter = str(told["letter"])
    if len(letter) != 1 or not letter.isalpha() or letter in TAKEN_LETTERS:
        raise BadRequest(f"{letter!r} is no letter of a contender")
    steps: Sequence[Mapping[str, Any]] = told["steps"]
    commands = tuple(command_of(s["command"]) if s.get("command") else None for s in steps)
    return PlannedContender(letter, treatment_of(told), commands)


def own_versions() -> dict[str, str]:
    """The versions of all measures here, by id."""
    return {m.id: m.version for m in MEASURES.values()}
