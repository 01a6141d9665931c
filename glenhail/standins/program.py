"""What every stand-in tool shares: its command line, and timings told on standard output as JSON."""

from __future__ import annotations

import argparse
import json
import sys
import time
from collections.abc import Callable, Sequence
from itertools import pairwise
from pathlib import Path

from glenhail.core.errors import CoreError
from glenhail.core.files.reading import read_picture
from glenhail.core.files.writing import write_png, write_tiff
from glenhail.core.picture import Floats

Work = Callable[[Floats, argparse.Namespace], Floats]


def run(name: str, work: Work, bits: int = 16, arguments: Sequence[str] | None = None) -> int:
    """Work through pairs of INPUT and OUTPUT (TIFF or PNG by its ending); tell each one's three timings."""
    parser = argparse.ArgumentParser(prog=name)
    parser.add_argument("files", type=Path, nargs="+", metavar="INPUT OUTPUT")
    parser.add_argument("--strength", type=float, default=60, help="0 to 100")
    parser.add_argument("--scale", type=float, default=2, help="enlargement, for tools that enlarge")
    options = parser.parse_args(arguments)
    if len(options.files) % 2:
        parser.error("every INPUT needs its OUTPUT")
    try:
        for source, target in zip(options.files[::2], options.files[1::2], strict=True):
            print(json.dumps(_one(source, target, work, bits, options)), flush=True)
    except (CoreError, OSError) as error:
        print(f"{name}: {error}", file=sys.stderr)
        return 2
    return 0


def _one(source: Path, target: Path, work: Work, bits: int, options: argparse.Namespace) -> dict[str, float]:
    times = [time.perf_counter()]
    pixels = read_picture(source).pixels
    times.append(time.perf_counter())
    made = work(pixels, options)
    times.append(time.perf_counter())
    # Written beside its place and moved there, so that a broken-off run leaves no half file.
    unfinished = target.with_name(f"unfinished-{target.name}")
    if target.suffix == ".png":
        write_png(unfinished, made, bits)
    else:
        write_tiff(unfinished, made, bits=bits)
    unfinished.replace(target)
    times.append(time.perf_counter())
    return {k: round(b - a, 3) for k, (a, b) in zip(("load_s", "process_s", "export_s"), pairwise(times), strict=True)}
