"""Painting a target sheet, and measuring a picture of it."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from glenhail.core.cli.given import json_of
from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest, NotMeasurable
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.targets.detection import find
from glenhail.core.targets.layout import Sheet, paint, sheet_of
from glenhail.core.targets.measuring import FieldReading, read_sheet

SHAPE = '{"width": 1800, "height": 1200, "fields": [{"kind": "edges"}, ...]}'


def add_to(commands: Any) -> None:
    """Add target and read-target.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    painted = commands.add_parser("target", help="paint a target sheet")
    painted.add_argument("sheet", help="JSON, or a file of it; see docs/material.md")
    painted.add_argument("made", type=Path, help="a TIFF of 16 bit")
    painted.set_defaults(run=_target)
    read = commands.add_parser(
        "read-target", help="find a target sheet in a picture and measure its fields"
    )
    read.add_argument("sheet", help="JSON, or a file of it")
    read.add_argument("file", type=Path)
    read.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    read.set_defaults(run=_read)


def _sheet(given: str) -> Sheet:
    return sheet_of(json_of(given, SHAPE))


def _target(options: argparse.Namespace) -> None:
    sheet = _sheet(options.sheet)
    write_tiff(options.made, paint(sheet))
    print(f"number {sheet.number}; " + "; ".join(f.words() for f in sheet.fields))


def _read(options: argparse.Namespace) -> None:
    sheet, picture = _sheet(options.sheet), read_picture(options.file)
    found = find(srgb.luminance(picture.pixels))
    if found is None or found.number != sheet.number:
        raise BadRequest(
            f"{options.file}: this target is not seen in it. All four ring marks and the strip must"
            " show."
        )
    try:
        told = read_sheet(picture, sheet, found.lie(sheet))
    except NotMeasurable as why:
        raise BadRequest(f"{options.file}: {why}") from why
    if options.json:
        print(
            json.dumps(
                {
                    "readings": [r.as_json() for r in told.readings],
                    "curves": [asdict(c) for c in told.curves],
                },
                indent=2,
            )
        )
    else:
        print("\n".join(_line(r) for r in told.readings))


def _line(reading: FieldReading) -> str:
    start = f"{reading.field:2} {reading.name:32}"
    if reading.value is None:
        return f"{start} -  ({reading.reason})"
    return f"{start} {reading.value:10.{reading.digits}f} {reading.unit}"
