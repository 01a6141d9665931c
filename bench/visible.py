"""Whether a difference of 24 MP would be seen, in one use after another, against FLIP by
its authors' own program on the same pictures as they are seen, in one run.

Wanted: under 3 s for a use.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

import cv2
import flip_evaluator
import numpy as np

from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.register import identical
from glenhail.core.picture import Facts, Picture
from glenhail.core.seeing.flip import flip
from glenhail.core.seeing.scielab import scielab
from glenhail.core.seeing.visible import visible
from glenhail.core.uses.table import USES, Use

HEIGHT, WIDTH = 4000, 6000
USED = ("post", "web", "screen", "print-30x20-300")
RUNS = 3


def main() -> None:
    """Print seconds of a use, of both models alone, and of FLIP's own program."""
    one, two = _pair()
    for key in USED:
        print(_of(USES[key], one, two))


def _of(use: Use, one: AlignedPicture, two: AlignedPicture) -> str:
    whole, maps = _best(lambda: visible(one, two, use))
    seen, ppd = (maps.one.codes, maps.two.codes), use.pixels_per_degree
    eye, _ = _best(lambda: scielab(*seen, ppd))
    own, _ = _best(lambda: flip(*seen, ppd))
    given = [codes.astype(np.float32) / 255 for codes in seen]
    asked: dict[str, Any] = {"applyMagma": False, "parameters": {"ppd": ppd}}
    theirs, _ = _best(lambda: flip_evaluator.evaluate(*given, "LDR", **asked))
    megapixels = seen[0].shape[0] * seen[0].shape[1] / 1e6
    return (
        f"{use.name}, {megapixels:.1f} MP: {whole:.2f} s, of it S-CIELAB {eye:.2f} and FLIP"
        f" {own:.2f}; FLIP's own program {theirs:.2f} s, {theirs / own:.2f} times ours"
    )


def _best(work: Callable[[], Any]) -> tuple[float, Any]:
    took = []
    for _ in range(RUNS):
        start = time.perf_counter()
        made = work()
        took.append(time.perf_counter() - start)
    return min(took), made


def _pair() -> tuple[AlignedPicture, AlignedPicture]:
    rng = np.random.default_rng(1)
    coarse = rng.random((40, 60, 3), dtype=np.float32)
    one = np.clip(cv2.resize(coarse, (WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC), 0, 1)
    noise = rng.standard_normal(one.shape, dtype=np.float32)
    return _lined(one), _lined(np.clip(one + np.float32(0.02) * noise, 0, 1))


def _lined(pixels: np.ndarray) -> AlignedPicture:
    height, width = pixels.shape[:2]
    told = Facts("made.tif", "TIFF", width, height, 16, "uint", "none", "sRGB", False)
    whole = Picture(pixels, told)
    return AlignedPicture(whole, identical(whole).mapping, whole.bounds)


if __name__ == "__main__":
    main()
