"""Steps and treatments, plain and complete: what is kept with an output must read the
same years later.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from glenhail.core.errors import BadRequest
from glenhail.core.methods.treat import Part
from glenhail.core.parameters import Value, plain

# What a tool is handed: the frame in the neutral rendering, as 16-bit TIFF, or the file itself.
RENDERED, ORIGINAL = "16-bit TIFF", "original file"
FEEDS = (RENDERED, ORIGINAL)
MOST_STEPS = 12
ENLARGING_MODE = re.compile(r"(\d+(?:\.\d+)?)x")


@dataclass(frozen=True)
class Setting:
    """One setting: its value with a unit, by hand or automatic.

    An automatic value is None where the tool does not tell it.
    """

    name: str
    value: Value | None
    unit: str = ""
    automatic: bool = False

    @property
    def words(self) -> str:
        """As a reader is told of it."""
        told = "" if self.value is None else f"{plain(self.value)} {self.unit}".strip()
        if self.automatic:
            told = f"automatic ({told})" if told else "automatic"
        return f"{self.name} {told}".strip()


@dataclass(frozen=True)
class Step:
    """One release with a mode and settings.

    ``strength`` is in per cent, None where the tool has none; ``limit`` says in words
    which part of the picture it works on, and ``part`` does so for a built-in method;
    ``method`` is a built-in method's id.
    """

    tool: str
    release: str = ""
    mode: str = ""
    settings: tuple[Setting, ...] = ()
    strength: float | None = None
    automatic: bool = False
    limit: str = ""
    part: Part | None = None
    method: str = ""

    @property
    def title(self) -> str:
        """Tool and release."""
        return f"{self.tool} {self.release}".strip()

    @property
    def manner(self) -> str:
        """Everything else."""
        strength = "" if self.strength is None else f"strength {self.strength:g} %"
        how = "automatic" if self.automatic else ""
        part = (
            ""
            if self.part is None
            else (
                f"only on {self.part.w:g} × {self.part.h:g} % at {self.part.x:g}, {self.part.y:g} %"
            )
        )
        limit = f"only on {self.limit}" if self.limit else ""
        return ", ".join(
            w
            for w in (self.mode, strength, *(s.words for s in self.settings), how, limit, part)
            if w
        )

    @property
    def words(self) -> str:
        """All of it on one line."""
        return ", ".join(w for w in (self.title, self.manner) if w)

    @property
    def times(self) -> float | None:
        """How much it enlarges, as its setting "scale" or "factor" or a mode like "2x"
        says; None where nothing says so.
        """
        for name in ("scale", "factor"):
            value = self.value(name)
            if isinstance(value, int | float) and not isinstance(value, bool):
                return float(value)
        told = ENLARGING_MODE.fullmatch(self.mode.strip().lower())
        return float(told[1]) if told else None

    def value(self, name: str) -> Value | None:
        """A setting's value; None where there is no such setting."""
        return next((s.value for s in self.settings if s.name == name), None)


@dataclass(frozen=True)
class Treatment:
    """Steps in their order, and what the first of them is handed."""

    steps: tuple[Step, ...]
    feed: str = RENDERED

    @property
    def title(self) -> str:
        """The releases, in order."""
        return ", then ".join(s.title for s in self.steps)

    @property
    def manner(self) -> str:
        """Mode and settings of every step, and what it is handed where that is not the
        usual thing.
        """
        told = ", then ".join(s.manner for s in self.steps if s.manner)
        return ", ".join(
            w for w in (told, "" if self.feed == RENDERED else f"from the {self.feed}") if w
        )

    @property
    def words(self) -> str:
        """All of it on one line; two treatments with the same words do the same."""
        return ", ".join(
            w for w in (", then ".join(s.words for s in self.steps), f"from the {self.feed}") if w
        )

    def as_json(self) -> dict[str, Any]:
        """As it is kept and sent."""
        return {"steps": [asdict(s) for s in self.steps], "feed": self.feed}


def step_of(told: Mapping[str, Any]) -> Step:
    """A step out of what was kept or sent.

    Parameters
    ----------
    told : Mapping
        Plain values, as they were kept or sent.

    Raises
    ------
    BadRequest
        If it has no tool, or a strength or part that can not be.
    """
    tool = str(told.get("tool", "")).strip()
    if not tool:
        raise BadRequest("A treatment needs at least one step, and every step a tool.")
    strength = told.get("strength")
    if strength is not None and not 0 <= float(strength) <= 100:
        raise BadRequest(f"{tool}: strength is from 0 to 100 %.")
    return Step(
        tool=tool[:80],
        release=str(told.get("release", "")).strip()[:40],
        mode=str(told.get("mode", "")).strip()[:80],
        settings=tuple(_setting_of(tool, s) for s in told.get("settings", ())),
        strength=None if strength is None else float(strength),
        automatic=bool(told.get("automatic", False)),
        limit=str(told.get("limit", "")).strip()[:120],
        part=_part_of(tool, told.get("part")),
        method=str(told.get("method", "")),
    )


def _setting_of(tool: str, told: Mapping[str, Any]) -> Setting:
    name, value = str(told.get("name", "")).strip(), told.get("value")
    if not name:
        raise BadRequest(f"{tool}: a setting needs a name.")
    automatic = bool(told.get("automatic", False))
    if value is not None and not isinstance(value, str | int | float | bool):
        raise BadRequest(f"{tool}: {name} is a number, a word, on or off.")
    if (value is None or value == "") and not automatic:
        raise BadRequest(f"{tool}: {name} has no value, and is not automatic.")
    return Setting(name[:60], value, str(told.get("unit", "")).strip()[:20], automatic)


def _part_of(tool: str, told: Mapping[str, Any] | None) -> Part | None:
    if told is None:
        return None
    part = Part(*(float(told[k]) for k in "xywh"))
    if not (
        part.w > 0
        and part.h > 0
        and part.x >= 0
        and part.y >= 0
        and part.x + part.w <= 100
        and part.y + part.h <= 100
    ):
        raise BadRequest(
            f"{tool}: a part of the picture lies within its 100 % of width and height."
        )
    return part


def treatment_of(told: Mapping[str, Any]) -> Treatment:
    """A treatment out of what was kept or sent.

    Parameters
    ----------
    told : Mapping
        Plain values, as they were kept or sent.

    Raises
    ------
    BadRequest
        If it has no step, too many, or one that makes no sense.
    """
    steps: Sequence[Mapping[str, Any]] = told.get("steps", ())
    if not 1 <= len(steps) <= MOST_STEPS:
        raise BadRequest(f"A treatment has from one to {MOST_STEPS} steps, and every step a tool.")
    feed = told.get("feed") or RENDERED
    if feed not in FEEDS:
        raise BadRequest(f"A tool is handed the {' or the '.join(FEEDS)}.")
    return Treatment(tuple(step_of(s) for s in steps), feed)
