"""What every stand-in tool shares: its command line, and timings told on standard output as JSON."""

from __future__ import annotations

import argparse
import json
import sys
import time
from collections.abc import Callable, Sequence
from pathlib import Path

from glenhail.core.errors import CoreError
from glenhail.core.files.reading import read_picture
from glenhail.core.files.writing import write_png, write_tiff
from glenhail.core.picture import Floats

Work = Callable[[Floats, argparse.Namespace], Floats]


def run(name: str, work: Work, bits: int = 16, arguments: Sequence[str] | None = None) -> int:
    """Read INPUT, work on it, write OUTPUT (by its ending TIFF or PNG), tell the three timings."""
    parser = argparse.ArgumentParser(prog=name)
    parser.add_argument("input", type=Path)
    parser.add_argument("output", type=Path)
    parser.add_argument("--strength", type=float, default=60, help="0 to 100")
    parser.add_argument("--scale", type=float, default=2, help="enlargement, for tools that enlarge")
    options = parser.parse_args(arguments)
    times = [time.perf_counter()]
    try:
        source = read_picture(options.input).pixels
    except (CoreError, OSError) as error:
        print(f"{name}: {error}", file=sys.stderr)
        return 2
    times.append(time.perf_counter())
    made = work(source, options)
    times.append(time.perf_counter())
    if options.output.suffix == ".png":
        write_png(options.output, made, bits)
    else:
        write_tiff(options.output, made, bits=bits)
    times.append(time.perf_counter())
    stages = ("load_s", "process_s", "export_s")
    print(json.dumps({k: round(b - a, 3) for k, a, b in zip(stages, times, times[1:], strict=False)}))
    return 0
