"""A plan's outputs as they are seen in its uses."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from glenhail.core.articles.names import file_part, file_parts
from glenhail.core.errors import BadRequest
from glenhail.core.files.encoding import png_bytes
from glenhail.core.picture import Picture
from glenhail.core.plans.plan import Plan
from glenhail.core.uses.seen import as_seen
from glenhail.core.uses.table import Use

FOLDER = "seen"
COLUMNS = ("frame", "letter", "use", "file", "width", "height", "size_bytes", "reason")


@dataclass(frozen=True)
class SeenFile:
    """One output in one use: the file that was written and what it measures; or why
    there is none.
    """

    frame: str
    letter: str
    use: str
    file: str = ""
    width: int = 0
    height: int = 0
    size_bytes: int | None = None
    reason: str = ""


def write_seen(
    plan: Plan,
    shown: Callable[[int], Iterator[tuple[str, Picture]]],
    out: Path,
    tell: Callable[[str], None],
) -> list[SeenFile]:
    """Write every output as it is seen in every use of a plan, as PNG, and ``seen.csv``
    beside them. Uses that show a part show the middle.

    Parameters
    ----------
    plan : Plan
        The plan.
    shown : callable
        Gives the letters and pictures of a frame by its place.
    out : Path
        The folder of results, which gains ``seen/FRAME/LETTER_USE.png``.
    tell : callable
        Is told in words what goes on.
    """
    made: list[SeenFile] = []
    if not plan.uses:
        return made
    folders = file_parts([f.name for f in plan.frames])
    for at, (frame, folder) in enumerate(zip(plan.frames, folders, strict=True)):
        for letter, picture in shown(at):
            for number, use in enumerate(plan.uses, 1):
                tell(f"{letter} of {frame.name} as {use.name}")
                # Two uses may have one name.
                name = f"{FOLDER}/{folder}/{letter}_{number}-{file_part(use.name)}.png"
                made.append(_written(frame.name, letter, use, picture, out, name))
    (out / "seen.csv").write_text(seen_csv(made), "utf-8", newline="")
    return made


def _written(frame: str, letter: str, use: Use, picture: Picture, out: Path, name: str) -> SeenFile:
    try:
        seen = as_seen(picture.pixels, use)
    except BadRequest as why:
        return SeenFile(frame, letter, use.name, reason=str(why))
    path = out / name
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(png_bytes(seen.codes, level=6))
    height, width = seen.codes.shape[:2]
    return SeenFile(frame, letter, use.name, name, width, height, seen.size_bytes)


def seen_csv(made: list[SeenFile]) -> str:
    """One line a file (RFC 4180).

    Parameters
    ----------
    made : list of SeenFile
        What was written.
    """
    out = io.StringIO(newline="")
    rows = csv.writer(out, lineterminator="\r\n")
    rows.writerow(COLUMNS)
    for told in made:
        rows.writerow(["" if (v := getattr(told, c)) in (None, 0) else v for c in COLUMNS])
    return out.getvalue()
