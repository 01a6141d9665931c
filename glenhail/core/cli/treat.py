"""Built-in methods on files: what anybody can do to a picture, timed as outside tools
are.
"""

from __future__ import annotations

import argparse
import json
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

from glenhail.core.cli.given import json_of
from glenhail.core.errors import BadRequest
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff_bands
from glenhail.core.methods.catalogue import METHODS
from glenhail.core.methods.treat import Part, bands, size_after
from glenhail.core.parameters import Number
from glenhail.core.picture import Floats


def add_to(commands: Any) -> None:
    """Add treat and methods.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    treat = commands.add_parser(
        "treat", help="do to a picture what one of the built-in methods does"
    )
    treat.add_argument("file", type=Path)
    treat.add_argument("made", type=Path, help="a TIFF of 16 bit")
    treat.add_argument("--method", required=True, help="one of those that `methods` lists")
    treat.add_argument(
        "--values",
        default="{}",
        help='its settings as JSON, for example {"luma": 2}, or a file of it',
    )
    treat.add_argument(
        "--strength", type=float, default=100, help="per cent of the way to what the method makes"
    )
    treat.add_argument("--part", help="x,y,w,h in per cent of the picture: leave the rest as it is")
    treat.set_defaults(run=_treat)
    commands.add_parser(
        "methods", help="list the built-in methods and their settings"
    ).set_defaults(run=_list)


def _treat(options: argparse.Namespace) -> None:
    """Work and writing overlap, band by band, so that they are told as one time; export
    has none of its own.
    """
    values, part = json_of(options.values, '{"luma": 2}'), _part_of(options.part)
    began = time.perf_counter()
    picture = read_picture(options.file)
    loaded = time.perf_counter()
    height, width = size_after(options.method, values, picture.height, picture.width)
    made = bands(picture.pixels, options.method, values, options.strength, part)
    told = _telling(made, height)
    write_tiff_bands(options.made, told, height, width, replace(picture.facts, software="Glenhail"))
    ended = time.perf_counter()
    print(
        json.dumps({"load_s": round(loaded - began, 3), "process_s": round(ended - loaded, 3)}),
        flush=True,
    )


def _telling(made: Iterator[Floats], height: int) -> Iterator[Floats]:
    done = 0
    for band in made:
        yield band
        done += band.shape[0]
        print(json.dumps({"progress": round(done / height, 3)}), flush=True)


def _part_of(given: str | None) -> Part | None:
    if given is None:
        return None
    try:
        return Part(*(float(n) for n in given.split(",")))
    except (TypeError, ValueError) as error:
        raise BadRequest(f"--part {given}: four numbers, x,y,w,h, are wanted.") from error


def _list(options: argparse.Namespace) -> None:
    for method in METHODS.values():
        print(f"{method.id}: {method.title}, {method.does} ({method.source})")
        for p in method.parameters:
            bounds = (
                f"{p.low:g} to {p.high:g} {p.unit}"
                if isinstance(p, Number)
                else " | ".join(getattr(p, "among", ()))
            )
            print(f"    {p.name}: {bounds}, usually {p.usual}")
