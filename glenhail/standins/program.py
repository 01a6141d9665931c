"""What every stand-in tool shares: its command line, and timings told on standard
output as JSON, a line for each file.
"""

from __future__ import annotations

import argparse
import json
import sys
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path

from glenhail.core.errors import CoreError
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_png, write_tiff
from glenhail.core.picture import Floats, Picture

Export = Callable[[Path, Floats], None]


class Refused(Exception):
    """The tool can not do what it was asked; ``code`` is what it ends with."""

    def __init__(self, words: str, code: int = 3) -> None:
        super().__init__(words)
        self.code = code


def plain_export(path: Path, made: Floats) -> None:
    """16-bit TIFF or PNG, sRGB, by the ending."""
    if path.suffix == ".png":
        write_png(path, made)
    else:
        write_tiff(path, made)


@dataclass(frozen=True)
class Tool:
    """A made-up program. ``settle`` does what it does while a file opens."""

    name: str
    modes: tuple[str, ...]
    work: Callable[[Floats, argparse.Namespace], Floats]
    check: Callable[[Picture, argparse.Namespace], None] = lambda picture, options: None
    settle: Callable[[Picture], None] = lambda picture: None
    export: Export = plain_export


def run(tool: Tool, arguments: Sequence[str] | None = None) -> int:
    """Work through pairs of INPUT and OUTPUT (TIFF or PNG by its ending); tell each
    one's three timings.
    """
    parser = argparse.ArgumentParser(prog=tool.name)
    parser.add_argument("files", type=Path, nargs="+", metavar="INPUT OUTPUT")
    parser.add_argument("--release", default="", help="which release to be")
    parser.add_argument("--mode", choices=tool.modes, default=tool.modes[0])
    parser.add_argument("--strength", type=float, default=60, help="0 to 100")
    parser.add_argument(
        "--scale", type=float, default=2, help="enlargement, for tools that enlarge"
    )
    parser.add_argument("--detail", type=float, default=30, help="0 to 100, for tools that have it")
    options = parser.parse_args(arguments)
    if len(options.files) % 2:
        parser.error("every INPUT needs its OUTPUT")
    try:
        for source, target in zip(options.files[::2], options.files[1::2], strict=True):
            print(json.dumps(_one(source, target, tool, options)), flush=True)
    except (CoreError, OSError) as error:
        print(f"{tool.name}: {error}", file=sys.stderr)
        return 2
    except Refused as why:
        print(f"{tool.name}: {why}", file=sys.stderr)
        return why.code
    return 0


def _one(source: Path, target: Path, tool: Tool, options: argparse.Namespace) -> dict[str, float]:
    times = [time.perf_counter()]
    picture = read_picture(source)
    tool.check(picture, options)
    tool.settle(picture)
    times.append(time.perf_counter())
    print(json.dumps({"progress": 0.3}), flush=True)
    made = tool.work(picture.pixels, options)
    times.append(time.perf_counter())
    print(json.dumps({"progress": 0.8}), flush=True)
    # Written beside its place and moved there, so that a broken-off run leaves no half file.
    unfinished = target.with_name(f"unfinished-{target.name}")
    tool.export(unfinished, made)
    unfinished.replace(target)
    times.append(time.perf_counter())
    return {
        k: round(b - a, 3)
        for k, (a, b) in zip(("load_s", "process_s", "export_s"), pairwise(times), strict=True)
    }
