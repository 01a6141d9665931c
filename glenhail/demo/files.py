"""``python -m glenhail.demo.files FOLDER``: the sample files, made while the database is being set up."""

from __future__ import annotations

import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from glenhail.demo.frames import make_baseline, make_sample, make_small_print
from glenhail.demo.samples import DYE_SHED, GAUGE_WALL, LOOM_TABLE, SAMPLES, Sample

DENOISERS = ("sedgewash", "keenfold", "mossgate")
BASELINE_ON = (LOOM_TABLE, GAUGE_WALL, DYE_SHED)


def output_name(sample: Sample, tool: str) -> str:
    """What a tool's output of a sample is called; Mossgate exports PNG."""
    return f"{sample.key}-{tool}.{'png' if tool == 'mossgate' else 'tif'}"


def make_files(folder: Path) -> None:
    """Frames, truths and every tool's outputs, two at a time, in the order the studies ask for them."""
    folder.mkdir(parents=True, exist_ok=True)
    with ThreadPoolExecutor(max_workers=2) as pool:
        list(pool.map(lambda work: work(), [lambda s=s: _make_all(s, folder) for s in SAMPLES] + [lambda: _make_prints(folder)]))


def _make_all(sample: Sample, folder: Path) -> None:
    make_sample(sample, folder)
    source = folder / sample.frame_file
    for tool in DENOISERS:
        _run_tool(tool, source, folder / output_name(sample, tool))
    target = folder / output_name(sample, "guided")
    if sample in BASELINE_ON and not target.exists():
        make_baseline(source, target)


def _make_prints(folder: Path) -> None:
    make_small_print(folder)
    _run_tool("tarnlift", folder / "archive-print.jpg", folder / "archive-print-tarnlift-2x.tif")


def _run_tool(tool: str, source: Path, target: Path) -> None:
    """A stand-in is a program of its own, as a real tool would be; what it made already is left alone."""
    if not target.exists():
        command = [sys.executable, "-m", f"glenhail.standins.{tool}", str(source), str(target)]
        subprocess.run(command, check=True, stdout=subprocess.DEVNULL)


if __name__ == "__main__":
    make_files(Path(sys.argv[1]))
