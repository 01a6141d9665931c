"""A museum's small prints, and what tools made of them elsewhere: files for the studies
of the bench's own running.
"""

from __future__ import annotations

import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import scipy.ndimage

from glenhail.core.degrade.noise import photograph
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Rect
from glenhail.demo.frames import M24, make_original, phone_jpeg, scene
from glenhail.demo.samples import DYE_SHED, GAUGE_WALL, LOOM_TABLE, NIGHT_YARD, Sample

WIDTH = 640
BLUR, ISO = 0.7, 800


@dataclass(frozen=True)
class Print:
    """A part of a scene, copied with the phone."""

    file: str
    name: str
    sample: Sample
    part: tuple[float, float, float, float]  # x, y, w, h as shares of the scene
    seed: int

    @property
    def original(self) -> str:
        """The file of what it shows, larger and without the copying."""
        return f"{Path(self.file).stem}-original.tif"


PRINTS = (
    Print("LP20143.jpg", "Print: looms", LOOM_TABLE, (0.0, 0.0, 1.0, 1.0), 43),
    Print("LP20144.jpg", "Print: gauges", GAUGE_WALL, (0.0, 0.0, 1.0, 1.0), 44),
    Print("LP20147.jpg", "Print: dye shed", DYE_SHED, (0.0, 0.0, 1.0, 1.0), 47),
    Print("LP20151.jpg", "Print: yard", NIGHT_YARD, (0.0, 0.0, 1.0, 1.0), 51),
    Print("LP20152.jpg", "Print: bobbins", LOOM_TABLE, (0.45, 0.5, 0.5, 0.5), 52),
)


def make_prints(folder: Path) -> None:
    """The five prints as the phone saved them."""
    for one in PRINTS:
        make_original(folder / one.original, one.sample, one.part, WIDTH)
        path = folder / one.file
        if path.exists():
            continue
        light = np.clip(scene(one.sample), 0, 1)
        height, width = light.shape[:2]
        x, y, w, h = one.part
        box = Rect(x * width, y * height, w * width, h * height)
        small = resample(light, box, WIDTH, round(WIDTH * box.h / box.w), "area")
        soft = scipy.ndimage.gaussian_filter(small, (BLUR, BLUR, 0))
        unfinished = path.with_name(f"unfinished-{path.name}")
        unfinished.write_bytes(
            phone_jpeg(photograph(soft, M24, ISO, one.seed), ISO, "2026:03:16 10:12:00")
        )
        unfinished.replace(path)


# How another reviewer named what twelve treatments made: a folder for each tool, the mode or
# strength behind the print's number.
ELSEWHERE: dict[str, tuple[str, ...]] = {
    "Sedgewash 2/{}_s40": ("sedgewash", "--release=2.4", "--strength=40"),
    "Sedgewash 2/{}_s100": ("sedgewash", "--release=2.4", "--strength=100"),
    "Sedgewash 3/{}_s40": ("sedgewash", "--release=3.0", "--strength=40"),
    "Sedgewash 3/{}_s70": ("sedgewash", "--release=3.0", "--strength=70"),
    "Sedgewash 3/{}_s100": ("sedgewash", "--release=3.0", "--strength=100"),
    "KF5/{}-thread": ("keenfold", "--mode=thread"),
    "KF5/{}-broad": ("keenfold", "--mode=broad"),
    "KF5/{}-sideways": ("keenfold", "--mode=sideways"),
    "mossgate/{} all": ("mossgate", "--mode=everything"),
    "mossgate/{} gentle": ("mossgate", "--mode=gentle"),
    "TL/{}_x2": ("tarnlift", "--scale=2"),
    "TL/{}_x4": ("tarnlift", "--scale=4"),
}


def make_elsewhere(folder: Path) -> Path:
    """Sixty outputs in a folder of their own; each tool is run once for all prints."""
    return _made(folder, folder / "from-elsewhere", ELSEWHERE)


def make_again(folder: Path) -> Path:
    """Five of them once more, at another strength."""
    return _made(
        folder,
        folder / "sent-again",
        {"KF5/{}-thread": ("keenfold", "--mode=thread", "--strength=45")},
    )


def _made(folder: Path, home: Path, ways: dict[str, tuple[str, ...]]) -> Path:
    for pattern, (tool, *options) in ways.items():
        pairs = [
            (folder / p.file, home / f"{pattern.format(Path(p.file).stem)}.tif") for p in PRINTS
        ]
        missing = [str(path) for pair in pairs if not pair[1].exists() for path in pair]
        if missing:
            pairs[0][1].parent.mkdir(parents=True, exist_ok=True)
            command = [sys.executable, "-m", f"glenhail.standins.{tool}", *missing, *options]
            subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
    return home
