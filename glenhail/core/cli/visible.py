"""Whether anybody would see a difference, from the command line."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

import numpy as np

from glenhail.core.cli.uses import chosen_use, parse_centre
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import png_bytes
from glenhail.core.lineup.aligned import AlignedPicture, aligned, lined_up
from glenhail.core.lineup.register import identical
from glenhail.core.picture import Floats
from glenhail.core.seeing.visible import VERSION, Visible, VisibleMaps, told, visible
from glenhail.core.uses.table import USES

STILL = [use.id for use in USES.values() if use.video_mbit is None]
BRIGHTEST = 5.0  # CIEDE2000 that a map shows as white


def add_to(commands: Any) -> None:
    """Add visible.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    parser = commands.add_parser(
        "visible", help="whether anybody would see the difference of two outputs in a use"
    )
    parser.add_argument("one", type=Path)
    parser.add_argument("two", type=Path)
    parser.add_argument(
        "--use",
        action="append",
        help=f"one of {', '.join(USES)}; every one but videos where none is named",
    )
    parser.add_argument(
        "--centre", default="50,50", help="x,y in per cent, where the use shows a part alone"
    )
    parser.add_argument(
        "--maps", type=Path, help="a folder for PNGs: CIEDE2000 (white is 5) and FLIP (white is 1)"
    )
    parser.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    parser.set_defaults(run=_visible)


def _visible(options: argparse.Namespace) -> None:
    uses = [chosen_use(key) for key in options.use or STILL]
    centre = parse_centre(options.centre)
    one, two = read_picture(options.one), read_picture(options.two)
    pair = (
        AlignedPicture(one, identical(one).mapping, one.bounds),
        aligned(two, lined_up(one, two)),
    )
    names = options.one.name, options.two.name
    rows = []
    for use in uses:
        found = visible(*pair, use, centre)
        if options.maps is not None:
            _write(options.maps, use.id, found)
        words = told(found.told, names, use)
        rows.append({**asdict(found.told), "name": use.name, "said": words})
        if not options.json:
            print(words)
            print(f"  {_numbers(found.told)}")
    if options.json:
        print(json.dumps({"one": names[0], "two": names[1], "version": VERSION, "uses": rows}))


def _numbers(told_of: Visible) -> str:
    place = told_of.place
    x, y = 100 * (place.x + place.w / 2), 100 * (place.y + place.h / 2)
    return (
        f"99 % lie under {told_of.at:.2f} CIEDE2000 as seen; most, {told_of.most:.2f}, at"
        f" {x:.0f},{y:.0f} %; FLIP {told_of.flip:.4f}"
    )


def _write(folder: Path, use: str, found: VisibleMaps) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    for name, values, white in (("de00", found.de00, BRIGHTEST), ("flip", found.flip, 1.0)):
        (folder / f"{use}-{name}.png").write_bytes(png_bytes(_grey(values / np.float32(white))))


def _grey(shares: Floats) -> np.ndarray:
    codes = np.rint(255 * np.clip(shares, 0, 1)).astype(np.uint8)
    return np.repeat(codes[..., None], 3, axis=2)
