"""The core's command line: facts, line-up and readings for scripts, without the server."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Sequence
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

from glenhail.core.assess import assess
from glenhail.core.degrade.recipe import degrade, recipe_of
from glenhail.core.errors import BadRequest, CoreError
from glenhail.core.files.reading import read_facts, read_picture
from glenhail.core.files.writing import write_tiff
from glenhail.core.lineup.register import LineUp, line_up
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.table import MEASURES, ROLES, Patch
from glenhail.core.picture import Picture, Rect
from glenhail.core.truth.burst import burst_mean


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one subcommand; returns the exit status: 0, or 2 for bad input."""
    options = _parser().parse_args(arguments)
    try:
        options.run(options)
    except (CoreError, OSError) as error:
        print(f"glenhail: {_text(error)}", file=sys.stderr)
        return 2
    return 0


def _text(error: Exception) -> str:
    if isinstance(error, OSError):
        return f"{error.filename}: {error.strerror}. Check the path and that you may read it."
    return str(error)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="python -m glenhail.core", description=__doc__)
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    facts = commands.add_parser("facts", help="what a file says about itself")
    facts.add_argument("file", type=Path)
    facts.set_defaults(run=_facts)
    lineup = commands.add_parser("lineup", help="how an output lies on its source")
    lineup.add_argument("source", type=Path)
    lineup.add_argument("output", type=Path)
    lineup.set_defaults(run=_lineup)
    measure = commands.add_parser("measure", help="readings of an output, or of a source alone")
    measure.add_argument("--source", type=Path, required=True)
    measure.add_argument("--output", type=Path)
    measure.add_argument("--truth", type=Path)
    measure.add_argument(
        "--patch", action="append", default=[], metavar="NAME:ROLE:x,y,w,h", help=f"in source pixels; roles: {', '.join(ROLES)}"
    )
    measure.add_argument("--measures", metavar="ID,ID", help=f"some of: {', '.join(MEASURES)}")
    measure.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    measure.set_defaults(run=_measure)
    worse = commands.add_parser("degrade", help="make a picture worse by a recorded recipe")
    worse.add_argument("file", type=Path)
    worse.add_argument("made", type=Path, help="a TIFF of 16 bit")
    worse.add_argument("--recipe", required=True, help="JSON, or a file of it; see docs/measures.md")
    worse.set_defaults(run=_degrade)
    many = commands.add_parser("burst", help="the mean of a burst as a truth, without what happened in one frame only")
    many.add_argument("made", type=Path, help="a TIFF of 16 bit")
    many.add_argument("files", type=Path, nargs="+")
    many.set_defaults(run=_burst)
    return parser


def _burst(options: argparse.Namespace) -> None:
    frames = [read_picture(path) for path in options.files]
    made = burst_mean(frames)
    write_tiff(options.made, made.mean, replace(frames[0].facts, software="Glenhail"))
    print(f"{len(frames)} frames, {100 * made.rejected:.3f} % of the values left out")
    print(f"noise of one frame {made.temporal:.2f} codes, in the mean {made.left:.2f}")


def _degrade(options: argparse.Namespace) -> None:
    text = options.recipe if options.recipe.lstrip().startswith("{") else Path(options.recipe).read_text("utf-8")
    try:
        recipe = recipe_of(json.loads(text))
    except ValueError as error:
        raise BadRequest(f'{options.recipe}: it is not JSON ({error}). Write it as {{"seed": 1, "steps": [...]}}.') from error
    source = read_picture(options.file)
    write_tiff(options.made, degrade(source.pixels, recipe), replace(source.facts, software="Glenhail"))
    print(recipe.words())


def _facts(options: argparse.Namespace) -> None:
    print(json.dumps(asdict(read_facts(options.file)), indent=2))


def _lineup(options: argparse.Namespace) -> None:
    found = line_up(read_picture(options.source), read_picture(options.output))
    print(json.dumps(lineup_json(found), indent=2))


def _measure(options: argparse.Namespace) -> None:
    patches = [parse_patch(text) for text in options.patch]
    ids = options.measures.split(",") if options.measures else None
    source, output, truth = (read_picture(p) if p else None for p in (options.source, options.output, options.truth))
    assert source is not None
    _check_patches(patches, source)
    found = assess(source, output, truth, patches, ids)
    if options.json:
        print(json.dumps(_report(source, output, found.lineup, found.readings), indent=2))
    else:
        print("\n".join(_line(r) for r in found.readings))


def parse_patch(text: str) -> Patch:
    """A patch from ``NAME:ROLE:x,y,w,h``.

    Raises
    ------
    BadRequest
        If it is not written so; the text shows how.
    """
    try:
        name, role, numbers = text.split(":")
        x, y, w, h = (float(v) for v in numbers.split(","))
    except ValueError as error:
        raise BadRequest(f"patch {text!r}: write it as NAME:ROLE:x,y,w,h") from error
    if w <= 0 or h <= 0 or role not in ROLES:
        raise BadRequest(f"patch {text!r}: width and height above 0 and a role of {', '.join(ROLES)} are needed")
    return Patch(name, role, Rect(x, y, w, h))


def _check_patches(patches: list[Patch], source: Picture) -> None:
    for patch in patches:
        if not patch.rect.inside(source.width, source.height):
            raise BadRequest(
                f"{source.facts.name}: patch {patch.name} lies outside its {source.width} x {source.height} pixels. Move it inside."
            )


def lineup_json(found: LineUp) -> dict[str, Any]:
    """A line-up as the command line and the server tell it; shift and border in output pixels."""
    m = found.mapping
    return {
        "scale": [m.sx, m.sy],
        "shift": [m.dx, m.dy],
        "border": asdict(found.border),
        "residual": found.residual,
        "likeness": found.likeness,
        "refused": None,
    }


def _report(source: Picture, output: Picture | None, lineup: LineUp, readings: list[Reading]) -> dict[str, Any]:
    return {
        "source": asdict(source.facts),
        "output": asdict(output.facts) if output else None,
        "lineup": lineup_json(lineup),
        "readings": [asdict(r) for r in readings],
    }


def _line(reading: Reading) -> str:
    place = reading.patch or "whole frame"
    if reading.value is None:
        return f"{place:20} {reading.measure:14} -  ({reading.reason})"
    digits = MEASURES[reading.measure].digits
    interval = f"{reading.low:.{digits}f} to {reading.high:.{digits}f}"
    return f"{place:20} {reading.measure:14} {reading.value:10.{digits}f} {reading.unit}  [{interval}]"


if __name__ == "__main__":
    sys.exit(main())
