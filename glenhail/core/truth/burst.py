"""A truth from many exposures of a scene that kept still: their mean, without what happened in only one of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest, NoLineUp
from glenhail.core.lineup.register import line_up
from glenhail.core.picture import Doubles, Floats, Picture

LEAST = 3
MOST_SHIFT = 0.25  # px; more is a move of camera or scene
MOST_EXPOSURE = 0.05  # EV
REJECT = 5.0  # deviations from the median
LEVELS = 48
STRIP = 128  # rows


@dataclass(frozen=True)
class Burst:
    """The mean and what was learned on the way.

    Attributes
    ----------
    mean : ndarray of float32, shape (h, w, 3)
    rejected : float
        Share of the values that were left out as outliers.
    temporal : float
        Noise of one frame from frame to frame, in 8-bit codes of encoded light, median over the picture.
    left : float
        The same noise as it remains in the mean: less by the square root of the number of frames.
    """

    mean: Floats
    rejected: float
    temporal: float
    left: float


def burst_mean(frames: Sequence[Picture]) -> Burst:
    """The mean of at least three frames of one scene.

    Values further than five deviations from their pixel's median are left out. The deviation is that of noise at this
    brightness, from differences of two frames, so that fixed pattern and texture do not count as noise (photon transfer,
    Janesick 2007).

    Raises
    ------
    BadRequest
        If there are too few, their sizes differ, or camera, scene or exposure changed; the text names the frame.
    """
    if len(frames) < LEAST:
        raise BadRequest(f"A burst has at least {LEAST} frames; {len(frames)} were given.")
    first = frames[0]
    for other in frames[1:]:
        _check_still(first, other)
    noise = _noise_by_level(first.pixels, frames[1].pixels)
    mean, left_out = np.empty_like(first.pixels), 0
    for y in range(0, first.height, STRIP):
        stack = np.stack([f.pixels[y : y + STRIP] for f in frames])
        middle = np.median(stack, axis=0)
        good = np.abs(stack - middle) <= REJECT * noise(middle)
        mean[y : y + STRIP] = (stack * good).sum(axis=0) / good.sum(axis=0)
        left_out += int(good.size - good.sum())
    temporal = _temporal_codes(first.pixels, frames[1].pixels)
    return Burst(mean, left_out / (len(frames) * mean.size), temporal, temporal / float(np.sqrt(len(frames))))


def _check_still(first: Picture, other: Picture) -> None:
    if other.pixels.shape != first.pixels.shape:
        raise BadRequest(
            f"{other.facts.name}: {other.width} x {other.height} px, the others have {first.width} x {first.height}. Leave it out."
        )
    # Pixel by pixel, so that a few that changed do not count; the darker half says little of exposure.
    lit = first.pixels > np.median(first.pixels)
    exposure = float(np.log2(max(float(np.median(other.pixels[lit] / first.pixels[lit])), 1e-6)))
    if abs(exposure) > MOST_EXPOSURE:
        raise BadRequest(f"{other.facts.name}: {exposure:+.2f} EV from the first frame. Leave it out; a burst has one exposure.")
    try:
        m = line_up(first, other).mapping
    except NoLineUp as error:
        raise BadRequest(f"{other.facts.name}: {error}. Leave it out; all frames of a burst show the same.") from error
    if max(abs(m.dx), abs(m.dy)) > MOST_SHIFT or (m.sx, m.sy) != (1, 1):
        raise BadRequest(f"{other.facts.name}: moved by {m.dx:.1f}, {m.dy:.1f} px. Leave it out; camera and scene must keep still.")


class _Noise:
    """Deviation of one frame's noise at a brightness."""

    def __init__(self, at: Doubles, sigma: Doubles) -> None:
        self.at, self.sigma = at, sigma

    def __call__(self, level: Floats) -> Doubles:
        return np.asarray(np.interp(level, self.at, self.sigma))


def _noise_by_level(one: Floats, two: Floats) -> _Noise:
    level, difference = ((one + two) / 2).ravel(), np.abs(one - two).ravel()
    edges = np.unique(np.quantile(level, np.linspace(0, 1, LEVELS + 1)))
    place = np.clip(np.searchsorted(edges, level, side="right") - 1, 0, max(0, len(edges) - 2))
    at, sigma = [], []
    for i in range(max(1, len(edges) - 1)):
        here = difference[place == i]
        if here.size:
            at.append(float(level[place == i].mean()))
            # The median of |a - b| of two normal values is 0.6745 sqrt(2) sigma.
            sigma.append(max(float(np.median(here)) / (0.6745 * np.sqrt(2)), 1e-6))
    # Photon noise only grows with light; where it seems to fall, white clipped it.
    return _Noise(np.array(at), np.maximum.accumulate(np.array(sigma)))


def _temporal_codes(one: Floats, two: Floats) -> float:
    difference = np.abs(srgb.encode(one) - srgb.encode(two)) * 255
    return float(np.median(difference) / (0.6745 * np.sqrt(2)))
