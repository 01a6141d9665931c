"""The core's command line: facts, line-up, readings and truths for scripts, without the
server.
"""

from __future__ import annotations

import argparse
import sys
from collections.abc import Sequence

from glenhail.core.cli import (
    answers,
    audit,
    gate,
    match,
    measure,
    orders,
    sensor,
    series,
    study,
    targets,
    treat,
    truths,
    uses,
    verify,
    visible,
)
from glenhail.core.errors import CoreError


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one subcommand; returns the exit status: 0, 1 where something is not as it
    says, or 2 for bad input.

    Parameters
    ----------
    arguments : sequence of str, optional
        What stands after the program's name; the process's own else.
    """
    options = _parser().parse_args(arguments)
    try:
        return int(options.run(options) or 0)
    except (CoreError, OSError) as error:
        print(f"glenhail: {_text(error)}", file=sys.stderr)
        return 2


def _text(error: Exception) -> str:
    if isinstance(error, OSError):
        return f"{error.filename}: {error.strerror}. Check the path and that you may read it."
    return str(error)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="python -m glenhail.core", description=__doc__)
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for group in (
        measure,
        audit,
        answers,
        truths,
        targets,
        sensor,
        series,
        orders,
        treat,
        uses,
        match,
        visible,
        gate,
        verify,
        study,
    ):
        group.add_to(commands)
    return parser


if __name__ == "__main__":
    sys.exit(main())
