"""Noise by spatial frequency: its spectrum, coloured blotches, rows and columns that
stand out.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import scipy.fft
import scipy.special

from glenhail.core.errors import NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.measures import welch
from glenhail.core.measures.noise import GRID, chroma_rests, luma_rest
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.residual import FITTED
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.welch import Rings
from glenhail.core.picture import Doubles, Rect
from glenhail.core.statistics.intervals import TAIL, jackknife

BLOCKS = (64, 32, 16)  # px, the largest that fits nine times with half overlap
LEAST_BLOCKS = 9
GROUPS = 9
RINGS = 32
COARSE = 1 / 16  # cycles per frame px under which colour noise is a blotch
LEAST_BLOTCH_SIDE = 48  # frame px
SEGMENTS, BAND_GROUPS = 4, 10


def spectra(rest: Doubles) -> tuple[Doubles, int]:
    """Power spectra of half overlapped Hann blocks, shape (blocks, side, side // 2 +
    1), and the side.

    Each is a density over frequencies in cycles/px whose mean over the whole plane of
    them is the block's variance.

    Parameters
    ----------
    rest : ndarray, shape (h, w), float64
        What is left of a plane once its falloff is taken off.

    Raises
    ------
    NotMeasurable
        If nine blocks of 16 px do not fit.
    """
    side = next((b for b in BLOCKS if welch.count(rest.shape, b) >= LEAST_BLOCKS), None)
    if side is None or min(rest.shape) < 2 * side:
        raise NotMeasurable(
            f"the patch is too small for a spectrum, needs {2 * BLOCKS[-1]} × {2 * BLOCKS[-1]}"
            " output px"
        )
    blocks = np.abs(welch.spectra(rest, side, level=False)) ** 2 / welch.power_of(side)
    return np.asarray(blocks, dtype=np.float64), side


def nps(subject: Subject, rect: Rect) -> MeasuredValue:
    """Mean frequency of the noise's power, cycles per frame px; the spectrum by
    frequency among the details.

    The higher, the finer the noise; white noise has 0.383 cycles per output px. The
    spectrum integrates to the variance (codes squared over an area of frequencies).

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

    References
    ----------
    Welch 1967; the mean frequency as a figure for a noise power spectrum: AAPM Report
    233, 2019.
    """
    rest = luma_rest(subject, rect)
    if not rest.any():
        raise NotMeasurable("no noise at all: it has no spectrum")
    blocks, side = spectra(rest[:2048, :2048])
    radius, weight = np.hypot(*welch.frequencies(side)), welch.sides(side)
    sums = welch.by_groups(blocks, welch.groups_of(blocks.shape[0], GROUPS)) * weight
    total = sums.sum(axis=0)
    left_out = np.array([_mean_frequency(total - s, radius) for s in sums])
    found = jackknife(_mean_frequency(total, radius), left_out)
    scale = (subject.output.mapping.sx + subject.output.mapping.sy) / 2
    details = {
        "cycles_per_output_px": found.value,
        "spectrum": _radial(total / blocks.shape[0], radius, weight, scale),
    }
    return MeasuredValue(
        found.value * scale, max(0.0, found.low * scale), found.high * scale, GRID, details
    )


def _mean_frequency(power: Doubles, radius: Doubles) -> float:
    return float((power * radius).sum() / power.sum())


def _radial(power: Doubles, radius: Doubles, weight: Doubles, scale: float) -> dict[str, Any]:
    """The spectrum by distance from 0, in units of the frame's pixels, so that it still
    integrates to the variance.

    `power` of each bin is that of as many as it stands for.
    """
    ring = np.round(radius * min(radius.shape[0], 2 * RINGS)).astype(int)
    rings = Rings.of(ring, (ring > 0) & (radius <= 0.5))
    bins = rings.sums(weight)
    return {
        "cycles_per_frame_px": [
            round(float(v), 4) for v in rings.sums(radius * weight) / bins * scale
        ],
        "power": [float(f"{v:.4g}") for v in rings.sums(power) / bins / scale**2],
    }


def blotch(subject: Subject, rect: Rect) -> MeasuredValue:
    """How coarse colour noise is: share of its variance below 1/16 cycles per frame px,
    over that of white noise; 1 is white.

    The interval is that of a spectral estimate (chi square; degrees of freedom from the
    bins' own spread).

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
    mapping = subject.output.mapping
    if min(rect.w, rect.h) < LEAST_BLOTCH_SIDE:
        raise NotMeasurable(
            f"the patch is too small, needs {LEAST_BLOTCH_SIDE} × {LEAST_BLOTCH_SIDE} frame px"
        )
    rests = chroma_rests(subject, rect)
    total = sum(float((rest**2).sum()) for rest in rests)
    if total == 0:
        raise NotMeasurable("no colour noise at all: there are no blotches to tell")
    height, width = rests[0].shape
    fy = np.abs(scipy.fft.fftfreq(height))[:, None] * mapping.sy
    fx = np.abs(scipy.fft.fftfreq(width))[None, :] * mapping.sx
    coarse = np.hypot(fy, fx) < COARSE
    bins = np.concatenate(
        [
            (np.abs(scipy.fft.fft2(rest.astype(np.float32))) ** 2)[coarse].astype(np.float64)
            / rest.size
            for rest in rests
        ]
    )
    frame_samples = (
        rect.w * rect.h
    )  # white noise of the frame's own pixels is what it is held against
    expected = (int(coarse.sum()) - FITTED) / (frame_samples - FITTED)
    value = float(bins.sum()) / total / expected
    degrees = max(2.0, 2 * float(bins.sum()) ** 2 / float((bins**2).sum()))
    low, high = (
        value * degrees / float(scipy.special.chdtri(degrees, p)) for p in (TAIL, 1 - TAIL)
    )
    return MeasuredValue(
        value, low, high, GRID, {"share": float(bins.sum()) / total, "white_share": expected}
    )


def banding_rows(subject: Subject, rect: Rect) -> MeasuredValue:
    """How far whole rows stand out of the noise: 1 is not at all.

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
    return _banding(subject, luma_rest(subject, rect))


def banding_cols(subject: Subject, rect: Rect) -> MeasuredValue:
    """How far whole columns stand out of the noise: 1 is not at all.

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
    return _banding(subject, luma_rest(subject, rect).T)


def _banding(subject: Subject, rest: Doubles) -> MeasuredValue:
    """Deviation of row means over that which noise of this grain gives them:

    1 where rows are no more alike than chance has it.

    What rows have beyond the noise is taken from what means over segments that do not
    touch have in common. For white noise it is the deviation of row means times the
    square root of their length, over the pixels' deviation.
    """
    height, width = rest.shape
    if width < 8 * SEGMENTS:
        raise NotMeasurable(f"the patch is too small, needs {8 * SEGMENTS} output px along a row")
    variance = float((rest**2).sum()) / (rest.size - FITTED)
    if variance == 0:
        raise NotMeasurable("no noise at all: nothing to tell bands from")
    side = width // SEGMENTS
    means = rest[:, : side * SEGMENTS].reshape(height, SEGMENTS, side).mean(axis=2)
    # What a segment has in all its rows alike are bands the other way.
    means -= means.mean(axis=0)
    products = np.mean(
        [means[:, i] * means[:, j] for i in range(SEGMENTS) for j in range(i + 2, SEGMENTS)], axis=0
    )
    groups = np.arange(height) * BAND_GROUPS // height
    left_out = np.array([products[groups != g].mean() for g in range(BAND_GROUPS)])
    shared = jackknife(float(products.mean()), left_out)
    # Means of segments tell how much chance leaves of noise in a row's mean, coarse or fine.
    chance = max(float(means.var()) - max(0.0, shared.value), variance / side / 4) / SEGMENTS
    found = Interval(
        *(math.sqrt(max(0.0, 1 + v / chance)) for v in (shared.value, shared.low, shared.high))
    )
    plain = float(rest.mean(axis=1).std()) * math.sqrt(width / variance)
    stripes = math.sqrt(max(0.0, shared.value))
    return MeasuredValue(
        found.value, found.low, found.high, GRID, {"stripes_codes": stripes, "plain_ratio": plain}
    )
