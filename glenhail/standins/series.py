"""A made-up camera on a tripod: a still scene over ISO, each exposure twice, and with
the cap on.

``python -m glenhail.standins.series SCENE.tif FOLDER --body quill24 --isos 100 200 400
--dark 8``
"""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

import numpy as np

from glenhail.core.errors import CoreError
from glenhail.core.files.decoding import read_picture
from glenhail.core.picture import Floats
from glenhail.standins.camera import BODIES, Body, expose, write_dng

ISOS = (100, 200, 400, 800, 1600, 3200, 6400, 12_800, 25_600, 51_200, 102_400, 204_800)
FRAMES = 2  # of each exposure
BASE_SHUTTER = 1 / 8  # s at ISO 100


def shoot(scene: Floats, folder: Path, body: Body, key: str, iso: float, count: int) -> list[Path]:
    """So many raw files of one exposure; less light at each higher ISO, as a meter has
    it.
    """
    made = []
    for number in range(1, count + 1):
        path = folder / f"{key}-iso{iso:g}-{number}.dng"
        unfinished = path.with_name(f"unfinished-{path.name}")
        shot = {"iso": iso, "shutter_s": BASE_SHUTTER * 100 / iso, "aperture": 4, "focal_mm": 50}
        codes = expose(scene, body, iso, seed=int(iso) * 100 + number)
        write_dng(unfinished, codes, body, shot)
        made.append(unfinished.replace(path))
    return made


def main() -> int:
    """Shoot one series."""
    parser = argparse.ArgumentParser(prog="series")
    parser.add_argument("scene", type=Path)
    parser.add_argument("folder", type=Path)
    parser.add_argument("--body", choices=BODIES, default="quill24")
    parser.add_argument("--isos", type=float, nargs="+", default=ISOS)
    parser.add_argument("--frames", type=int, default=FRAMES, help="of each exposure")
    parser.add_argument("--dark", type=int, default=0, help="frames with the cap on, at each ISO")
    options = parser.parse_args()
    body = BODIES[options.body]
    try:
        scene = read_picture(options.scene).pixels
        options.folder.mkdir(parents=True, exist_ok=True)
        for iso in options.isos:
            shoot(scene, options.folder, body, options.body, iso, options.frames)
            dark = np.zeros_like(scene)
            shoot(dark, options.folder, body, f"{options.body}-dark", iso, options.dark)
    except (CoreError, OSError) as error:
        print(f"series: {error}", file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
