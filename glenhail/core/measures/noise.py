"""Noise of flat patches: brightness, colour, signal to noise ratio."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.measures.pixels import lab_planes
from glenhail.core.measures.places import of_mean
from glenhail.core.measures.plainness import structure_in
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.residual import FITTED, residual
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.picture import Doubles, Floats, Rect
from glenhail.core.statistics.intervals import deviation

LEAST_SIDE = 16
GRID = "output pixels, not resampled"


def spread_alone(rest: Doubles) -> float:
    """Standard deviation of a residual, ddof = 6.

    Parameters
    ----------
    rest : ndarray, shape (h, w), float64
        What is left of a plane once its falloff is taken off.
    """
    return math.sqrt(float((rest**2).sum()) / (rest.size - FITTED))


def spread(rest: Doubles) -> Interval:
    """Standard deviation of a residual, ddof = 6, with its interval for correlated
    noise.

    Parameters
    ----------
    rest : ndarray, shape (h, w), float64
        What is left of a plane once its falloff is taken off.
    """
    return deviation([rest], FITTED)


def flat(subject: Subject, rect: Rect) -> Floats:
    """The output's own pixels of a patch, large enough for noise.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Raises
    ------
    NotMeasurable
        If there are fewer than 16 x 16, or the patch is not plain in the frame.
    """
    pixels = subject.native(rect)
    if min(pixels.shape[:2]) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} × {LEAST_SIDE} output px")
    if doubt := not_plain(subject, rect):
        raise NotMeasurable(f"the patch is not plain: {doubt}; draw one on an even surface")
    return pixels


def not_plain(subject: Subject, rect: Rect) -> str:
    """What in the frame, or its truth, makes a patch less than plain;

    "" where nothing does. All outputs share the answer.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.
    """

    def find() -> str:
        own = subject.source.crop(rect.whole())
        truth = subject.truth
        known = truth.mapping.rect(rect).whole() if truth is not None else None
        if (
            truth is None
            or known is None
            or not known.inside(truth.picture.width, truth.picture.height)
        ):
            return structure_in(own)
        return structure_in(own, truth.picture.crop(known))

    return subject.shared("not plain", rect, find)


def luma_rest(subject: Subject, rect: Rect) -> Doubles:
    """What is left of luma, 8-bit codes, once falloff is taken off; found once for all
    measures of a patch.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.
    """
    return subject.once("luma rest", rect, lambda: residual(srgb.luma(flat(subject, rect)) * CODES))


def chroma_rests(subject: Subject, rect: Rect) -> tuple[Doubles, Doubles]:
    """The same of a* and b*.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.
    """

    def find() -> tuple[Doubles, Doubles]:
        _, a, b = lab_planes(flat(subject, rect))
        return residual(a), residual(b)

    return subject.once("chroma rests", rect, find)


def _part_deviations(
    squares: Doubles, told: Callable[[Doubles], Doubles] = np.sqrt
) -> tuple[float, ...]:
    return of_mean(squares * (squares.size / (squares.size - FITTED)), told)


def noise_luma(subject: Subject, rect: Rect) -> MeasuredValue:
    """Standard deviation of luma, 8-bit codes.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    rest = luma_rest(subject, rect)
    found = spread(rest)
    shared = _shared(subject, rect, rest)
    details = (
        {} if shared is None else {"frame_noise": shared[0], "correlation_with_frame": shared[1]}
    )
    return MeasuredValue(
        found.value, found.low, found.high, GRID, details, _part_deviations(rest**2)
    )


def _shared(subject: Subject, rect: Rect, rest: Doubles) -> tuple[float, float] | None:
    """The frame's own noise and how far an output's goes with it, where their pixels
    coincide: tells the noise of an even blend.
    """
    mapping = subject.output.mapping
    if not mapping.keeps_pixels():
        return None
    own = residual(srgb.luma(subject.source.crop(rect.whole())) * CODES)
    sizes = np.sqrt((own**2).sum() * (rest**2).sum())
    if own.shape != rest.shape or sizes == 0:
        return None
    return spread_alone(own), float((own * rest).sum() / sizes)


def noise_chroma(subject: Subject, rect: Rect) -> MeasuredValue:
    """Square root of the variances of a* and b* added, CIELAB units.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.
    """
    rests = chroma_rests(subject, rect)
    found = deviation(rests, FITTED)
    a, b = (spread_alone(rest) for rest in rests)
    return MeasuredValue(
        found.value,
        found.low,
        found.high,
        GRID,
        {"a": a, "b": b},
        _part_deviations(rests[0] ** 2 + rests[1] ** 2),
    )


def snr(subject: Subject, rect: Rect) -> MeasuredValue:
    """Signal to noise ratio of linear luminance, dB:

    20 log10(mean / std), after ISO 15739:2023.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.

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
    parts = _part_deviations(
        rest**2, lambda mean_square: np.asarray(20 * np.log10(mean) - 10 * np.log10(mean_square))
    )
    return MeasuredValue(value, low, high, GRID, {"mean_luminance": mean}, parts)
