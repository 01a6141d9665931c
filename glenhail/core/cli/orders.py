"""The same built-in steps in every order on one frame, from the command line."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import TakenReading
from glenhail.core.answers.orders import ASKED, OrderPair, order_groups, order_pair
from glenhail.core.assess import assess
from glenhail.core.cli.given import json_of
from glenhail.core.cli.measure import check_patches, parse_patch
from glenhail.core.errors import BadRequest
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.measures.catalogue import Patch
from glenhail.core.methods.catalogue import method_of
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Picture
from glenhail.core.treatments.family import orders
from glenhail.core.treatments.step import Setting, Step, Treatment

LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWX"


def add_to(commands: Any) -> None:
    """Add orders.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    parser = commands.add_parser("orders", help="the same steps in every order: does it matter?")
    parser.add_argument("frame", type=Path)
    parser.add_argument(
        "--step",
        action="append",
        required=True,
        metavar="METHOD[:VALUES]",
        help='a built-in method, with its settings as JSON: gaussian:{"luma": 2}',
    )
    parser.add_argument("--truth", type=Path)
    parser.add_argument(
        "--patch",
        action="append",
        required=True,
        metavar="NAME:ROLE:x,y,w,h",
        help="where orders are held against each other, frame px",
    )
    parser.add_argument(
        "--out", type=Path, help="a folder for each order's output, and what lies between"
    )
    parser.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    parser.set_defaults(run=_orders)


def _orders(options: argparse.Namespace) -> None:
    frame = read_picture(options.frame)
    truth = read_picture(options.truth) if options.truth else None
    patches = [parse_patch(text) for text in options.patch]
    check_patches(patches, frame)
    treatments = orders(Treatment(tuple(_step(text) for text in options.step)))
    named = dict(zip(LETTERS, treatments, strict=False))
    places = {p.name: Place(p.name, p.role, p.name, options.frame.name) for p in patches}
    board = Board([Column(letter) for letter in named], places)
    for letter, treatment in named.items():
        made = _made(frame, treatment, letter, options.out)
        _put(board, letter, frame, made, truth, patches)
    groups = order_groups(named)
    if not groups:
        raise BadRequest("These steps are all alike: every order is the same.")
    first, *others = groups[0].members
    pairs = [order_pair(board, first, other) for other in others]
    if options.json:
        print(json.dumps({"orders": dict(groups[0].members), "pairs": [asdict(p) for p in pairs]}))
        return
    for pair in pairs:
        print(pair.said)
        print("\n".join(_lines(pair)))


def _step(text: str) -> Step:
    name, _, values = text.partition(":")
    method = method_of(name.strip())
    told = json_of(values or "{}", '{"luma": 2}')
    settings = tuple(Setting(k, v) for k, v in told.items())
    return Step(method.title, settings=settings, method=method.id)


def _made(frame: Picture, treatment: Treatment, letter: str, out: Path | None) -> Picture:
    pixels = frame.pixels
    for at, step in enumerate(treatment.steps, 1):
        pixels = treat(pixels, step.method, {s.name: s.value for s in step.settings})
        if out is not None:
            out.mkdir(parents=True, exist_ok=True)
            write_tiff(out / f"{letter}-{at}-{step.method}.tif", pixels)
    return Picture(pixels, frame.facts)


def _put(
    board: Board,
    letter: str,
    frame: Picture,
    made: Picture,
    truth: Picture | None,
    patches: list[Patch],
) -> None:
    found = assess(frame, made, truth, patches, ASKED).readings
    for number, reading in enumerate(found):
        if reading.value is None or not reading.patch:
            continue
        value = reading.value
        low, high = (value if end is None else end for end in (reading.low, reading.high))
        taken = TakenReading(value, low, high, tuple(reading.parts))
        board.put(reading.measure, reading.patch, letter, Cell(number, taken))


def _lines(pair: OrderPair) -> list[str]:
    return [
        f"  {p.place}, {p.measure}: {p.one:.3g} against {p.other:.3g}: {p.answer}"
        for p in pair.places
    ]
