"""Bringing an output of 24 MP to another's sharpness: the ratio of both transfers and its fit,
and the mask itself against scikit-image's on the same plane, in one run.

Wanted: under 20 s for the whole.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

import cv2
import numpy as np
from skimage.filters import unsharp_mask

from glenhail.core.colour import srgb
from glenhail.core.level.grid import ratio_of
from glenhail.core.level.unsharp_fit import fit_unsharp
from glenhail.core.level.way import Way, level_pair
from glenhail.core.level.ways import brought
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats, Picture
from tests.pictures import photograph, picture

HEIGHT, WIDTH = 4000, 6000


def main() -> None:
    """Print seconds of each part, and the ratio."""
    sharp, soft = _pair()
    pair = level_pair(sharp, soft, sharp)
    curve, ratio_s = _timed(lambda: ratio_of(pair))
    fit, fit_s = _timed(lambda: fit_unsharp(curve))
    values = {"gain": fit.best.gain, "reach": fit.best.reach, "floor": 0, "on": "luma"}
    _, ours = _timed(lambda: treat(soft.pixels, "unsharp", values))
    plane = srgb.luma(soft.pixels)
    _, theirs = _timed(lambda: unsharp_mask(plane, radius=fit.best.reach, amount=fit.best.gain))
    _, whole = _timed(lambda: brought(Way.SHARPNESS, pair))
    print(
        f"24 MP to another's sharpness: {whole:.1f} s in all (wanted: 20), of which lining up"
        f" and the ratio {ratio_s:.1f}, the fit {fit_s:.2f}; the mask {ours:.2f} s with three"
        f" channels taken apart and put together, scikit-image's on one plane {theirs:.2f} s"
    )


def _pair() -> tuple[Picture, Picture]:
    """A photograph over and over, turned so that it does not repeat, and out of focus."""
    tile = photograph("china")
    rows = [[tile, tile[:, ::-1]], [tile[::-1], tile[::-1, ::-1]]]
    block = np.concatenate([np.concatenate(row, axis=1) for row in rows], axis=0)
    across, down = WIDTH // block.shape[1] + 1, HEIGHT // block.shape[0] + 1
    whole = np.tile(block, (down, across, 1))[:HEIGHT, :WIDTH]
    # Brightness falls off to one side, so that no place is like another.
    light = whole * np.linspace(1, 0.5, WIDTH, dtype=np.float32)[None, :, None]
    sharp: Floats = np.asarray(light, dtype=np.float32)
    return picture(sharp), picture(cv2.GaussianBlur(sharp, (0, 0), 1.2))


def _timed(work: Callable[[], Any]) -> tuple[Any, float]:
    begun = time.perf_counter()
    made = work()
    return made, time.perf_counter() - begun


if __name__ == "__main__":
    main()
