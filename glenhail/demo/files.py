"""``python -m glenhail.demo.files FOLDER``: the sample files, made while the database
is being set up.
"""

from __future__ import annotations

import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from glenhail.demo.frames import make_baseline, make_sample, make_small_print
from glenhail.demo.samples import DYE_SHED, GAUGE_WALL, LOOM_TABLE, NIGHT_YARD, SAMPLES, Sample

DENOISERS = ("sedgewash", "keenfold", "mossgate")
BASELINE_ON = (LOOM_TABLE, GAUGE_WALL, DYE_SHED)
DENOISED = (*BASELINE_ON, NIGHT_YARD)


def output_name(sample: Sample, tool: str) -> str:
    """What a tool's output of a sample is called; Mossgate exports PNG."""
    return f"{sample.key}-{tool}.{'png' if tool == 'mossgate' else 'tif'}"


def make_files(folder: Path) -> None:
    """Frames and truths first, two at a time; then all tools at once, so that no study
    waits long for the last of them.
    """
    folder.mkdir(parents=True, exist_ok=True)
    with ThreadPoolExecutor(max_workers=2) as pool:
        list(pool.map(lambda sample: make_sample(sample, folder), SAMPLES))
    with ThreadPoolExecutor(max_workers=len(DENOISERS) + 1) as pool:
        waiting = [pool.submit(_make_rest, folder)]
        waiting += [pool.submit(_run_tool, tool, _pairs(tool, folder)) for tool in DENOISERS]
        for one in waiting:
            one.result()


def _make_rest(folder: Path) -> None:
    for sample in BASELINE_ON:
        target = folder / output_name(sample, "guided")
        if not target.exists():
            make_baseline(folder / sample.frame_file, target)
    make_small_print(folder)
    _run_tool(
        "tarnlift", [(folder / "archive-print.jpg", folder / "archive-print-tarnlift-2x.tif")]
    )


def _pairs(tool: str, folder: Path) -> list[tuple[Path, Path]]:
    return [(folder / s.frame_file, folder / output_name(s, tool)) for s in DENOISED]


def _run_tool(tool: str, pairs: list[tuple[Path, Path]]) -> None:
    """A stand-in is a program of its own, as a real tool would be; what it made already
    is left alone.
    """
    files = [str(path) for pair in pairs if not pair[1].exists() for path in pair]
    if files:
        command = [sys.executable, "-m", f"glenhail.standins.{tool}", *files]
        subprocess.run(command, check=True, stdout=subprocess.DEVNULL)


if __name__ == "__main__":
    make_files(Path(sys.argv[1]))
