"""Keenfold 5.1, a made-up sharpener that denoises a little first; modes for single
threads, broad softness and sideways shake.

Faults on purpose: halos along edges; noise in smooth parts comes back coarser.
"""

from __future__ import annotations

import argparse
import sys

import numpy as np
import scipy.ndimage

from glenhail.core.colour.lumachroma import join, noise_level, split
from glenhail.core.methods.denoise import guided
from glenhail.core.picture import Floats
from glenhail.standins.program import Tool, run

# The Gaussian, along rows and columns, against which each mode sharpens.
REACH = {"thread": (1.6, 1.6), "broad": (3.0, 3.0), "sideways": (0.6, 3.5)}


def fold(source: Floats, options: argparse.Namespace) -> Floats:
    """A light guided smoothing, then an unsharp mask well beyond what the picture
    stands.
    """
    luma, colour = split(source)
    sigma = noise_level(luma)
    light = guided(luma, 2, (sigma * 1.8) ** 2)
    soft = [guided(c, 4, 0.05) for c in colour]
    blurred = scipy.ndimage.gaussian_filter(light, REACH[options.mode], mode="nearest", truncate=3)
    return join(light + np.float32(options.strength / 80) * (light - blurred), soft)


if __name__ == "__main__":
    sys.exit(run(Tool("keenfold", tuple(REACH), fold)))
