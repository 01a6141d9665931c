"""A study carried out again from its plan, without a server."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import Any

from glenhail.core.errors import BadFile, BadRequest
from glenhail.core.execution.fence import Fence, why_open
from glenhail.core.execution.treatment import Workshop
from glenhail.core.plans.compared import held_against
from glenhail.core.plans.plan import Plan, own_versions, plan_of
from glenhail.core.plans.report import write_results
from glenhail.core.plans.study import carry_out, find_frames

MOST = 40


def add_to(commands: Any) -> None:
    """Add study.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    parser = commands.add_parser("study", help="carry a study's plan out again")
    parser.add_argument("plan", type=Path, help="a plan as a bench exports it, TOML")
    parser.add_argument(
        "--frames",
        type=Path,
        action="append",
        default=[],
        help="a folder with its pictures, whatever they are called; the plan's own else",
    )
    parser.add_argument("--tools", type=Path, default=Path("tools"), help="folder of programs")
    parser.add_argument("--out", type=Path, required=True, help="an empty folder for results")
    parser.add_argument("--against", type=Path, help="a published readings.csv to compare with")
    parser.add_argument(
        "--allow-missing", action="store_true", help="go on though some pictures are missing"
    )
    parser.set_defaults(run=_study)


def _study(options: argparse.Namespace) -> int:
    plan = plan_of(_text(options.plan), options.plan.name)
    if not plan.frames:
        raise BadFile(
            options.plan.name,
            "it is a method without frames",
            "Import it on a bench, and give its study frames there.",
        )
    against = _text(options.against) if options.against else ""
    options.out.mkdir(parents=True, exist_ok=True)
    if any(options.out.iterdir()):
        raise BadRequest(f"{options.out} is not empty. Name an empty folder for the results.")
    folders = options.frames or [options.plan.parent]
    files = [p for folder in folders for p in sorted(folder.rglob("*")) if p.is_file()]
    found = find_frames(plan, files, _say)
    for name in found.missing:
        print(f"missing: {name}")
    if found.missing and not options.allow_missing:
        raise BadRequest(
            f"{len(found.missing)} of the plan's pictures are in none of the folders. Name more"
            " with --frames, or go on without them with --allow-missing."
        )
    _warn_of_versions(plan)
    workshop = Workshop(options.tools.resolve(), _fences(options.tools.resolve()))
    carried = carry_out(plan, found, options.out, workshop, _say)
    write_results(plan, found, carried, options.out, _say)
    for (at, letter), why in carried.absent.items():
        print(f"no output: {letter} of {plan.frames[at].name}: {why}")
    numbers = sum(t.reading.value is not None for t in carried.readings)
    print(f"{len(carried.outputs)} outputs, {numbers} readings in {options.out}")
    if not options.against:
        return 1 if carried.absent else 0
    held = held_against(plan, carried.readings, against)
    for words in held.differing[:MOST]:
        print(f"differing: {words}")
    for words in held.only_there[:MOST]:
        print(f"not taken here: {words}")
    print(
        f"{held.equal} equal, {len(held.differing)} differing, {len(held.only_there)} not taken"
        f" here, {held.only_here} not told there"
    )
    return 1 if held.differing or held.only_there else 0


def _text(path: Path) -> str:
    try:
        return path.read_text("utf-8")
    except UnicodeDecodeError as error:
        raise BadFile(path.name, "it is no text", "Name the file as it was exported.") from error


def _say(words: str) -> None:
    print(words, file=sys.stderr)


def _warn_of_versions(plan: Plan) -> None:
    own = own_versions()
    for name, version in plan.measures.items():
        if own.get(name) != version:
            here = own.get(name, "none")
            print(f"measure {name}: version {version} in the plan, {here} here")


def _fences(programs: Path) -> Any:
    """Programs see their own folder and the programs alone, where the machine can do
    that.
    """

    def fence(run: Path, network: bool) -> Fence | None:
        return None if why_open() else Fence(run, programs, (), network)

    return fence
