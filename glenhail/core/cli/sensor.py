"""A body's sensor out of its raw files, from the command line."""

from __future__ import annotations

import argparse
import json
from collections.abc import Sequence
from dataclasses import asdict
from functools import partial
from pathlib import Path
from typing import Any

from glenhail.core.errors import BadFile, BadRequest
from glenhail.core.files.coded import DecoderFailed, Unreadable
from glenhail.core.files.decoding import read_facts
from glenhail.core.files.raw import Mosaic, read_mosaic
from glenhail.core.interval import Interval
from glenhail.core.sensor import stages
from glenhail.core.sensor.frames import SensorFrame, pairs_of
from glenhail.core.sensor.series import IsoFacts, sensor_series


def add_to(commands: Any) -> None:
    """Add sensor.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    sensor = commands.add_parser(
        "sensor",
        help="gain, read noise and range of a body over ISO, from two raw files of each exposure",
    )
    sensor.add_argument("--body", help="take only files that name this body")
    sensor.add_argument("files", type=Path, nargs="+")
    sensor.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    sensor.set_defaults(run=_sensor)


def _sensor(options: argparse.Namespace) -> None:
    frames = raw_frames(options.files, options.body)
    pairs, alone = pairs_of(frames)
    if not pairs:
        raise BadRequest(f"No two files have the same exposure. {' '.join(alone)}")
    found = sensor_series(pairs)
    noise = [
        stages.ReadNoiseAt(f.iso, f.transfer.read_noise) for f in found if f.transfer.read_noise
    ]
    if options.json:
        told = {
            "body": frames[0].facts.camera,
            "left_out": alone,
            "isos": [asdict(f) for f in found],
            "stages": [asdict(step) for step in stages.gain_steps(noise)],
            "nothing_gained_from": stages.nothing_gained_from(noise),
        }
        print(json.dumps(told))
        return
    print(frames[0].facts.camera)
    for facts in found:
        print(_line(facts))
    print(stages.told(noise))
    for words in alone:
        print(f"left out: {words}")


def raw_frames(files: Sequence[Path], body: str | None) -> list[SensorFrame]:
    """Raw files of one body.

    Parameters
    ----------
    files : sequence of Path
        The files.
    body : str or None
        Whose are wanted; None where all are of one.

    Raises
    ------
    BadRequest
        If no file is of that body, or they are of several and none was chosen.
    """
    frames = [SensorFrame(path, read_facts(path), partial(_mosaic, path)) for path in files]
    bodies = sorted({f.facts.camera or "" for f in frames})
    if body is None and len(bodies) > 1:
        raise BadRequest(f"The files are of {', '.join(bodies)}. Give those of one body.")
    wanted = [f for f in frames if body is None or f.facts.camera == body]
    if not wanted:
        raise BadRequest(f"No file names {body!r}; they name {', '.join(bodies)}.")
    return wanted


def _mosaic(path: Path) -> Mosaic:
    try:
        return read_mosaic(path)
    except (Unreadable, DecoderFailed) as error:
        raise BadFile(path.name, str(error), "Give the raw file as the body wrote it.") from error


def _line(facts: IsoFacts) -> str:
    t = facts.transfer
    one = facts.ranges.one
    ev = "" if one is None else f", {one.value:.1f} EV a pixel"
    told = (
        f"ISO {facts.iso:,.0f}: gain {_told(t.gain, 'codes an electron')}, read noise"
        f" {_told(t.read_noise, 'electrons')}, top {_told(facts.top, 'electrons', 0)}{ev}"
    )
    p = facts.pattern
    if p.response:
        told += f"; response uneven by {100 * p.response.value:.2f} %"
    if p.dark:
        told += (
            f"; dark pattern {_told(p.dark, 'electrons')}, hot pixels {1e6 * (p.hot or 0):.0f} ppm"
        )
    return ". ".join([told, *filter(None, [t.reason]), *facts.doubts])


def _told(found: Interval | None, unit: str, digits: int = 3) -> str:
    if found is None:
        return "not known"
    return f"{found.value:.{digits}f} {unit} ({found.low:.{digits}f} to {found.high:.{digits}f})"
