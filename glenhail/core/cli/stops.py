"""Two bodies against each other over ISO, from the command line."""

from __future__ import annotations

import argparse
import json
from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path
from typing import Any

from glenhail.core.cli.sensor import raw_frames
from glenhail.core.errors import BadRequest
from glenhail.core.picture import Rect
from glenhail.core.sensor.frames import pairs_of
from glenhail.core.sensor.spots import SpotCurve, differing, spot_curve
from glenhail.core.sensor.stops import stops_ahead, told

LEAST_ISOS = 2


def add_to(commands: Any) -> None:
    """Add stops.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    stops = commands.add_parser(
        "stops", help="by how many stops one body is ahead of another at spots of one scene"
    )
    for name in ("one", "other"):
        stops.add_argument(
            f"--{name}",
            type=Path,
            nargs="+",
            required=True,
            metavar="FILE",
            help="two raw files of each exposure of a body",
        )
    stops.add_argument(
        "--spot",
        action="append",
        required=True,
        metavar="NAME:x,y,w,h",
        help="in shares of the frame, 0 to 1",
    )
    stops.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    stops.set_defaults(run=_stops)


def _stops(options: argparse.Namespace) -> None:
    bodies = [_body(files) for files in (options.one, options.other)]
    names = (bodies[0][0], bodies[1][0])
    whole = []
    for name, rect in (_spot(text) for text in options.spot):
        one, other = (spot_curve(pairs, rect) for _, pairs in bodies)
        _check(one, other, names)
        ahead = stops_ahead(one.curve, other.curve)
        notes = [*one.left_out, *other.left_out, *differing(one, other)]
        words = told(ahead, names)
        if options.json:
            curves = {"one": asdict(one.curve), "other": asdict(other.curve)}
            steps = [asdict(a) for a in ahead]
            whole.append({"spot": name, "said": words, "stops": steps, "notes": notes} | curves)
            continue
        print(f"{name}: {words}")
        for a in ahead:
            s = a.stops
            print(f"  ISO {a.iso:,.0f}: {s.value:+.2f} stops ({s.low:+.2f} to {s.high:+.2f})")
        for note in notes:
            print(f"  {note}")
    if options.json:
        print(json.dumps({"one": names[0], "other": names[1], "spots": whole}))


def _body(files: Sequence[Path]) -> tuple[str, Any]:
    frames = raw_frames(files, None)
    pairs, alone = pairs_of(frames)
    if not pairs:
        raise BadRequest(f"No two files have the same exposure. {' '.join(alone)}")
    return frames[0].facts.camera or "a body that names itself not", pairs


def _check(one: SpotCurve, other: SpotCurve, names: tuple[str, str]) -> None:
    for curve, name in ((one, names[0]), (other, names[1])):
        if len(curve.curve.iso) < LEAST_ISOS:
            raise BadRequest(
                f"{name} has readings at {len(curve.curve.iso)} ISO values, and a curve takes"
                f" {LEAST_ISOS}. {' '.join(curve.left_out)}"
            )


def _spot(text: str) -> tuple[str, Rect]:
    name, _, place = text.partition(":")
    try:
        x, y, w, h = (float(v) for v in place.split(","))
    except ValueError as error:
        raise BadRequest(
            f"--spot {text!r}: NAME:x,y,w,h is wanted, in shares of 0 to 1."
        ) from error
    if not (0 <= x < x + w <= 1 and 0 <= y < y + h <= 1):
        raise BadRequest(f"--spot {text!r} does not lie on the frame. Give shares of 0 to 1.")
    return name, Rect(x, y, w, h)
