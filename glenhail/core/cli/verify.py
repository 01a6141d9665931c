"""Whether a published edition says what its own files say."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from glenhail.core.checking.bundle import Bundle
from glenhail.core.checking.checks import DIFFERS, EQUAL, UNCHECKED, counts, passes
from glenhail.core.checking.verify import verify
from glenhail.core.errors import BadFile

MOST = 40


def add_to(commands: Any) -> None:
    """Add verify.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    parser = commands.add_parser("verify", help="an edition held against its own files")
    parser.add_argument("bundle", type=Path, help="the ZIP that an edition offers")
    parser.add_argument(
        "--allow-missing", action="store_true", help="pass though some can not be checked"
    )
    parser.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    parser.set_defaults(run=_verify)


def _verify(options: argparse.Namespace) -> int:
    with Bundle(options.bundle) as bundle:
        try:
            found = list(verify(bundle))
        except (KeyError, IndexError, TypeError, AttributeError, ValueError) as error:
            raise BadFile(
                options.bundle.name,
                f"what it tells is not all there, or not of its form ({error!r})",
                "Fetch the bundle again; if it stays so, it was changed.",
            ) from error
    told = counts(found)
    passed = passes(found, options.allow_missing)
    if options.json:
        kept = [asdict(c) for c in found if c.state != EQUAL]
        print(json.dumps({"counts": told, "passed": passed, "others": kept}, indent=2))
    else:
        for state in (DIFFERS, UNCHECKED):
            those = [c for c in found if c.state == state]
            for c in those[:MOST]:
                print(f"{state}: {c.kind}, {c.what}: {c.why}")
            if len(those) > MOST:
                print(f"{state}: {len(those) - MOST} more")
        print(", ".join(f"{n} {state}" for state, n in told.items()))
    return 0 if passed else 1
