"""The slanted-edge method (ISO 12233:2017, annex D): from a patch to its edge profile and MTF."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import scipy.ndimage

from glenhail.core.errors import NotMeasurable
from glenhail.core.picture import Doubles, Floats

OVERSAMPLING = 4
BIN = 1 / OVERSAMPLING
LEAST_ALONG, LEAST_ACROSS = 20, 20
ANGLES = (2.0, 43.0)
LEAST_STEP = 0.01  # of display white, linear
NOISE_FLOOR = 0.05  # of the step
REACH = 32.0  # px on either side of the edge that are looked at, at most
MOST_CORRECTION = 10.0


@dataclass(frozen=True)
class Edge:
    """Where an edge runs in an upright patch (edge more vertical than horizontal): x = at + slope * y."""

    light: Doubles
    at: float
    slope: float
    turned: bool = False
    mirrored: bool = False

    def upright(self, values: np.ndarray) -> np.ndarray:
        """A plane or picture of the same patch, turned as this edge was."""
        values = values.swapaxes(0, 1) if self.turned else values
        return values[:, ::-1] if self.mirrored else values

    @property
    def angle(self) -> float:
        """Degrees from the pixel grid."""
        return math.degrees(math.atan(abs(self.slope)))

    @cached_property
    def distance(self) -> Doubles:
        """Each pixel centre's distance across the edge, px, dark side negative."""
        height, width = self.light.shape
        across = np.arange(width)[None, :] - (self.at + self.slope * np.arange(height))[:, None]
        return np.asarray(across * math.cos(math.atan(self.slope)))


@dataclass(frozen=True)
class Profile:
    """Edge spread function: light across the edge at `BIN` px steps, 0 and 1 at the plateaus."""

    distance: Doubles
    light: Doubles
    step: float
    noise: float

    @cached_property
    def transfer(self) -> tuple[Doubles, Doubles]:
        """Its `mtf`, found once."""
        return mtf(self)


def find_edge(light: Floats) -> Edge:
    """The one straight edge of a patch of linear luminance, dark side made to lie left.

    Raises
    ------
    NotMeasurable
        If there is none, its contrast is too low, or its angle does not suit the method.
    """
    plane = np.asarray(light, dtype=np.float64)
    smooth = scipy.ndimage.uniform_filter(np.asarray(light, dtype=np.float32), 5)
    gx, gy = smooth[1:-1, 2:] - smooth[1:-1, :-2], smooth[2:, 1:-1] - smooth[:-2, 1:-1]
    turned = bool((gy**2).sum() > (gx**2).sum())
    plane = plane.T if turned else plane
    if plane.shape[0] < LEAST_ALONG or plane.shape[1] < LEAST_ACROSS:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_ALONG} x {LEAST_ACROSS} output px")
    mirrored = bool(plane[:, -3:].mean() < plane[:, :3].mean())
    plane = plane[:, ::-1] if mirrored else plane
    edge = Edge(plane, *_line(plane), turned, mirrored)
    if not ANGLES[0] <= edge.angle <= ANGLES[1]:
        raise NotMeasurable(f"edge angle {edge.angle:.1f} deg, needs {ANGLES[0]:.0f} to {ANGLES[1]:.0f}")
    return edge


def _line(plane: Doubles) -> tuple[float, float]:
    """Centroid of the derivative per row, line through them; three rounds, each nearer the line."""
    smooth = scipy.ndimage.gaussian_filter(plane.astype(np.float32), (2, 1), mode="nearest")
    slopes = np.diff(smooth, axis=1).astype(np.float64)
    height, width = slopes.shape
    x = np.arange(width) + 0.5
    # Where the summed derivative peaks is a safer start than the middle of the patch.
    at, slope = float(x[int(slopes.sum(axis=0).argmax())]), 0.0
    for reach in (width / 2, width / 4, min(12.0, width / 4), min(10.0, width / 4)):
        # The wide rounds only have to come near: forty rows of a long edge will do.
        y = np.arange(0, height, max(1, height // (2 * LEAST_ALONG)) if reach > 12 else 1)
        band = _band(at + slope * y, reach, width)
        near = slopes[y[:, None], band]
        offset = x[band] - (at + slope * y)[:, None]
        weight = np.where(np.abs(offset) < reach, 0.54 + 0.46 * np.cos(np.pi * offset / reach), 0)
        mass = (near * weight).sum(axis=1)
        sure = mass > 0.2 * np.median(np.abs(mass))
        if sure.sum() < LEAST_ALONG / 2:
            raise NotMeasurable("no single straight edge found in the patch")
        centre = (near * weight * x[band]).sum(axis=1)[sure] / mass[sure]
        slope, at = np.polyfit(y[sure], centre, 1)
    rest = centre - at - slope * y[sure]
    if 1.4826 * np.median(np.abs(rest)) > 1.5:
        raise NotMeasurable("no single straight edge found in the patch")
    return float(at), float(slope)


def _band(middle: np.ndarray, reach: float, width: int) -> np.ndarray:
    """Columns within reach of a place in each row, shape (rows, n), shifted inwards where they would leave the plane."""
    half = min(int(reach) + 2, width // 2)
    count = min(2 * half + 1, width)
    first = np.clip(np.round(middle).astype(int) - half, 0, width - count)
    return np.asarray(first[:, None] + np.arange(count))


def profile(edge: Edge) -> Profile:
    """Average light over all rows in bins across the edge.

    Raises
    ------
    NotMeasurable
        If the plateaus are too short, too close in brightness, or too noisy.
    """
    return profiles(edge, 0)[0]


def profiles(edge: Edge, groups: int) -> list[Profile]:
    """The profile over all rows, and others that each leave out one of `groups` runs of rows."""
    distance, light = edge.distance, edge.light
    # Three rows in four must reach that far; the corners of a steep edge need not.
    left, right = np.quantile(-distance[:, 0], 0.25), np.quantile(distance[:, -1], 0.25)
    reach = min(REACH, float(left), float(right))
    if reach < 6:
        raise NotMeasurable("the edge runs too close to the patch's side, needs 6 px on both sides")
    bins, runs = int(2 * reach * OVERSAMPLING), max(1, groups)
    index = np.floor((distance + reach) * OVERSAMPLING).astype(int)
    inside = (index >= 0) & (index < bins)
    run = np.arange(light.shape[0]) * runs // light.shape[0]
    index = (index + (run * bins)[:, None])[inside]
    count = np.bincount(index, minlength=runs * bins).reshape(runs, bins)
    total = np.bincount(index, weights=light[inside], minlength=runs * bins).reshape(runs, bins)
    sums = [(total.sum(axis=0), count.sum(axis=0))]
    if groups:
        sums += [(sums[0][0] - t, sums[0][1] - c) for t, c in zip(total, count, strict=True)]
    return [_profile(t, c, reach) for t, c in sums]


def _profile(total: Doubles, count: np.ndarray, reach: float) -> Profile:
    centres = (np.arange(count.size) + 0.5) * BIN - reach
    filled = count > 0
    spread = np.asarray(np.interp(centres, centres[filled], total[filled] / count[filled]), dtype=np.float64)
    dark, bright = spread[centres < -reach * 0.6], spread[centres > reach * 0.6]
    low, high = float(np.median(dark)), float(np.median(bright))
    if high - low < LEAST_STEP:
        raise NotMeasurable(f"edge contrast {100 * (high - low):.1f} % of white, needs {100 * LEAST_STEP:.0f} %")
    noise = max(_ripple(dark), _ripple(bright)) / (high - low)
    return Profile(np.asarray(centres, dtype=np.float64), (spread - low) / (high - low), high - low, noise)


def _ripple(plateau: Doubles) -> float:
    """Standard deviation of a plateau about its own straight line."""
    x = np.arange(plateau.size) - (plateau.size - 1) / 2
    rest = plateau - plateau.mean() - x * (x @ plateau) / (x @ x)
    return float(rest.std())


def mtf(edge_profile: Profile) -> tuple[Doubles, Doubles]:
    """Modulation transfer of a profile: frequencies in cycles/px up to 1, and transfer.

    Central difference, Hamming window about the peak, discrete Fourier transform, corrected for the
    difference (ISO 12233:2017, D.4) and for averaging over a bin.
    """
    spread = np.gradient(edge_profile.light)
    offset = edge_profile.distance - _centre(edge_profile)
    half = float(np.abs(edge_profile.distance).max())
    windowed = spread * np.where(np.abs(offset) < half, 0.54 + 0.46 * np.cos(np.pi * offset / half), 0.08)
    size = 4 * windowed.size
    transfer = np.abs(np.fft.rfft(windowed, size))
    frequency = np.fft.rfftfreq(size, BIN)
    kept = frequency <= 1.0
    frequency, transfer = frequency[kept], transfer[kept] / transfer[0]
    # np.gradient spans two bins; a bin itself is a box of one.
    correction = np.sinc(2 * BIN * frequency) * np.sinc(BIN * frequency)
    corrected = transfer / np.maximum(correction, 1 / MOST_CORRECTION)
    return np.asarray(frequency, dtype=np.float64), np.asarray(corrected, dtype=np.float64)


def _centre(edge_profile: Profile) -> float:
    smooth = scipy.ndimage.gaussian_filter1d(np.gradient(edge_profile.light), 2)
    return float(edge_profile.distance[int(smooth.argmax())])


def crossing(x: Doubles, y: Doubles, level: float) -> float | None:
    """The first x at which y falls through a level, interpolated; None if it never does."""
    below = np.flatnonzero(y < level)
    if below.size == 0 or below[0] == 0:
        return None
    i = int(below[0])
    return float(x[i - 1] + (y[i - 1] - level) / (y[i - 1] - y[i]) * (x[i] - x[i - 1]))
