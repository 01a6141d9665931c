"""Sedgewash, a made-up denoiser, releases 2.4 and 3.0.

Faults on purpose: colour is smoothed over a short reach only, so coloured blotches stay
in shadows, larger ones in 2.4; below full strength it works unevenly (2.4 all or
nothing, in patches; 3.0 more here and less there); its raw-only mode takes nothing
else.
"""

from __future__ import annotations

import argparse
import sys

import numpy as np
import scipy.ndimage

from glenhail.core.colour.lumachroma import join, noise_level, split
from glenhail.core.methods.denoise import guided
from glenhail.core.picture import Floats, Picture
from glenhail.standins.program import Refused, Tool, run

RAW_ONLY = "raw-only"
OLD = "2.4"
PATCH = 40  # px, size of the places that come out differently
UNEVEN = 0.35  # share of the strength by which 3.0 is off, at half strength
SEED = 24


def _check(picture: Picture, options: argparse.Namespace) -> None:
    if options.mode == RAW_ONLY and picture.facts.developed is None:
        raise Refused(
            f"raw-only mode takes raw files only, and {picture.facts.name} is a"
            f" {picture.facts.format}",
            4,
        )


def _clouds(shape: tuple[int, int]) -> Floats:
    """Smooth random places, each value as often as any other, 0..1."""
    coarse = np.random.default_rng(SEED).random(tuple(n // PATCH + 2 for n in shape))
    fine = np.kron(coarse, np.ones((PATCH, PATCH)))[: shape[0], : shape[1]]
    return np.asarray(scipy.ndimage.gaussian_filter(fine, PATCH / 6), dtype=np.float32)


def _share(shape: tuple[int, int], options: argparse.Namespace) -> Floats:
    """How much of the full smoothing each place gets."""
    asked = np.float32(options.strength / 100)
    clouds = _clouds(shape)
    if options.release == OLD:
        return np.asarray(clouds <= np.quantile(clouds, asked), dtype=np.float32)
    off = UNEVEN * 4 * asked * (1 - asked)
    return np.asarray(np.clip(asked + off * (2 * clouds - 1), 0, 1), dtype=np.float32)


def wash(source: Floats, options: argparse.Namespace) -> Floats:
    """Guided smoothing of luma, a short box over colour, both blended in by place."""
    luma, colour = split(source)
    sigma = noise_level(luma)
    share = _share(luma.shape, options)
    smooth = guided(luma, 3, (sigma * 3.2) ** 2)
    side = 5 if options.release == OLD else 7
    washed = [np.asarray(scipy.ndimage.uniform_filter(c, side, mode="nearest")) for c in colour]
    blended = [c + np.maximum(share, 0.5) * (w - c) for c, w in zip(colour, washed, strict=True)]
    return join(np.asarray(luma + share * (smooth - luma), dtype=np.float32), blended)


if __name__ == "__main__":
    sys.exit(run(Tool("sedgewash", ("standard", RAW_ONLY), wash, _check)))
