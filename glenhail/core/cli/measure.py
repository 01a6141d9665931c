"""What files say, how they lie on each other, and readings."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from glenhail.core.assess import assess
from glenhail.core.errors import BadRequest, NotMeasurable
from glenhail.core.files.decoding import read_facts, read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.lineup.aligned import aligned, lined_up
from glenhail.core.lineup.bend import turn_of
from glenhail.core.lineup.points import PointPair
from glenhail.core.lineup.register import LineUp
from glenhail.core.measures.catalogue import MEASURES, ROLES, Patch
from glenhail.core.measures.reading import Reading
from glenhail.core.picture import Picture, Rect
from glenhail.core.tone.compare import compare_tone, in_words


def add_to(commands: Any) -> None:
    """Add facts, develop, lineup, tone and measure.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    facts = commands.add_parser("facts", help="what a file says about itself")
    facts.add_argument("file", type=Path)
    facts.set_defaults(run=_facts)
    develop = commands.add_parser("develop", help="a raw file in the fixed neutral rendering")
    develop.add_argument("file", type=Path)
    develop.add_argument("made", type=Path, help="a TIFF of 16 bit")
    develop.set_defaults(run=_develop)
    lineup = commands.add_parser("lineup", help="how an output lies on its source")
    lineup.add_argument("source", type=Path)
    lineup.add_argument("output", type=Path)
    lineup.add_argument(
        "--points",
        nargs="+",
        default=[],
        metavar="x,y,u,v",
        help="two or three places found by hand in source and output",
    )
    lineup.set_defaults(run=_lineup)
    tone = commands.add_parser(
        "tone", help="how an output's tone and colour differ from its source's"
    )
    tone.add_argument("source", type=Path)
    tone.add_argument("output", type=Path)
    tone.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    tone.set_defaults(run=_tone)
    measure = commands.add_parser("measure", help="readings of an output, or of a source alone")
    measure.add_argument("--source", type=Path, required=True)
    measure.add_argument("--output", type=Path)
    measure.add_argument("--truth", type=Path)
    measure.add_argument(
        "--second", type=Path, help="another exposure of the source's scene, to take noise off by"
    )
    measure.add_argument(
        "--patch",
        action="append",
        default=[],
        metavar="NAME:ROLE:x,y,w,h",
        help=f"in source pixels; roles: {', '.join(ROLES)}",
    )
    measure.add_argument("--measures", metavar="ID,ID", help=f"some of: {', '.join(MEASURES)}")
    measure.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    measure.set_defaults(run=_measure)


def _facts(options: argparse.Namespace) -> None:
    print(json.dumps(asdict(read_facts(options.file)), indent=2))


def _develop(options: argparse.Namespace) -> None:
    made = read_picture(options.file)
    if not made.facts.developed:
        raise BadRequest(
            f"{options.file}: it is no raw file but {made.facts.format}; it is developed already."
        )
    write_tiff(options.made, made.pixels, made.facts)
    print(made.facts.developed)


def _lineup(options: argparse.Namespace) -> None:
    points = [_point_pair(text) for text in options.points]
    found = lined_up(read_picture(options.source), read_picture(options.output), points)
    print(json.dumps(lineup_json(found), indent=2))


def _point_pair(text: str) -> PointPair:
    try:
        return PointPair(*(float(v) for v in text.split(",")))
    except (TypeError, ValueError) as error:
        raise BadRequest(f"points {text!r}: write each as x,y,u,v") from error


def _tone(options: argparse.Namespace) -> None:
    source, output = read_picture(options.source), read_picture(options.output)
    try:
        found = compare_tone(source, aligned(output, lined_up(source, output)))
    except NotMeasurable as why:
        raise BadRequest(f"{options.output}: {why}.") from why
    print(json.dumps(asdict(found), indent=2) if options.json else "\n".join(in_words(found)))


def _measure(options: argparse.Namespace) -> None:
    patches = [parse_patch(text) for text in options.patch]
    ids = options.measures.split(",") if options.measures else None
    given = (options.source, options.output, options.truth, options.second)
    source, output, truth, second = (read_picture(p) if p else None for p in given)
    assert source is not None
    check_patches(patches, source)
    found = assess(source, output, truth, patches, ids, second)
    if options.json:
        print(json.dumps(_report(source, output, found.lineup, found.readings), indent=2))
    else:
        print("\n".join(_line(r) for r in found.readings))


def parse_patch(text: str) -> Patch:
    """A patch from ``NAME:ROLE:x,y,w,h``.

    Parameters
    ----------
    text : str
        What was written.

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
        raise BadRequest(
            f"patch {text!r}: width and height above 0 and a role of {', '.join(ROLES)} are needed"
        )
    return Patch(name, role, Rect(x, y, w, h))


def check_patches(patches: list[Patch], source: Picture) -> None:
    """Refuse patches that leave the source, by name.

    Parameters
    ----------
    patches : list of Patch
        Patches in frame px, each with its role.
    source : Picture
        The frame.
    """
    for patch in patches:
        if not patch.rect.inside(source.width, source.height):
            raise BadRequest(
                f"{source.facts.name}: patch {patch.name} lies outside its {source.width} ×"
                f" {source.height} pixels. Move it inside."
            )


def lineup_json(found: LineUp) -> dict[str, Any]:
    """A line-up as the command line and the server tell it; shift and border in output
    pixels.

    Parameters
    ----------
    found : LineUp
        The line-up.
    """
    m = found.mapping
    return {
        "scale": [m.sx, m.sy],
        "shift": [m.dx, m.dy],
        "border": asdict(found.border),
        "residual": found.residual,
        "likeness": found.likeness,
        "turn": turn_of(m.bend) if m.bend else 0.0,
        "bend": asdict(m.bend) if m.bend else None,
        "doubts": list(found.doubts),
        "refused": None,
    }


def _report(
    source: Picture, output: Picture | None, lineup: LineUp, readings: list[Reading]
) -> dict[str, Any]:
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
    return (
        f"{place:20} {reading.measure:14} {reading.value:10.{digits}f} {reading.unit}  [{interval}]"
    )
