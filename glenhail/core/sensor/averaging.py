"""What bringing pixels to a smaller size alone does to noise, out of the noise's own
spectrum.

Noise power that lies beyond the smaller size's finest line pair is gone once pixels are
averaged without aliasing; what lies below stays (Janesick 2007 for white noise, where
that is the root of the pixels' number).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import scipy.fft

from glenhail.core.files.raw import Mosaic
from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles
from glenhail.core.sensor.pairs import SIDE
from glenhail.core.statistics.intervals import jackknife

GROUPS = 16  # that the jackknife leaves out one by one
NO_LARGER = 1.001  # a gain that is none
MOST_BLOCKS = 256  # of a plane that are looked at: evenly spread, and more tell no more


@dataclass(frozen=True)
class Averaging:
    """How many times as large a ratio of signal to noise becomes at a smaller size: for
    white noise, and by the noise there is.
    """

    white: float
    measured: Interval


def spectrum_of(one: Mosaic, two: Mosaic) -> Doubles | None:
    """Power of temporal noise by spatial frequency in groups of blocks, shape (groups,
    side, side), frequency none first; None of frames too small.

    Parameters
    ----------
    one, two : Mosaic
        Of the same exposure.
    """
    planes = [
        _blocks(one.plane(row, column), two.plane(row, column))
        for row in range(len(one.pattern))
        for column in range(len(one.pattern[0]))
    ]
    blocks = np.concatenate(planes)
    if len(blocks) < GROUPS:
        return None
    apart = blocks - blocks.mean(axis=(1, 2), keepdims=True)
    spread = apart.std(axis=(1, 2), keepdims=True)
    # Where codes are cut off there is no noise; light itself shall not weigh.
    apart = (apart / np.where(spread > 0, spread, 1))[spread.ravel() > 0]
    if len(apart) < GROUPS:
        return None
    power = np.abs(scipy.fft.fft2(apart.astype(np.float32))) ** 2
    return np.array([power[g::GROUPS].mean(axis=0) for g in range(GROUPS)], dtype=np.float64)


def _blocks(one: np.ndarray, two: np.ndarray) -> Doubles:
    down, across = (n // SIDE for n in one.shape)
    step = max(1, math.isqrt(max(1, down * across // MOST_BLOCKS)))
    places = [
        (slice(r * SIDE, (r + 1) * SIDE), slice(c * SIDE, (c + 1) * SIDE))
        for r in range(0, down, step)
        for c in range(0, across, step)
    ]
    apart = [one[p].astype(np.float64) - two[p] for p in places]
    return np.array(apart) if apart else np.empty((0, SIDE, SIDE))


def averaging(spectra: Sequence[Doubles], pixels: float, smaller: float) -> Averaging:
    """What so many fewer pixels of the same picture do.

    Parameters
    ----------
    spectra : sequence of ndarray, shape (groups, side, side)
        As `spectrum_of` has them, of any exposures.
    pixels, smaller : float
        Of the whole picture: its own, and those that it is brought to. Where these are
        not fewer nothing changes.
    """
    white = max(1.0, math.sqrt(pixels / smaller))
    if white == 1.0 or not spectra:
        return Averaging(white, Interval(white, white, white))
    groups = np.mean(spectra, axis=0)
    kept = np.array([(g * _share(1 / white, g.shape[0])).sum() for g in groups])
    whole = groups.sum(axis=(1, 2))
    value = math.sqrt(whole.sum() / kept.sum())
    left = np.sqrt((whole.sum() - whole) / (kept.sum() - kept))
    return Averaging(white, jackknife(value, left))


def told(found: Averaging, name: str) -> str:
    """In words what a smaller size does to a body's noise; empty where nothing is done.

    Parameters
    ----------
    found : Averaging
        At that size.
    name : str
        The body's.
    """
    if found.white <= NO_LARGER:
        return ""
    white, measured = (20 * math.log10(v) for v in (found.white, found.measured.value))
    return (
        f"Bringing {name} to the smaller size raises signal to noise by {measured:.1f} dB by its"
        f" noise’s spectrum; {white:.1f} dB if that were white."
    )


def _share(limit: float, side: int) -> Doubles:
    """How much of each frequency lies below a share of the finest, both ways; those on
    the limit by part.
    """
    at = np.abs(np.fft.fftfreq(side)) * side
    one = np.clip(limit * side / 2 - at + 0.5, 0, 1)
    # The finest stands once for both directions, and is half as wide.
    one[side // 2] = min(1.0, 2 * one[side // 2])
    return np.asarray(one[:, None] * one[None, :])
