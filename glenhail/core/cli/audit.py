"""What an output does not keep to, from the command line."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from glenhail.core.audit.between import audit
from glenhail.core.audit.entrants import AuditedFile, Entrant
from glenhail.core.audit.examine import FRAME, Examination, examine
from glenhail.core.audit.finding import Finding
from glenhail.core.audit.output_rule import AuditedOutput
from glenhail.core.errors import BadRequest, NoLineUp
from glenhail.core.files.decoding import read_picture
from glenhail.core.lineup.aligned import aligned
from glenhail.core.lineup.register import identical, line_up
from glenhail.core.picture import Picture

WORKS = ("denoise", "sharpen", "enlarge")


def add_to(commands: Any) -> None:
    """Add audit.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    parser = commands.add_parser(
        "audit", help="what of an output, besides what is tested, differs from its source"
    )
    parser.add_argument("source", type=Path)
    parser.add_argument("output", type=Path)
    parser.add_argument(
        "--works", default="", metavar="WORK,WORK", help=f"what the tool is for: {', '.join(WORKS)}"
    )
    parser.add_argument("--times", type=float, help="the enlargement that was asked for")
    parser.add_argument(
        "--json", action="store_true", help="one JSON object with every number instead of lines"
    )
    parser.set_defaults(run=_audit)


def _audit(options: argparse.Namespace) -> None:
    works = frozenset(w for w in options.works.split(",") if w)
    if unknown := works - set(WORKS):
        raise BadRequest(f"--works {', '.join(sorted(unknown))}: choose among {', '.join(WORKS)}.")
    source, output = read_picture(options.source), read_picture(options.output)
    seen = _seen(source, output, works, options.times)
    frame = Entrant(0, [_made(source, AuditedOutput(source.width, source.height))], baseline=True)
    found = audit([frame, Entrant(1, [_made(output, seen)])], "tool")
    if options.json:
        told = {"examination": seen.examination.as_json(), "findings": [_told(f) for f in found]}
        print(json.dumps(told, indent=2))
    else:
        print("\n".join(_line(f) for f in found) or "like for like")


def _seen(
    source: Picture, output: Picture, works: frozenset[str], times: float | None
) -> AuditedOutput:
    try:
        found = line_up(source, output)
    except NoLineUp as why:
        return AuditedOutput(output.width, output.height, refused=str(why), works=works)
    # The same pixels need no examining.
    same = found == identical(source)
    examination = Examination(pixels=FRAME) if same else examine(source, aligned(output, found))
    return AuditedOutput(
        output.width,
        output.height,
        found.mapping,
        found.border,
        found.residual,
        "",
        found.doubts,
        examination,
        times,
        works,
    )


def _made(picture: Picture, seen: AuditedOutput) -> AuditedFile:
    f = picture.facts
    return AuditedFile(0, seen, f.bits, f.profile, f.profile_assumed, f.compression, f.format)


def _told(finding: Finding) -> dict[str, Any]:
    rule = {k: v for k, v in asdict(finding.rule).items() if k != "remedies"}
    return {
        "rule": rule,
        "weight": finding.weight,
        "amount": finding.worst.amount,
        "words": finding.worst.words,
    }


def _line(finding: Finding) -> str:
    return (
        f"{finding.weight:9} {finding.rule.title}: {finding.worst.words} (tolerance"
        f" {finding.rule.tolerance})"
    )
