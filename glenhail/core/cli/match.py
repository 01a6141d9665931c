"""What an output is like at another's sharpness, from the command line."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

import numpy as np

from glenhail.core.cli.measure import check_patches, parse_patch
from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest, NotMeasurable
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import png_bytes
from glenhail.core.level.costs import AtOneLevel
from glenhail.core.level.told import levelled_told
from glenhail.core.level.way import Levelled, Way, level_pair
from glenhail.core.level.ways import brought


def add_to(commands: Any) -> None:
    """Add match.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    parser = commands.add_parser(
        "match", help="an output brought to another's level: could a slider do it?"
    )
    parser.add_argument("one", type=Path, help="the output that is brought there")
    parser.add_argument("other", type=Path, help="the one whose level is wanted")
    parser.add_argument(
        "--way",
        choices=[way.value for way in Way],
        default=Way.SHARPNESS.value,
        help="in what: sharpness by an unsharp mask or a deconvolution, noise, contrast, size",
    )
    parser.add_argument("--source", type=Path, required=True)
    parser.add_argument("--truth", type=Path)
    parser.add_argument(
        "--patch",
        action="append",
        default=[],
        metavar="NAME:ROLE:x,y,w,h",
        help="where noise, halos and detail are measured, source px",
    )
    parser.add_argument("--made", type=Path, metavar="PNG", help="where what was made is kept")
    parser.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    parser.set_defaults(run=_match)


def _match(options: argparse.Namespace) -> None:
    source, one, other = (read_picture(p) for p in (options.source, options.one, options.other))
    truth = read_picture(options.truth) if options.truth else None
    patches = [parse_patch(text) for text in options.patch]
    check_patches(patches, source)
    names = options.one.name, options.other.name
    try:
        pair = level_pair(source, one, other, truth, patches)
        found = brought(Way(options.way), pair, names)
    except NotMeasurable as why:
        raise BadRequest(f"{names[0]} and {names[1]}: {why}.") from why
    if options.made is not None:
        shown = np.clip(found.made.pixels, 0, 1)
        options.made.write_bytes(png_bytes(srgb.to_display(shown)))
    if options.json:
        print(json.dumps(_told(found, names, options.way)))
        return
    print(found.said)
    fit = found.sought.numbers.get("fit")
    for as_well in fit["valley"] if fit and fit["reached"] else ():
        print(
            f"  as well: radius {as_well['reach']:.2f} px, amount {100 * as_well['gain']:.0f} %,"
            f" leaves {as_well['left']:.3f}"
        )
    for reading in found.readings:
        print(f"  {_line(reading, names)}")


def _told(found: Levelled, names: tuple[str, str], way: str) -> dict[str, Any]:
    return {
        "one": names[0],
        "other": names[1],
        "way": way,
        **levelled_told(found),
    }


def _line(r: AtOneLevel, names: tuple[str, str]) -> str:
    before, made, other = ("-" if v is None else f"{v:.3g}" for v in (r.before, r.made, r.other))
    what = f"{r.patch}, {r.measure} {r.unit}".strip()
    return f"{what}: {before}, made {made}; {names[1]} {other}"
