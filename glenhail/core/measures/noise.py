"""Noise of flat patches: brightness, colour, signal to noise ratio."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cache

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.intervals import Interval, deviation, independent_samples
from glenhail.core.measures.pixels import lab_planes
from glenhail.core.measures.places import of_mean
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.picture import Doubles, Floats, Rect

LEAST_SIDE = 16
# A full quadratic in x and y has six coefficients.
FITTED = 6
GRID = "output pixels, not resampled"


def residual(plane: np.ndarray) -> Doubles:
    """A plane less its least-squares 2-D quadratic: illumination falloff is not noise."""
    down, across = (_polynomials(side) for side in plane.shape)
    values = plane.astype(np.float64)
    fit = down @ (values @ across.T)
    # Of the products of both ways' polynomials, those of second order at most.
    fit[np.add.outer(np.arange(3), np.arange(3)) > 2] = 0
    rest = values - down.T @ (fit @ across)
    # What rounding leaves of an even plane is nothing.
    return np.zeros_like(rest) if np.abs(rest).max() <= 1e-12 * np.abs(values).max() else np.asarray(rest)


@cache
def _polynomials(side: int) -> Doubles:
    """Orthonormal polynomials of order 0, 1 and 2 over `side` places, shape (3, side)."""
    x = np.linspace(-1, 1, side)
    return np.asarray(np.linalg.qr(np.stack([np.ones(side), x, x * x], axis=1))[0].T)


def spread_alone(rest: Doubles) -> float:
    """Standard deviation of a residual, ddof = 6."""
    return math.sqrt(float((rest**2).sum()) / (rest.size - FITTED))


def spread(rest: Doubles) -> Interval:
    """Standard deviation of a residual, ddof = 6, with its interval for correlated noise."""
    sigma = spread_alone(rest)
    return deviation(sigma, independent_samples(rest), FITTED) if sigma > 0 else Interval(0, 0, 0)


def flat(subject: Subject, rect: Rect) -> Floats:
    """The output's own pixels of a patch, large enough for noise.

    Raises
    ------
    NotMeasurable
        If there are fewer than 16 x 16.
    """
    pixels = subject.native(rect)
    if min(pixels.shape[:2]) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} x {LEAST_SIDE} output px")
    return pixels


def luma_rest(subject: Subject, rect: Rect) -> Doubles:
    """What is left of luma, 8-bit codes, once falloff is taken off; found once for all measures of a patch."""
    return subject.once("luma rest", rect, lambda: residual(srgb.luma(flat(subject, rect)) * CODES))


def chroma_rests(subject: Subject, rect: Rect) -> tuple[Doubles, Doubles]:
    """The same of a* and b*."""

    def find() -> tuple[Doubles, Doubles]:
        _, a, b = lab_planes(flat(subject, rect))
        return residual(a), residual(b)

    return subject.once("chroma rests", rect, find)


def _part_deviations(squares: Doubles, told: Callable[[Doubles], Doubles] = np.sqrt) -> tuple[float, ...]:
    return of_mean(squares * (squares.size / (squares.size - FITTED)), told)


def noise_luma(subject: Subject, rect: Rect) -> Measured:
    """Standard deviation of luma, 8-bit codes."""
    rest = luma_rest(subject, rect)
    found = spread(rest)
    shared = _shared(subject, rect, rest)
    details = {} if shared is None else {"frame_noise": shared[0], "correlation_with_frame": shared[1]}
    return Measured(found.value, found.low, found.high, GRID, details, _part_deviations(rest**2))


def _shared(subject: Subject, rect: Rect, rest: Doubles) -> tuple[float, float] | None:
    """The frame's own noise and how far an output's goes with it, where their pixels coincide: tells the noise of an even blend."""
    mapping = subject.output.mapping
    if not mapping.keeps_pixels():
        return None
    own = residual(srgb.luma(subject.source.crop(rect.whole())) * CODES)
    sizes = np.sqrt((own**2).sum() * (rest**2).sum())
    if own.shape != rest.shape or sizes == 0:
        return None
    return spread_alone(own), float((own * rest).sum() / sizes)


def noise_chroma(subject: Subject, rect: Rect) -> Measured:
    """Square root of the variances of a* and b* added, CIELAB units."""
    rests = chroma_rests(subject, rect)
    a, b = (spread(rest) for rest in rests)
    value = math.hypot(a.value, b.value)
    # Relative errors of the two variances add in squares; the parts are taken as independent.
    low = value - math.hypot(a.value * (a.value - a.low), b.value * (b.value - b.low)) / (value or 1)
    high = value + math.hypot(a.value * (a.high - a.value), b.value * (b.high - b.value)) / (value or 1)
    return Measured(value, low, high, GRID, {"a": a.value, "b": b.value}, _part_deviations(rests[0] ** 2 + rests[1] ** 2))


def snr(subject: Subject, rect: Rect) -> Measured:
    """Signal to noise ratio of linear luminance, dB: 20 log10(mean / std), after ISO 15739:2023.

    Raises
    ------
    NotMeasurable
        Where the patch is black, or has no noise at all.
    """
    light = srgb.luminance(flat(subject, rect))
    mean = float(light.mean(dtype=np.float64))
    rest = residual(light)
    found = spread(rest)
    if mean <= 0:
        raise NotMeasurable("the patch is black: no signal")
    if found.value == 0:
        raise NotMeasurable("no noise at all: the ratio is infinite")
    value, low, high = (20 * math.log10(mean / s) for s in (found.value, found.high, found.low))
    parts = _part_deviations(rest**2, lambda mean_square: np.asarray(20 * np.log10(mean) - 10 * np.log10(mean_square)))
    return Measured(value, low, high, GRID, {"mean_luminance": mean}, parts)
