"""Bodies' sensors out of their raw files, and bodies against each other, from the
command line.
"""

from __future__ import annotations

import argparse
import json
from collections.abc import Collection, Iterable, Sequence
from functools import partial
from pathlib import Path
from typing import Any

from glenhail.core.cli.sensor_lines import lines_of
from glenhail.core.errors import BadFile, BadRequest
from glenhail.core.files.coded import DecoderFailed, Unreadable
from glenhail.core.files.decoding import read_facts
from glenhail.core.files.raw import Mosaic, read_mosaic
from glenhail.core.picture import Rect
from glenhail.core.sensor.comparison import BodyShots, compare
from glenhail.core.sensor.frames import SensorFrame, pairs_of
from glenhail.core.sensor.size import SensorSize
from glenhail.core.sensor.speed import LUMINANCES, T_NUMBERS
from glenhail.core.sensor.told import compared_told, speeds_told

Told = dict[str, Any]


def add_to(commands: Any) -> None:
    """Add sensor.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    sensor = commands.add_parser(
        "sensor",
        help="gain, read noise and range of bodies over ISO, and at spots who is ahead of whom by"
        " how many stops, from two raw files of each exposure",
    )
    sensor.add_argument("files", type=Path, nargs="+", help="of one still scene, or of anything")
    sensor.add_argument(
        "--also",
        type=Path,
        nargs="+",
        default=[],
        metavar="FILE",
        help="dark and flat frames of the same bodies, where spots are read in the scene",
    )
    sensor.add_argument(
        "--body",
        action="append",
        metavar="NAME",
        help="take only files that name it; of several the first is whom others are held against",
    )
    sensor.add_argument(
        "--spot",
        action="append",
        default=[],
        metavar="NAME:x,y,w,h",
        help="in shares of the frame, 0 to 1; the same one of every body",
    )
    sensor.add_argument(
        "--size",
        action="append",
        default=[],
        metavar="NAME:WxH,PXxPX",
        help="a body's sensor in mm and in pixels, for the reasons of an advantage",
    )
    sensor.add_argument(
        "--luminance",
        metavar="SPOT:CD",
        help="of a spot, cd/m², for saturation-based speed (ISO 12232:2019)",
    )
    sensor.add_argument(
        "--t-number", action="append", default=[], metavar="NAME:T", help="of a body's lens"
    )
    sensor.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    sensor.set_defaults(run=_sensor)


def _sensor(options: argparse.Namespace) -> None:
    spots = dict(_spot(text) for text in options.spot)
    if len(spots) < len(options.spot):
        raise BadRequest("--spot: each needs a name of its own.")
    scene, others = _by_body(options.files), _by_body(options.also)
    names = options.body or sorted(scene)
    _check_names(names, scene)
    sizes = dict(_size(text) for text in options.size)
    _check_names(sizes, scene)
    left_out: list[str] = []
    bodies = [
        _body(name, scene, others, tuple(spots.values()), sizes.get(name), left_out)
        for name in names
    ]
    found = {**compared_told(compare(bodies), list(spots)), "spots": list(spots)}
    told = {**found, "left_out": left_out, "speeds": _speeds(options, found)}
    if options.json:
        print(json.dumps(told))
        return
    for line in lines_of(told):
        print(line)


def _by_body(files: Sequence[Path]) -> dict[str, list[SensorFrame]]:
    """Files by the body that they name."""
    found: dict[str, list[SensorFrame]] = {}
    for path in files:
        facts = read_facts(path)
        found.setdefault(facts.camera or "", []).append(
            SensorFrame(path, facts, partial(_mosaic, path))
        )
    return found


def _check_names(names: Iterable[str], known: Collection[str]) -> None:
    """Whether each is a body that the scene's files name."""
    for name in names:
        if name not in known:
            raise BadRequest(f"No file names {name!r}; they name {', '.join(sorted(known))}.")


def _body(
    name: str,
    scene: dict[str, list[SensorFrame]],
    others: dict[str, list[SensorFrame]],
    spots: Sequence[Rect],
    size: SensorSize | None,
    left_out: list[str],
) -> BodyShots:
    pairs, alone = pairs_of(scene[name])
    more, lone = pairs_of(others.get(name, ()))
    left_out += [*alone, *lone]
    if not pairs:
        who = name or "the body, which the files do not name"
        raise BadRequest(f"No two files of {who} have the same exposure. {' '.join(alone)}")
    return BodyShots(name, pairs, more, spots, size)


def _mosaic(path: Path) -> Mosaic:
    try:
        return read_mosaic(path)
    except (Unreadable, DecoderFailed) as error:
        raise BadFile(path.name, str(error), "Give the raw file as the body wrote it.") from error


def _speeds(options: argparse.Namespace, found: Told) -> list[Told]:
    if options.luminance is None:
        return []
    spot, luminance = _number(options.luminance, "--luminance", LUMINANCES, "cd/m²")
    if spot not in found["spots"]:
        raise BadRequest(f"--luminance: no --spot is called {spot!r}.")
    lenses = dict(_number(text, "--t-number", T_NUMBERS, "") for text in options.t_number)
    _check_names(lenses, [b["name"] for b in found["bodies"]])
    return speeds_told(found, found["spots"].index(spot), luminance, lenses)


def _number(text: str, option: str, within: tuple[float, float], unit: str) -> tuple[str, float]:
    name, _, number = text.rpartition(":")
    try:
        value = float(number)
    except ValueError as error:
        raise BadRequest(f"{option} {text!r}: NAME:NUMBER is wanted.") from error
    if not within[0] <= value <= within[1]:
        reach = f"{within[0]:g} to {within[1]:g} {unit}".strip()
        raise BadRequest(f"{option} {text!r}: a number of {reach} is wanted.")
    return name, value


def _size(text: str) -> tuple[str, SensorSize]:
    name, _, told = text.rpartition(":")
    try:
        mm, px = (part.split("x") for part in told.split(","))
        size = SensorSize(float(mm[0]), float(mm[1]), int(px[0]), int(px[1]))
    except (ValueError, IndexError) as error:
        raise BadRequest(f"--size {text!r}: NAME:36x24,6000x4000 is wanted, mm and px.") from error
    if min(size.width_mm, size.height_mm, size.width, size.height) <= 0:
        raise BadRequest(f"--size {text!r}: a sensor is larger than nothing.")
    return name, size


def _spot(text: str) -> tuple[str, Rect]:
    name, _, place = text.rpartition(":")
    try:
        x, y, w, h = (float(v) for v in place.split(","))
    except ValueError as error:
        raise BadRequest(
            f"--spot {text!r}: NAME:x,y,w,h is wanted, in shares of 0 to 1."
        ) from error
    if not (0 <= x < x + w <= 1 and 0 <= y < y + h <= 1):
        raise BadRequest(f"--spot {text!r} does not lie on the frame. Give shares of 0 to 1.")
    return name, Rect(x, y, w, h)
