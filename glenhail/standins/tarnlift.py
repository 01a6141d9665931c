"""Tarnlift 1.8, a made-up enlarger, up to 5x.

Faults on purpose: it sharpens without being asked, and it invents texture: a fine weave
of its own that was in no scene.
"""

from __future__ import annotations

import argparse
import sys

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.methods.sharpen import unsharp_mask
from glenhail.core.picture import Floats, Picture, Rect
from glenhail.standins.program import Refused, Tool, run

LARGEST = 5.0
SEED = 18
INVENTED = 1.2  # times the local structure, at 100 of detail


def _check(picture: Picture, options: argparse.Namespace) -> None:
    if not 1 <= options.scale <= LARGEST:
        raise Refused(f"it enlarges from 1 to {LARGEST:g} times, not {options.scale:g} times")


def _invented(luma: Floats) -> Floats:
    """Texture where there is some structure already: noise of a band about 2.5 px wide,
    as strong as what is near.
    """
    white = np.random.default_rng(SEED).standard_normal(luma.shape).astype(np.float32)
    band = scipy.ndimage.gaussian_filter(white, 0.9) - scipy.ndimage.gaussian_filter(white, 1.8)
    band /= band.std()
    mean = scipy.ndimage.gaussian_filter(luma, 3)
    near = np.sqrt(np.maximum(scipy.ndimage.gaussian_filter(luma * luma, 3) - mean * mean, 0))
    return np.asarray(band * np.minimum(near, 0.05), dtype=np.float32)


def lift(source: Floats, options: argparse.Namespace) -> Floats:
    """Lanczos, then a hidden unsharp mask, then invented texture by the setting
    "detail".
    """
    height, width = source.shape[:2]
    size = (round(width * options.scale), round(height * options.scale))
    made = unsharp_mask(resample(source, Rect(0, 0, width, height), *size), 0.9, 1.1)
    if options.detail == 0:
        return made
    encoded = srgb.encode(made)
    texture = np.float32(INVENTED * options.detail / 100) * _invented(
        np.asarray(encoded @ srgb.LUMA, dtype=np.float32)
    )
    return np.asarray(srgb.decode(encoded + texture[..., None]), dtype=np.float32)


if __name__ == "__main__":
    sys.exit(run(Tool("tarnlift", ("plain",), lift, _check)))
