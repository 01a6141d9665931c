"""The sample frames: truths, and what the invented bodies photographed of them."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.files.reading import read_picture
from glenhail.core.files.writing import write_tiff
from glenhail.core.methods.resample import resample
from glenhail.core.picture import Facts, Floats, Rect
from glenhail.demo.chart import HEIGHT, SQUARES, STEPS, WEDGE, WIDTH, paint_chart

SCENES = Path(__file__).parent / "scenes"
M24 = Sensor(full_well=42_000, read_noise=3.6)


@dataclass(frozen=True)
class Sample:
    """One sample frame.

    ``patches`` are (name, role, x, y, w, h) in its pixels.
    """

    key: str
    name: str
    iso: float
    shutter_s: float
    lens: str
    aperture: float
    focal_mm: float
    seed: int
    patches: tuple[tuple[str, str, float, float, float, float], ...]

    @property
    def truth_file(self) -> str:
        return f"{self.key}-truth.tif"

    @property
    def frame_file(self) -> str:
        return f"{self.key}-iso{self.iso:.0f}.tif"


def _chart_patches() -> tuple[tuple[str, str, float, float, float, float], ...]:
    edges = []
    for name, square in SQUARES.items():
        rect = square.edge_patch()
        edges.append((name, "edge", rect.x, rect.y, rect.w, rect.h))
    field = WEDGE.w / STEPS
    wedge = [
        (f"Wedge, {stop}", role, round(WEDGE.x + i * field) + 20, WEDGE.y + 15, 120, 130)
        for i, stop, role in ((1, "light", "flat"), (4, "middle", "flat"), (8, "dark", "shadow"))
    ]
    return (*edges, ("Fine star", "texture", 1510, 230, 260, 260), *wedge)


SAMPLES = (
    Sample(
        "loom-table", "Loom table", 12800, 1 / 125, "Corvane 50 mm f/2", 4, 50, 1101,
        (
            ("Check cloth", "texture", 620, 760, 280, 210),
            ("Gauge lettering", "print", 1890, 330, 280, 210),
            ("Dial face", "flat", 1936, 336, 64, 64),
            ("Inside the crate", "shadow", 2000, 1232, 64, 64),
            ("Yellow bobbin", "texture", 1290, 1130, 240, 180),
        ),
    ),
    Sample(
        "night-yard", "Night yard", 6400, 1 / 15, "Corvane 35 mm f/2", 2.8, 35, 1102,
        (
            ("Sky", "flat", 64, 48, 120, 110),
            ("Boards in the shade", "shadow", 100, 745, 110, 110),
            ("Yard lamp", "lights", 350, 320, 200, 170),
            ("Gate lettering", "print", 1050, 780, 240, 90),
            ("Wet cobbles", "texture", 1100, 1180, 260, 195),
        ),
    ),
    Sample("bench-chart", "Bench chart", 3200, 1 / 60, "Corvane 50 mm f/2", 5.6, 50, 1103, _chart_patches()),
)  # fmt: skip


def scene(key: str) -> Floats:
    """A scene in linear light; lamps go beyond white."""
    if key == "bench-chart":
        return paint_chart()
    return read_picture(SCENES / f"{key.replace('-', '_')}.tif").pixels


def make_sample(sample: Sample, folder: Path) -> None:
    """Write truth and frame, unless they are there; the same seed gives the same bytes."""
    truth_path, frame_path = folder / sample.truth_file, folder / sample.frame_file
    if truth_path.exists() and frame_path.exists():
        return
    light = scene(sample.key)
    _write(truth_path, light)
    facts = Facts(
        name=sample.frame_file, format="TIFF", width=WIDTH, height=HEIGHT, bits=16, sample="unsigned", compression="",
        profile="sRGB", profile_assumed=True, camera="Corvane M24", lens=sample.lens, iso=sample.iso,
        shutter_s=sample.shutter_s, aperture=sample.aperture, focal_mm=sample.focal_mm, software="Corvane M24 1.2",
    )  # fmt: skip
    _write(frame_path, photograph(light, M24, sample.iso, sample.seed), facts)


def _write(path: Path, light: Floats, facts: Facts | None = None, bits: int = 16) -> None:
    """Beside its place first: a making that is broken off leaves no half file."""
    unfinished = path.with_name(f"unfinished-{path.name}")
    write_tiff(unfinished, light, facts, bits)
    unfinished.replace(path)


def make_small_print(folder: Path) -> None:
    """A 640 px print of the loom table for enlarging, its larger truth, and a plain bicubic enlargement."""
    paths = [folder / n for n in ("archive-print.tif", "archive-print-truth.tif", "archive-print-bicubic-2x.tif")]
    if all(p.exists() for p in paths):
        return
    light = np.clip(scene("loom-table"), 0, 1)
    whole = Rect(0, 0, light.shape[1], light.shape[0])
    small = resample(light, whole, 640, 427, "area")
    grain = photograph(small, M24, 400, 1104)
    facts = Facts(
        name=paths[0].name, format="TIFF", width=640, height=427, bits=8, sample="unsigned", compression="", profile="sRGB",
        profile_assumed=True, camera="Lull P2", iso=400, software="archive print, scanned",
    )  # fmt: skip
    _write(paths[0], grain, facts, bits=8)
    _write(paths[1], resample(light, whole, 1280, 854, "area"))
    _write(paths[2], resample(grain, Rect(0, 0, 640, 427), 1280, 854, "bicubic"))
