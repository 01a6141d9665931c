"""A truth from many exposures of a scene that kept still: their mean, without what
happened in only one of them.
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest, NoLineUp
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.register import line_up
from glenhail.core.measures.residual import residual
from glenhail.core.picture import Doubles, Floats, Picture
from glenhail.core.truth.still import move_of

Load = Callable[[], Picture]

LEAST, MOST = 3, 64
MOST_SHIFT, MOST_STRETCH = 0.25, 1.0  # px; more is a move of camera or scene
MOST_EXPOSURE = 0.05  # EV
REJECT = 5.0  # deviations from the median
LEVELS = 48
STRIP = 128  # rows
SAMPLED = 1_500_000  # values that a noise is taken from
BLOCK = 32  # px
CELL = 16  # px that exposure is compared in
PLAINEST = 0.05  # share of the blocks that fixed pattern is read from
NORMAL = 0.6745  # of a standard deviation: the median of its absolute values


@dataclass(frozen=True)
class Burst:
    """The mean and what was learned on the way; noise in 8-bit codes of encoded light.

    Attributes
    ----------
    mean : ndarray of float32, shape (h, w, 3)
    rejected : float
        Share of the values that were left out as outliers.
    noises : tuple of float
        Each frame's own noise from frame to frame (temporal noise), from differences of
        pairs.
    left : float
        The temporal noise that remains in the mean.
    fixed : float
        What stays the same from frame to frame in the plainest parts of the picture:
        fixed pattern, and what texture is left there.
    """

    mean: Floats
    rejected: float
    noises: tuple[float, ...]
    left: float
    fixed: float

    @property
    def temporal(self) -> float:
        """Noise of a usual frame: the median."""
        return float(np.median(self.noises))


def burst_mean(loads: Sequence[Load], told: Callable[[int], None] = lambda _: None) -> Burst:
    """The mean of at least three frames of one scene; never more than two of them are
    held in memory.

    Values further than five deviations from their pixel's median are left out. The
    deviation is that of noise at this brightness, from differences of two frames, so
    that fixed pattern and texture do not count as noise (photon transfer, Janesick
    2007).

    Parameters
    ----------
    loads : sequence of callable
        Each gives one frame; called once.
    told : callable, optional
        Hears how many frames were looked at.

    Raises
    ------
    BadRequest
        If there are too few or too many, their sizes differ, or camera, scene or
        exposure changed; the text names the frame.
    """
    if not LEAST <= len(loads) <= MOST:
        raise BadRequest(f"A burst has {LEAST} to {MOST} frames; {len(loads)} were given.")
    with tempfile.TemporaryDirectory(prefix="burst-") as folder:
        frames = _spread_out(loads, Path(folder), told)
        noise = _noise_by_level(frames[0], frames[1])
        mean, left_out = np.array(frames[0]), 0
        for y in range(0, mean.shape[0], STRIP):
            stack = np.stack([f[y : y + STRIP] for f in frames])
            middle = np.median(stack, axis=0)
            good = np.abs(stack - middle) <= REJECT * noise(middle)
            mean[y : y + STRIP] = (stack * good).sum(axis=0) / good.sum(axis=0)
            left_out += int(good.size - good.sum())
        noises = _noises(frames)
        left = float(np.sqrt((np.array(noises) ** 2).sum())) / len(frames)
        # What is left in the mean, of the difference of the first two: they need not be as noisy as
        # the others.
        fixed = _fixed(
            mean, frames[0], frames[1], left**2 / max(noises[0] ** 2 + noises[1] ** 2, 1e-12)
        )
    return Burst(mean, left_out / (len(loads) * mean.size), noises, left, fixed)


def _spread_out(loads: Sequence[Load], folder: Path, told: Callable[[int], None]) -> list[Floats]:
    """The frames as files that are mapped into memory, each checked against the first."""
    first: Picture | None = None
    frames = []
    for i, load in enumerate(loads):
        picture = load()
        if first is None:
            first = picture
        else:
            _check_still(first, picture)
        np.save(folder / f"{i}.npy", picture.pixels)
        frames.append(np.load(folder / f"{i}.npy", mmap_mode="r"))
        told(i + 1)
    return frames


def _check_still(first: Picture, other: Picture) -> None:
    if other.pixels.shape != first.pixels.shape:
        raise BadRequest(
            f"{other.facts.name}: {other.width} × {other.height} px, the others have {first.width}"
            f" × {first.height}. Leave it out."
        )
    one, two = _cell_means(first), _cell_means(other)
    # The median, so that a few cells that changed do not count; the darker half says little of
    # exposure.
    lit = one + two > np.median(one + two)
    exposure = float(np.log2(max(float(np.median(two[lit] / np.maximum(one[lit], 1e-9))), 1e-6)))
    if abs(exposure) > MOST_EXPOSURE:
        raise BadRequest(
            f"{other.facts.name}: {exposure:+.2f} EV from the first frame. Leave it out; a burst"
            " has one exposure."
        )
    try:
        found = line_up(first, other)
    except NoLineUp as error:
        raise BadRequest(
            f"{other.facts.name}: {error}. Leave it out; all frames of a burst show the same."
        ) from error
    m = move_of(found.mapping, first.width, first.height)
    if max(abs(m.dx), abs(m.dy)) > MOST_SHIFT or max(m.stretch, m.bent) > MOST_STRETCH:
        raise BadRequest(
            f"{other.facts.name}: moved by {m.dx:.1f}, {m.dy:.1f} px. Leave it out; camera and"
            " scene must keep still."
        )


def _cell_means(picture: Picture) -> Floats:
    """Luminance, averaged so heavily that noise does not count."""
    across, down = max(2, picture.width // CELL), max(2, picture.height // CELL)
    return resample(srgb.luminance(picture.pixels), picture.bounds, across, down, "area")


class _Noise:
    """Deviation of one frame's noise at a brightness."""

    def __init__(self, at: Doubles, sigma: Doubles) -> None:
        self.at, self.sigma = at, sigma

    def __call__(self, level: Floats) -> Doubles:
        return np.asarray(np.interp(level, self.at, self.sigma))


def _noise_by_level(one: Floats, two: Floats) -> _Noise:
    one, two = _sample(one), _sample(two)
    level, difference = ((one + two) / 2).ravel(), np.abs(one - two).ravel()
    edges = np.unique(np.quantile(level, np.linspace(0, 1, LEVELS + 1)))
    place = np.clip(np.searchsorted(edges, level, side="right") - 1, 0, max(0, len(edges) - 2))
    at, sigma = [], []
    for i in range(max(1, len(edges) - 1)):
        here = difference[place == i]
        if here.size:
            at.append(float(level[place == i].mean()))
            # The median of |a - b| of two normal values is 0.6745 sqrt(2) sigma.
            sigma.append(max(float(np.median(here)) / (NORMAL * np.sqrt(2)), 1e-6))
    # Photon noise only grows with light; where it seems to fall, white clipped it.
    return _Noise(np.array(at), np.maximum.accumulate(np.array(sigma)))


def _sample(frame: Floats) -> Floats:
    """Whole rows, evenly spread: enough values for a noise."""
    step = max(1, int(np.ceil(frame.size / SAMPLED)))
    return np.asarray(frame[::step])


def _noises(frames: list[Floats]) -> tuple[float, ...]:
    """Each frame's noise, from pairs: a pair's difference has both variances, and three
    pairs tell three frames apart.
    """
    count = len(frames)
    codes = [srgb.encode(_sample(f)) * np.float32(255) for f in frames]
    pairs = sorted({tuple(sorted((i, (i + d) % count))) for i in range(count) for d in (1, 2)})
    design, squares = np.zeros((len(pairs), count)), []
    for row, (i, j) in enumerate(pairs):
        design[row, [i, j]] = 1
        squares.append((float(np.median(np.abs(codes[i] - codes[j]))) / NORMAL) ** 2)
    variances = np.linalg.lstsq(design, np.array(squares), rcond=None)[0]
    return tuple(float(np.sqrt(max(v, 0.0))) for v in variances)


def _fixed(mean: Floats, one: Floats, two: Floats, share: float) -> float:
    """Deviation of what stays, where the picture is plainest; what is left of temporal
    noise is taken off.
    """
    height, width = (n // BLOCK * BLOCK for n in mean.shape[:2])
    if min(height, width) < BLOCK:
        return 0.0
    grid = [(y, x) for y in range(0, height, BLOCK) for x in range(0, width, BLOCK)]
    luma = srgb.luma(mean) * np.float32(255)
    # Chosen by coarse structure only, or quiet pixels would choose themselves.
    coarse = scipy.ndimage.gaussian_filter(luma, 3.0)
    plain = sorted(
        (float(residual(coarse[y : y + BLOCK, x : x + BLOCK]).std()), y, x)
        for y, x in grid
        if _lit(mean, y, x)
    )
    found = []
    for _, y, x in plain[: max(8, int(PLAINEST * len(plain)))]:
        at = np.s_[y : y + BLOCK, x : x + BLOCK]
        moving = (srgb.luma(np.asarray(one[at])) - srgb.luma(np.asarray(two[at]))) * 255
        found.append(float(residual(luma[at]).var(ddof=6)) - float(moving.var()) * share)
    return float(np.sqrt(max(0.0, np.median(found)))) if found else 0.0


def _lit(mean: Floats, y: int, x: int) -> bool:
    block = mean[y : y + BLOCK, x : x + BLOCK]
    return bool(block.mean() > 0.002 and block.max() < 0.97)
