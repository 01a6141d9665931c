"""Sedgewash 3.0, a made-up denoiser.

Faults on purpose: colour is smoothed over a short reach only, so coloured blotches stay in shadows.
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


def wash(source: Floats, options: argparse.Namespace) -> Floats:
    """Guided smoothing of luma, a short box over colour."""
    luma, colour = split(source)
    sigma = noise_level(luma)
    smooth = guided(luma, 3, (sigma * options.strength / 30) ** 2)
    washed = [np.asarray(scipy.ndimage.uniform_filter(c, 7, mode="nearest")) for c in colour]
    return join(smooth, washed)


if __name__ == "__main__":
    sys.exit(run("sedgewash", wash))
