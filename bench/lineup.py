"""How exact a line-up is at the noise of ISO 6,400: shifts and scales put in by
scikit-image, worst case of twelve; and times on 24 MP.
"""

from __future__ import annotations

import time

import numpy as np
from skimage.transform import warp

from bench.setting import large_scene, noisy
from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.lineup.bend import straightened, turned
from glenhail.core.lineup.register import line_up
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Facts, Floats, Mapping, Picture, Rect

SEED, ISO = 5, 6400
WIDTH, HEIGHT = 2000, 1400
BODY = Sensor(full_well=42_000, read_noise=3.6)


def picture(pixels: Floats) -> Picture:
    """As if read from a file."""
    facts = Facts(
        "bench", "TIFF", pixels.shape[1], pixels.shape[0], 16, "unsigned", "", "sRGB", True
    )
    return Picture(np.ascontiguousarray(pixels, dtype=np.float32), facts)


def moved(pixels: Floats, dx: float, dy: float, scale: float) -> Floats:
    """scikit-image's warp of the fifth order; the size stays."""
    planes = [
        warp(
            pixels[..., i].astype(float),
            lambda p: (p + 0.5 - [dx, dy]) / scale - 0.5,
            order=5,
            mode="edge",
        )
        for i in range(3)
    ]
    return np.stack(planes, axis=-1).astype(np.float32)


def main() -> None:
    """Print the largest errors and the times."""
    from glenhail.demo.frames import scene
    from glenhail.demo.samples import DYE_SHED, GAUGE_WALL, LOOM_TABLE

    rng = np.random.default_rng(SEED)
    places, scales = [], []
    for sample in (GAUGE_WALL, DYE_SHED, LOOM_TABLE):
        frame = photograph(np.clip(scene(sample)[:HEIGHT, :WIDTH], 0, 1), BODY, ISO, 1)
        made = treat(frame, "guided", {})
        for k in range(4):
            dx, dy = rng.uniform(-3, 3, 2)
            scale = 1 + rng.uniform(-0.01, 0.01) if k % 2 else 1.0
            found = line_up(picture(frame), picture(moved(made, dx, dy, scale))).mapping
            middle = found.rect(Rect(WIDTH / 2, HEIGHT / 2, 0, 0))
            places.append(
                max(abs(middle.x - scale * WIDTH / 2 - dx), abs(middle.y - scale * HEIGHT / 2 - dy))
            )
            scales.append(max(abs(found.sx - scale), abs(found.sy - scale)))
    print(
        f"seed {SEED}, ISO {ISO}: place within {max(places):.3f} px, scale within {max(scales):.1e}"
    )
    large = large_scene()
    frame_24 = picture(noisy(large, 900, 3))
    bent = straightened(
        large,
        Mapping(bend=turned(-0.3, large.shape[1], large.shape[0])),
        Rect(0, 0, large.shape[1], large.shape[0]),
    )
    for name, output in (("as it is", large), ("turned by 0.3 deg", bent)):
        start = time.perf_counter()
        line_up(frame_24, picture(output))
        print(f"24 MP, {name}: {time.perf_counter() - start:.1f} s")


if __name__ == "__main__":
    main()
