"""``python -m glenhail.demo.files FOLDER``: the sample files, made while the database is being set up."""

from __future__ import annotations

import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from glenhail.demo.frames import SAMPLES, make_sample, make_small_print

DENOISERS = ("sedgewash", "keenfold", "mossgate")


def output_name(key: str, tool: str) -> str:
    """What a tool's output of a sample is called; Mossgate exports PNG."""
    return f"{key}-{tool}.{'png' if tool == 'mossgate' else 'tif'}"


def make_files(folder: Path) -> None:
    """Frames, truths and every tool's outputs, two at a time; what is there already is left alone."""
    folder.mkdir(parents=True, exist_ok=True)
    make_small_print(folder)
    with ThreadPoolExecutor(max_workers=2) as pool:
        list(pool.map(lambda s: make_sample(s, folder), SAMPLES))
        list(pool.map(lambda batch: _run_tool(*batch), _batches(folder)))


def _batches(folder: Path) -> list[tuple[str, list[Path]]]:
    """What each tool is given: pairs of input and output that are not there yet."""
    batches = []
    for tool in DENOISERS:
        batches.append((tool, [(folder / s.frame_file, folder / output_name(s.key, tool)) for s in SAMPLES]))
    batches.append(("tarnlift", [(folder / "archive-print.tif", folder / "archive-print-tarnlift-2x.tif")]))
    return [(tool, [path for pair in pairs if not pair[1].exists() for path in pair]) for tool, pairs in batches]


def _run_tool(tool: str, files: list[Path]) -> None:
    if files:
        command = [sys.executable, "-m", f"glenhail.standins.{tool}", *map(str, files)]
        subprocess.run(command, check=True, stdout=subprocess.DEVNULL)


if __name__ == "__main__":
    make_files(Path(sys.argv[1]))
