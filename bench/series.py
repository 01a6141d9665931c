"""All facts of two bodies over ISO out of raw files of 24 MP, against decoding the
mosaics once, in one run; and the most memory that took.

Wanted: no more than 2.5 times decoding, under 1 GB.
"""

from __future__ import annotations

import multiprocessing
import tempfile
import time
from functools import partial
from pathlib import Path

import numpy as np

from glenhail.core.files.decoding import read_facts
from glenhail.core.files.raw import read_mosaic
from glenhail.core.picture import Rect
from glenhail.core.sensor.comparison import BodyShots, compare
from glenhail.core.sensor.frames import SensorFrame, pairs_of
from glenhail.standins.camera import BODIES, Body, write_dng
from glenhail.standins.series import ISOS

HEIGHT, WIDTH = 4000, 6000
SPOTS = (Rect(0.7, 0.2, 0.1, 0.1), Rect(0.05, 0.6, 0.1, 0.1))
FRAMES = 12  # of each body: pairs at half as many ISO values
RUNS = 3


def main() -> None:
    """Print both times, their ratio and the memory."""
    with tempfile.TemporaryDirectory() as folder:
        context = multiprocessing.get_context("spawn")
        for work in (_shoot_all, _measure):  # each with a memory of its own
            process = context.Process(target=work, args=(Path(folder),))
            process.start()
            process.join()


def _shoot_all(folder: Path) -> None:
    for key in ("quill24", "quill33"):
        for iso in ISOS[: FRAMES // 2]:
            for number in range(2):
                codes = _wedge(BODIES[key], iso, number)
                shot = {"iso": iso, "shutter_s": 0.1 * 100 / iso, "aperture": 4}
                write_dng(folder / f"{key}-{iso}-{number}.dng", codes, BODIES[key], shot)


def _wedge(body: Body, iso: float, seed: int) -> np.ndarray:
    """Light that grows across the frame; noise in single precision, for speed."""
    rng = np.random.default_rng([int(iso), seed])
    at_white = np.float32(body.full_well * 100 / iso)
    electrons = np.geomspace(0.004, 0.9, WIDTH, dtype=np.float32)[None, :] * at_white
    noise = np.sqrt(electrons + np.float32(body.read_noise[iso >= body.second_gain_iso]) ** 2)
    made = electrons + noise * rng.standard_normal((HEIGHT, WIDTH), dtype=np.float32)
    depth = body.white - body.black
    codes = np.clip(np.rint(made / at_white * depth) + body.black, 0, body.white)
    return np.asarray(codes, dtype=np.uint16)


def _measure(folder: Path) -> None:
    paths = sorted(folder.iterdir())
    # What files say is kept with them from when they were taken in.
    frames = {p: SensorFrame(p, read_facts(p), partial(read_mosaic, p)) for p in paths}
    _facts(frames)  # compiled, and in the page cache
    decoding, facts = [], []
    for _ in range(RUNS):
        start = time.perf_counter()
        for path in paths:
            read_mosaic(path)
        decoding.append(time.perf_counter() - start)
        start = time.perf_counter()
        _facts(frames)
        facts.append(time.perf_counter() - start)
    once, whole = min(decoding), min(facts)
    memory = int(Path("/proc/self/status").read_text().split("VmHWM:")[1].split()[0]) / 1024
    print(f"{len(paths)} raw files of {HEIGHT * WIDTH / 1e6:.0f} MP, two bodies")
    print(f"decoding the mosaics once {once:6.2f} s")
    print(f"all facts                 {whole:6.2f} s = {whole / once:.2f} times (at most 2.5)")
    print(f"most memory               {memory:6.0f} MB (under 1,000)")


def _facts(frames: dict[Path, SensorFrame]) -> None:
    bodies = []
    for key in ("quill24", "quill33"):
        own = [frame for path, frame in frames.items() if path.name.startswith(key)]
        bodies.append(BodyShots(key, pairs_of(own)[0], (), SPOTS))
    compare(bodies)


if __name__ == "__main__":
    main()
