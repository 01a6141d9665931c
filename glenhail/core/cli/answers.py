"""Answers about several outputs of one frame, and patches that a frame suggests, from
the command line.
"""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import TakenReading
from glenhail.core.answers.sentences import Sentence, findings
from glenhail.core.assess import assess
from glenhail.core.cli.measure import check_patches, parse_patch
from glenhail.core.errors import BadRequest
from glenhail.core.files.decoding import read_picture
from glenhail.core.measures.catalogue import MEASURES, Patch
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.suggested_patches import Suggestion, suggest
from glenhail.core.picture import Picture

UNPROCESSED = "U"


def add_to(commands: Any) -> None:
    """Add compare and suggest.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    compare = commands.add_parser(
        "compare", help="several outputs of one source: what each does, and who wins where"
    )
    compare.add_argument("--source", type=Path, required=True)
    compare.add_argument("--truth", type=Path)
    compare.add_argument(
        "--output",
        action="append",
        required=True,
        metavar="NAME=FILE",
        help="one for each contender",
    )
    compare.add_argument(
        "--patch", action="append", default=[], metavar="NAME:ROLE:x,y,w,h", help="in source pixels"
    )
    compare.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    compare.set_defaults(run=_compare)
    suggested = commands.add_parser(
        "suggest", help="patches of a picture that are worth measuring, each with the reason"
    )
    suggested.add_argument("file", type=Path)
    suggested.add_argument("--json", action="store_true", help="one JSON list instead of lines")
    suggested.set_defaults(run=_suggest)


def _compare(options: argparse.Namespace) -> None:
    outputs = dict(_named(text) for text in options.output)
    if len(outputs) < len(options.output) or UNPROCESSED in outputs:
        raise BadRequest(
            f"--output: each needs a name of its own, and {UNPROCESSED} is the source itself."
        )
    source, truth = (
        read_picture(options.source),
        read_picture(options.truth) if options.truth else None,
    )
    patches = [parse_patch(text) for text in options.patch]
    check_patches(patches, source)
    board = _board(source, truth, outputs, patches)
    sentences = [s for name in outputs for s in findings(board, name)]
    tallies = [
        {"measure": m, "one": one, "other": other, **asdict(found)}
        for m in MEASURES
        for one in outputs
        for other in (UNPROCESSED, *outputs)
        if one != other and (found := board.against(m, one, other)) is not None
    ]
    if options.json:
        told = [
            {"name": s.letter, "text": s.text, "tone": s.tone, "measure": s.measure}
            for s in sentences
        ]
        print(json.dumps({"findings": told, "standings": tallies}, indent=2))
        return
    print("\n".join(_line(s) for s in sentences))
    for t in tallies:
        print(
            f"{t['one']:10} against {t['other']:10} {t['measure']:16} {t['answer']} ({t['same']} of"
            f" {t['places']})"
        )


def _named(text: str) -> tuple[str, Path]:
    name, equals, file = text.partition("=")
    if not (name and equals and file):
        raise BadRequest(f"--output {text!r}: write it as NAME=FILE")
    return name, Path(file)


def _board(
    source: Picture, truth: Picture | None, outputs: dict[str, Path], patches: list[Patch]
) -> Board:
    places = {p.name: Place(p.name, p.role, p.name, source.facts.name) for p in patches}
    whole = Place("", "", "Whole frame", source.facts.name)
    board = Board(
        [Column(UNPROCESSED, unprocessed=True), *(Column(name) for name in outputs)],
        {"": whole, **places},
    )
    number = 0
    for name, file in ((UNPROCESSED, None), *outputs.items()):
        for reading in assess(
            source, read_picture(file) if file else None, truth, patches
        ).readings:
            if reading.value is not None:
                number += 1
                board.put(reading.measure, reading.patch or "", name, Cell(number, _taken(reading)))
    return board


def _taken(reading: Reading) -> TakenReading:
    value = reading.value or 0.0
    low, high = (value if bound is None else bound for bound in (reading.low, reading.high))
    return TakenReading(value, low, high, reading.parts)


def _line(sentence: Sentence) -> str:
    mark = {"good": "+", "bad": "-"}.get(sentence.tone, " ")
    return f"{sentence.letter:10} {mark} {sentence.text}"


def _suggest(options: argparse.Namespace) -> None:
    found = suggest(read_picture(options.file))
    print(
        json.dumps([asdict(s) for s in found], indent=2)
        if options.json
        else "\n".join(_suggestion(s) for s in found)
    )


def _suggestion(s: Suggestion) -> str:
    r = s.rect
    return f"{s.role}:{r.x:g},{r.y:g},{r.w:g},{r.h:g}  {s.reason}"
