"""What a program said: its timings where it tells them, and its last words made
harmless.
"""

from __future__ import annotations

import json
import unicodedata
from dataclasses import dataclass
from pathlib import Path
from typing import Any

HEAD = 64 * 1024  # bytes of each end that are looked at
TIMES = ("load_s", "process_s", "export_s")
MOST_CHARACTERS = 4000


@dataclass(frozen=True)
class StdoutReport:
    """Seconds for loading, processing, export, and how far it is (0..1), where the tool
    tells; None where it does not.
    """

    load_s: float | None = None
    process_s: float | None = None
    export_s: float | None = None
    progress: float | None = None


def told_by(path: Path) -> StdoutReport:
    """Read a program's standard output: any line that is a JSON object with load_s,
    process_s, export_s or progress.

    The times of several lines add up; the last progress counts. Anything else is
    ignored, whatever bytes it is made of.

    Parameters
    ----------
    path : Path
        The file.
    """
    found: dict[str, float] = {}
    for line in _last(path).decode("utf-8", "replace").splitlines():
        told = _object(line)
        for name in TIMES:
            if _is_number(told.get(name)):
                found[name] = found.get(name, 0.0) + float(told[name])
        if _is_number(told.get("progress")):
            found["progress"] = min(1.0, float(told["progress"]))
    return StdoutReport(**found)


def _object(line: str) -> dict[str, Any]:
    if not line.startswith("{"):
        return {}
    try:
        told = json.loads(line)
    except (ValueError, RecursionError):
        return {}
    return told if isinstance(told, dict) else {}


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and 0 <= value < 1e7


def _last(path: Path) -> bytes:
    if not path.exists():
        return b""
    with path.open("rb") as stream:
        stream.seek(max(0, path.stat().st_size - HEAD))
        return stream.read(HEAD)


def ends_of(path: Path, lines: int) -> str:
    """The last lines of what was said, without anything that is no text.

    Parameters
    ----------
    path : Path
        The file.
    lines : int
        How many at most.
    """
    text = _last(path).decode("utf-8", "replace")
    clean = "".join(c for c in text if c in "\n\t" or not unicodedata.category(c).startswith("C"))
    kept = [line.rstrip() for line in clean.replace("\ufffd", "·").splitlines() if line.strip()]
    return "\n".join(kept[-lines:])[-MOST_CHARACTERS:]
