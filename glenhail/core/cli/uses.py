"""Pictures as they are seen in use, on files."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

from glenhail.core.errors import BadRequest
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import png_bytes
from glenhail.core.uses.seen import as_seen
from glenhail.core.uses.table import USES, Use


def add_to(commands: Any) -> None:
    """Add seen.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    seen = commands.add_parser(
        "seen", help="a picture as it is seen in a use: cut, brought to its size, compressed"
    )
    seen.add_argument("file", type=Path)
    seen.add_argument("made", type=Path, help="a PNG of 8 bit")
    seen.add_argument("--use", required=True, help=f"one of {', '.join(USES)}")
    seen.add_argument(
        "--centre", default="50,50", help="x,y in per cent, where the use shows a part alone"
    )
    seen.set_defaults(run=_seen)


def _seen(options: argparse.Namespace) -> None:
    use = chosen_use(options.use)
    picture = read_picture(options.file)
    found = as_seen(picture.pixels, use, parse_centre(options.centre))
    options.made.write_bytes(png_bytes(found.codes))
    height, width = found.codes.shape[:2]
    told = {
        "use": use.name,
        "width": width,
        "height": height,
        "scale": round(found.scale, 6),
        "bytes": found.size_bytes,
        "pixels_per_degree": round(use.pixels_per_degree, 2),
    }
    print(json.dumps(told))


def chosen_use(key: str) -> Use:
    """A use by its id.

    Parameters
    ----------
    key : str
        Its id.

    Raises
    ------
    BadRequest
        If there is none.
    """
    use = USES.get(key)
    if use is None:
        raise BadRequest(f"There is no use {key!r}; there are {', '.join(USES)}.")
    return use


def parse_centre(told: str) -> tuple[float, float]:
    """Where a use that shows a part looks, shares of width and height.

    Parameters
    ----------
    told : str
        x,y in per cent.

    Raises
    ------
    BadRequest
        If it is none within the picture.
    """
    try:
        x, y = (float(part) / 100 for part in told.split(","))
    except ValueError:
        x = y = -1.0
    if not (0 <= x <= 1 and 0 <= y <= 1):
        raise BadRequest(f"--centre is x,y in per cent, for example 50,50; not {told!r}.")
    return x, y
