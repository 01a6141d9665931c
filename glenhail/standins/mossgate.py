"""Mossgate 11, a made-up program that does everything.

Faults on purpose: the picture moves one pixel right and down, which leaves a black line at the left
and top edges; shadows are opened; the export is 8 bit; fine texture is smeared.
"""

from __future__ import annotations

import argparse
import sys

import numpy as np
import scipy.ndimage

from glenhail.core.colour.lumachroma import join, noise_level, split
from glenhail.core.methods.denoise import guided
from glenhail.core.picture import Floats
from glenhail.standins.program import run

OPENED = 0.055


def through_the_gate(source: Floats, options: argparse.Namespace) -> Floats:
    """Strong smoothing, a lift of the dark end, a shift."""
    luma, colour = split(source)
    sigma = noise_level(luma)
    smooth = guided(luma, 5, (sigma * options.strength / 20) ** 2)
    smooth = smooth + OPENED * np.clip(1 - smooth, 0, 1) ** 3
    soft = [np.asarray(scipy.ndimage.gaussian_filter(c, 3.5, mode="nearest", truncate=3)) for c in colour]
    made = join(np.asarray(smooth, dtype=np.float32), soft)
    moved = np.zeros_like(made)
    moved[1:, 1:] = made[:-1, :-1]
    return moved


if __name__ == "__main__":
    sys.exit(run("mossgate", through_the_gate, bits=8))
