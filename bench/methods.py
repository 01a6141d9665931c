"""Built-in methods on 45 MP: seconds against a copy of the data, and the most memory a
process needed, file to file.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

import numpy as np

from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff, write_tiff_bands
from glenhail.core.methods.catalogue import METHODS
from glenhail.core.methods.treat import bands, size_after

HEIGHT, WIDTH = 5464, 8192  # 44.8 MP
# Those that take about half a minute; name others, or "all", to have them.
USUAL = (
    "bicubic",
    "area",
    "unsharp",
    "gaussian",
    "median",
    "bilateral",
    "wavelet",
    "guided",
    "wiener",
)
VALUES: dict[str, dict[str, Any]] = {"median": {"luma": "5 px"}, "lucy": {"size": 2}}


def one(source: Path, name: str, copied: float) -> None:
    """In a process of its own: what its memory was is then the method's."""
    linear = read_picture(source).pixels
    began = time.perf_counter()
    values = VALUES.get(name, {})
    target = source.with_name("made.tif")
    write_tiff_bands(target, bands(linear, name, values), *size_after(name, values, HEIGHT, WIDTH))
    seconds = time.perf_counter() - began
    # Not getrusage: what it gives begins with the memory of whoever started this process.
    status = Path("/proc/self/status").read_text()
    peak = (
        int(next(line for line in status.splitlines() if line.startswith("VmHWM")).split()[1])
        / 1024
    )
    print(
        f"{name:14s} {seconds:7.1f} s  {seconds / copied:7.0f} copies  {peak:6.0f} MB", flush=True
    )
    target.unlink()


def main() -> None:
    """The usual methods, those named, or all."""
    if sys.argv[1:2] == ["--one"]:
        one(Path(sys.argv[2]), sys.argv[3], float(sys.argv[4]))
        return
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "frame.tif"
        rng = np.random.default_rng(1)
        scene = np.kron(
            rng.random((HEIGHT // 8, WIDTH // 8, 3), dtype=np.float32),
            np.ones((8, 8, 1), np.float32),
        )
        scene += rng.standard_normal(scene.shape, dtype=np.float32) * np.float32(0.03)
        write_tiff(source, scene)
        began = time.perf_counter()
        np.copy(scene)
        copied = time.perf_counter() - began
        del scene
        print(f"{HEIGHT * WIDTH / 1e6:.1f} MP, writing the TIFF included")
        for name in METHODS if sys.argv[1:] == ["all"] else sys.argv[1:] or USUAL:
            subprocess.run(
                [sys.executable, "-m", "bench.methods", "--one", str(source), name, str(copied)],
                check=True,
            )


if __name__ == "__main__":
    main()
