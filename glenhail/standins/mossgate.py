"""Mossgate 11, a made-up program that does everything.

Faults on purpose: the picture moves one pixel right and down, which leaves a black line
at the left and top edges; shadows are opened; the export is 8 bit, in a wide-gamut
profile of its own; fine texture is smeared; a file opens slowly (it is worked on
already), so that the export looks quick.
"""

from __future__ import annotations

import argparse
import sys
import time
from pathlib import Path

import numpy as np
import scipy.ndimage
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.core.colour.lumachroma import join, noise_level, split
from glenhail.core.files.encoding import write_tiff
from glenhail.core.methods.denoise import guided
from glenhail.core.picture import Floats, Picture
from glenhail.standins.profile import D65, WIDE, from_srgb, matrix_profile
from glenhail.standins.program import Tool, run

OPENED = 0.055
SLOW = 0.3  # seconds for each megapixel while a file opens
AMOUNTS = {"everything": 20.0, "gentle": 45.0}


def _settle(picture: Picture) -> None:
    time.sleep(SLOW * picture.facts.megapixels)


def through_the_gate(source: Floats, options: argparse.Namespace) -> Floats:
    """Strong smoothing, a lift of the dark end, a shift."""
    luma, colour = split(source)
    sigma = noise_level(luma)
    smooth = guided(luma, 5, (sigma * options.strength / AMOUNTS[options.mode]) ** 2)
    smooth = smooth + OPENED * np.clip(1 - smooth, 0, 1) ** 3
    soft = [
        np.asarray(scipy.ndimage.gaussian_filter(c, 3.5, mode="nearest", truncate=3))
        for c in colour
    ]
    made = join(np.asarray(smooth, dtype=np.float32), soft)
    moved = np.zeros_like(made)
    moved[1:, 1:] = made[:-1, :-1]
    return moved


def _export(path: Path, made: Floats) -> None:
    wide = np.clip(from_srgb(made, WIDE), 0, 1)
    icc = matrix_profile(WIDE, D65, None, "Mossgate wide")
    if path.suffix != ".png":
        write_tiff(path, wide, bits=8, icc=icc)
        return
    codes = np.round(srgb.encode(wide) * 255).astype(np.uint8)
    Image.fromarray(codes).save(path, "PNG", icc_profile=icc, compress_level=1)


if __name__ == "__main__":
    sys.exit(
        run(Tool("mossgate", tuple(AMOUNTS), through_the_gate, settle=_settle, export=_export))
    )
