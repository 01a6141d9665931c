"""A build held against its last release, from the command line or a build server."""

from __future__ import annotations

import argparse
import json
import time
from collections import Counter
from dataclasses import asdict
from pathlib import Path
from typing import Any

from glenhail.core.cli.measure import check_patches, parse_patch
from glenhail.core.errors import BadFile, NoLineUp
from glenhail.core.files.decoding import read_picture
from glenhail.core.gate.builds import Build, builds_of
from glenhail.core.gate.held import WHOLE, BoundHeld, Outcome, held, untold
from glenhail.core.gate.junit import junit
from glenhail.core.gate.rules import Bound
from glenhail.core.level.way import level_pair


def add_to(commands: Any) -> None:
    """Add gate.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    parser = commands.add_parser(
        "gate", help="a build held against its last release: what may not become worse"
    )
    parser.add_argument("file", type=Path, help="TOML with rules and frames")
    parser.add_argument("--junit", type=Path, metavar="XML", help="for build servers")
    parser.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    parser.set_defaults(run=_gate)


def _gate(options: argparse.Namespace) -> int:
    began = time.monotonic()
    rules, builds = builds_of(options.file.read_text(errors="replace"), options.file)
    found = [one for build in builds for one in _held(rules, build)]
    found += untold(rules, found)
    if options.junit is not None:
        options.junit.write_bytes(junit(found, time.monotonic() - began))
    counts = Counter(one.outcome for one in found)
    passed = counts[Outcome.HELD] == len(found)
    if options.json:
        told = [{**asdict(one), "rule": str(one.rule)} for one in found]
        print(json.dumps({"passed": passed, "found": told}, indent=2))
    else:
        for one in found:
            if one.outcome is not Outcome.HELD:
                print(f"{one.outcome}: {one.rule}, {one.frame}, {one.place}: {one.why}")
        print(", ".join(f"{counts[outcome]} {outcome}" for outcome in Outcome))
    return 0 if passed else 1


def _held(rules: list[Bound], build: Build) -> list[BoundHeld]:
    source, last = read_picture(build.source), read_picture(build.last)
    truth = read_picture(build.truth) if build.truth else None
    patches = [parse_patch(text) for text in build.patches]
    check_patches(patches, source)
    try:
        pair = level_pair(source, read_picture(build.new), last, truth, patches)
    except (NoLineUp, BadFile, OSError) as why:
        # A build that puts out something else, or nothing, is what a gate is for: the other
        # frames go on.
        name = build.source.name
        return [BoundHeld(r, name, WHOLE, Outcome.UNTOLD, why=str(why)) for r in rules]
    return held(rules, build.source.name, pair)
