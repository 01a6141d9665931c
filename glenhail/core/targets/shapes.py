"""What target fields are painted with: edges, discs, bars and points, each exact under
a Gaussian of `sigma` px.

Planes are linear luminance, 1.0 = display white. Coordinates are px of the plane,
between pixels as in `picture.Rect`.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numba
import numpy as np
from scipy.special import erf

from glenhail.core.picture import Doubles, Floats, Rect

ROOT2 = math.sqrt(2)


@dataclass(frozen=True)
class Square:
    """A dark square turned by an angle on a lighter ground: four slanted edges.

    ``x``, ``y`` centre and ``side`` in px, ``angle`` in degrees clockwise, ``dark`` and
    ``light`` linear.
    """

    x: float
    y: float
    side: float
    angle: float
    dark: float
    light: float

    def edge(self, quarter: int) -> tuple[float, float, float, float]:
        """Both ends of an edge: x0, y0, x1, y1;

        0 is the right-hand one, then clockwise: bottom, left, top.
        """
        turn = math.radians(self.angle + 90 * quarter)
        c, s, half = math.cos(turn), math.sin(turn), self.side / 2
        (x0, y0), (x1, y1) = (
            (self.x + half * c - v * s, self.y + half * s + v * c) for v in (-half, half)
        )
        return x0, y0, x1, y1

    def edge_patch(self, quarter: int) -> Rect:
        """A patch over the middle of an edge that sees none of the corners."""
        x0, y0, x1, y1 = self.edge(quarter)
        along, across = round(0.6 * self.side), round(min(96.0, 0.5 * self.side))
        w, h = (across, along) if quarter % 2 == 0 else (along, across)
        return Rect(round((x0 + x1 - w) / 2), round((y0 + y1 - h) / 2), w, h)


def grid(width: int, height: int) -> tuple[Doubles, Doubles]:
    """Pixel centres: y, x.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    y, x = np.mgrid[0:height, 0:width] + 0.5
    return np.asarray(y), np.asarray(x)


def square(width: int, height: int, shape: Square, sigma: float) -> Floats:
    """A square on its ground.

    Exact, corners too: a Gaussian of a square is the product of two Gaussians of bands.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    shape : Square
        Its side, angle and tones.
    sigma : float
        Standard deviation of the Gaussian, px; above 0.
    """
    y, x = grid(width, height)
    turn = math.radians(shape.angle)
    u = (x - shape.x) * math.cos(turn) + (y - shape.y) * math.sin(turn)
    v = -(x - shape.x) * math.sin(turn) + (y - shape.y) * math.cos(turn)
    inside = band(u, shape.side / 2, sigma) * band(v, shape.side / 2, sigma)
    return np.asarray(shape.light + (shape.dark - shape.light) * inside, dtype=np.float32)


def band(at: Doubles, half: float, sigma: float) -> Doubles:
    """A box of half-width `half` under a Gaussian.

    Parameters
    ----------
    at : ndarray
        Distances, px.
    half : float
        Half of its width, px.
    sigma : float
        Standard deviation of the Gaussian, px; above 0.
    """
    root = sigma * ROOT2
    return np.asarray(0.5 * (erf((at + half) / root) - erf((at - half) / root)))


def bars(at: Doubles, frequency: float, sigma: float) -> Doubles:
    """Bars of a square wave, -1 to 1, `frequency` in cycles/px, under a Gaussian: the
    sum of its harmonics that remain.

    Parameters
    ----------
    at : ndarray
        Distances, px.
    frequency : float
        Cycles/px.
    sigma : float
        Standard deviation of the Gaussian, px; above 0.
    """
    total = np.zeros_like(at)
    for k in range(1, 400, 2):
        kept = math.exp(-2 * (math.pi * sigma * k * frequency) ** 2)
        if k * frequency >= 1 or kept < 1e-6:
            break
        total += 4 / (math.pi * k) * kept * np.sin(2 * math.pi * k * frequency * at)
    return total


def star(
    width: int, height: int, radius: float, spokes: int, low: float, high: float, sigma: float
) -> Floats:
    """A sine Siemens star (ISO 12233:2017, annex E) in the middle, its modulation kept
    as a Gaussian of that frequency keeps it.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    radius : float
        Radius, px.
    spokes : int
        Periods around the star.
    low : float
        Darkest, linear light.
    high : float
        Lightest, linear light.
    sigma : float
        Standard deviation of the Gaussian, px; above 0.
    """
    y, x = grid(width, height)
    r, phi = np.hypot(x - width / 2, y - height / 2), np.arctan2(y - height / 2, x - width / 2)
    frequency = spokes / (2 * math.pi * np.maximum(r, 1e-6))
    # Nearer the centre than half a cycle a pixel the grid holds nothing.
    kept = np.where(frequency < 0.5, np.exp(-2 * (math.pi * sigma * frequency) ** 2), 0)
    middle = (low + high) / 2
    value = middle + (high - low) / 2 * np.cos(spokes * phi) * kept * (r < radius)
    return np.asarray(value, dtype=np.float32)


def leaf_sizes(smallest: float, largest: float, count: int, rng: np.random.Generator) -> Doubles:
    """Radii with density r^-3 between two bounds: the same picture at every scale (Cao,
    Guichard, Hornung 2009).

    Parameters
    ----------
    smallest : float
        Radius of the smallest, px.
    largest : float
        Radius of the largest, px.
    count : int
        How many.
    rng : Generator
        Where chance comes from.
    """
    a, b = smallest**-2, largest**-2
    return np.asarray((a - rng.random(count) * (a - b)) ** -0.5)


def leaves(
    width: int,
    height: int,
    smallest: float,
    largest: float,
    low: float,
    high: float,
    seed: int,
    sigma: float,
) -> Floats:
    """Dead leaves: discs that cover each other until no ground is left, the foremost
    painted first.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    smallest : float
        Radius of the smallest, px.
    largest : float
        Radius of the largest, px.
    low : float
        Darkest, linear light.
    high : float
        Lightest, linear light.
    seed : int
        Where chance begins.
    sigma : float
        Standard deviation of the Gaussian, px; above 0.

    References
    ----------
    Cao, Guichard, Hornung: Measuring texture sharpness of a digital camera. Proc. SPIE
    7250, 2009.
    """
    rng = np.random.default_rng(seed)
    light, bare = np.zeros((height, width)), np.ones((height, width))
    while bare.max() > 1e-3:
        count = 4096
        radius = leaf_sizes(smallest, largest, count, rng)
        x = rng.uniform(-largest, width + largest, count)
        y = rng.uniform(-largest, height + largest, count)
        _lay(light, bare, x, y, radius, rng.uniform(low, high, count), sigma)
    return np.asarray(light / (1 - bare), dtype=np.float32)


@numba.njit(cache=True, nogil=True)
def _lay(
    light: Doubles,
    bare: Doubles,
    x: Doubles,
    y: Doubles,
    radius: Doubles,
    grey: Doubles,
    sigma: float,
) -> None:
    """Lay discs under what lies there already; their rim is that of a straight edge
    under the Gaussian.
    """
    height, width = light.shape
    for i in range(x.size):
        reach = radius[i] + 4 * sigma
        for row in range(max(0, int(y[i] - reach)), min(height, int(y[i] + reach) + 1)):
            for column in range(max(0, int(x[i] - reach)), min(width, int(x[i] + reach) + 1)):
                left = bare[row, column]
                if left < 1e-4:
                    continue
                distance = math.hypot(column + 0.5 - x[i], row + 0.5 - y[i]) - radius[i]
                if distance > 4 * sigma:
                    continue
                share = 0.5 - 0.5 * math.erf(distance / (sigma * ROOT2))
                light[row, column] += left * share * grey[i]
                bare[row, column] = left * (1 - share)


def points(
    width: int, height: int, places: list[tuple[float, float, float]], ground: float, sigma: float
) -> Floats:
    """Points of light, each (x, y, peak): a Gaussian of `sigma` px whose top is `peak`
    above the ground.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    places : list of (float, float, float)
        x, y and peak above the ground, linear light.
    ground : float
        What they stand on, linear light.
    sigma : float
        Standard deviation of the Gaussian, px; above 0.
    """
    plane = np.full((height, width), ground, dtype=np.float32)
    reach = math.ceil(5 * sigma)
    for x, y, peak in places:
        x0, y0 = max(0, int(x) - reach), max(0, int(y) - reach)
        part = plane[y0 : int(y) + reach + 1, x0 : int(x) + reach + 1]
        gy, gx = grid(part.shape[1], part.shape[0])
        part += np.asarray(
            peak * np.exp(-((gx + x0 - x) ** 2 + (gy + y0 - y) ** 2) / (2 * sigma**2)),
            dtype=np.float32,
        )
    return plane
