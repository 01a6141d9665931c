"""Pictures for tests: photographs that ship with open libraries, and ones made by rule."""

from __future__ import annotations

from functools import cache

import numpy as np
import skimage.data
from sklearn.datasets import load_sample_image

from glenhail.core.colour import srgb
from glenhail.core.picture import Facts, Floats, Picture


def facts(name: str = "test.tif", width: int = 0, height: int = 0) -> Facts:
    """Facts of a picture that never was a file."""
    return Facts(name, "TIFF", width, height, 16, "unsigned", "none", "sRGB", True)


def picture(pixels: np.ndarray) -> Picture:
    """Linear pixels, grey or RGB, as a Picture."""
    rgb = pixels if pixels.ndim == 3 else np.repeat(pixels[..., None], 3, axis=2)
    return Picture(
        np.ascontiguousarray(rgb, dtype=np.float32), facts(width=rgb.shape[1], height=rgb.shape[0])
    )


@cache
def photograph(name: str) -> Floats:
    """An open photograph in linear light: scikit-image's and scikit-learn's sample
    data.
    """
    codes = (
        load_sample_image(f"{name}.jpg")
        if name in ("china", "flower")
        else getattr(skimage.data, name)()
    )
    return srgb.decode(codes[..., :3].astype(np.float32) / 255)


def noisy(linear: Floats, electrons: float, seed: int = 1) -> Floats:
    """Photon and read noise like a small sensor's."""
    rng = np.random.default_rng(seed)
    light = np.clip(linear, 0, 1) * electrons
    return np.asarray(
        (rng.poisson(light) + rng.normal(0, 3, light.shape)) / electrons, dtype=np.float32
    )


def gaussian_edge(
    angle: float, sigma: float, side: int = 128, low: float = 0.1, high: float = 0.8
) -> Floats:
    """A straight edge under a Gaussian of `sigma` px, dark on the left; grey plane in
    linear light.
    """
    from scipy.special import erf

    y, x = np.mgrid[0:side, 0:side] + 0.5
    turn = np.radians(angle)
    distance = (x - side / 2) * np.cos(turn) - (y - side / 2) * np.sin(turn)
    return np.asarray(
        low + (high - low) * 0.5 * (1 + erf(distance / sigma / np.sqrt(2))), dtype=np.float32
    )
