"""Noise of flat patches: brightness, colour, signal to noise ratio."""

from __future__ import annotations

import math

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.lab import lab
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.intervals import Interval, deviation, independent_samples
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.picture import Doubles, Floats, Rect

LEAST_SIDE = 16
# A full quadratic in x and y has six coefficients.
FITTED = 6
GRID = "output pixels, not resampled"


def residual(plane: np.ndarray) -> Doubles:
    """A plane less its least-squares 2-D quadratic: illumination falloff is not noise."""
    height, width = plane.shape
    y, x = np.meshgrid(np.linspace(-1, 1, height), np.linspace(-1, 1, width), indexing="ij")
    terms = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y]).reshape(FITTED, -1)
    values = plane.astype(np.float64).reshape(-1)
    fit = np.linalg.solve(terms @ terms.T, terms @ values)
    return np.asarray((values - fit @ terms).reshape(height, width))


def spread(rest: Doubles) -> Interval:
    """Standard deviation of a residual, ddof = 6, with its interval for correlated noise."""
    sigma = math.sqrt(float((rest**2).sum()) / (rest.size - FITTED))
    return deviation(sigma, independent_samples(rest), FITTED) if sigma > 0 else Interval(0, 0, 0)


def _flat(subject: Subject, rect: Rect) -> Floats:
    pixels = subject.native(rect)
    if min(pixels.shape[:2]) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} x {LEAST_SIDE} output px")
    return pixels


def noise_luma(subject: Subject, rect: Rect) -> Measured:
    """Standard deviation of luma, 8-bit codes."""
    found = spread(residual(srgb.luma(_flat(subject, rect)) * CODES))
    return Measured(found.value, found.low, found.high, GRID)


def noise_chroma(subject: Subject, rect: Rect) -> Measured:
    """Square root of the variances of a* and b* added, CIELAB units."""
    colours = lab(_flat(subject, rect))
    a, b = (spread(residual(colours[..., i])) for i in (1, 2))
    value = math.hypot(a.value, b.value)
    # Relative errors of the two variances add in squares; the parts are taken as independent.
    low = value - math.hypot(a.value * (a.value - a.low), b.value * (b.value - b.low)) / (value or 1)
    high = value + math.hypot(a.value * (a.high - a.value), b.value * (b.high - b.value)) / (value or 1)
    return Measured(value, low, high, GRID, {"a": a.value, "b": b.value})


def snr(subject: Subject, rect: Rect) -> Measured:
    """Signal to noise ratio of linear luminance, dB: 20 log10(mean / std), after ISO 15739:2023.

    Raises
    ------
    NotMeasurable
        Where the patch is black, or has no noise at all.
    """
    light = srgb.luminance(_flat(subject, rect))
    mean = float(light.mean(dtype=np.float64))
    found = spread(residual(light))
    if mean <= 0:
        raise NotMeasurable("the patch is black: no signal")
    if found.value == 0:
        raise NotMeasurable("no noise at all: the ratio is infinite")
    value, low, high = (20 * math.log10(mean / s) for s in (found.value, found.high, found.low))
    return Measured(value, low, high, GRID, {"mean_luminance": mean})
