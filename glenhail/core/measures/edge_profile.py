"""The slanted-edge method (ISO 12233:2017, annex D): from a patch to its edge profile
and MTF.

The standard averages pixels in bins of a quarter px. Here a spline with knots a quarter
px apart goes through them, since bins misplace pixels by up to an eighth, and stay
empty where the slope is a ratio of small numbers (1:2, 1:3).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np

from glenhail.core.errors import NotMeasurable
from glenhail.core.filters.blur import gaussian
from glenhail.core.measures import edge_line
from glenhail.core.measures import edge_spline as spline
from glenhail.core.measures.edge_spline import ORDER, EdgeSamples
from glenhail.core.picture import Doubles, Floats
from glenhail.core.statistics.ordered import NORMAL, median, ordered, quantile

BIN = 1 / 4  # px
LEAST_ALONG, LEAST_ACROSS = 20, 20
ANGLES = (2.0, 43.0)
ASTRAY = 3.0  # degrees that the line may differ from where the gradients point, near the diagonal
LEAST_STEP = 0.01  # of display white, linear
NOISE_FLOOR = 0.05  # of the step
REACH = 32.0  # subject px on either side of the edge that are looked at where nothing else is said
LEAST_REACH = 6.0  # px
PLATEAU, QUIET = (
    0.7,
    0.5,
)  # shares of the reach beyond which the plateaus lie, and beyond which noise is told
SETTLED = 0.005  # of the step, within which a profile has come to its plateau
NEAR, STILL = (
    10.0,
    0.003,
)  # subject px about the line within which its place is found, until it moves by less
ASIDE = 1.5  # subject px that rows may lie aside of it
LEAST_MASS, MOST_ROWS = 0.3, 0.85  # of the strongest rows' contrast, that so many rows have to have
FLAT, SOFT = 2.0, 1.5  # rises that the window leaves alone, and how much further it fades
LEAST_FLAT = 5.0  # subject px
FINEST = 4096  # places of the Fourier transform for each subject px
NO_EDGE = "no single straight edge found in the patch"


@dataclass(frozen=True)
class Edge:
    """Where an edge runs in an upright patch (edge more vertical than horizontal): x =
    at + slope * y.
    """

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
class EdgeProfile:
    """Edge spread function: light across the edge at the spline's knots, 0 and 1 at the
    plateaus.

    ``noise`` is the plateaus' deviation, as a share of the step.
    """

    distance: Doubles
    light: Doubles
    step: float
    noise: float


def find_edge(light: Floats, scale: float = 1.0) -> Edge:
    """The one straight edge of a patch of linear luminance, dark side made to lie left.

    ``scale`` is how many pixels of the patch go to one of the subject: the edge of an
    enlargement is as much wider.

    Parameters
    ----------
    light : ndarray, shape (h, w), float32
        Linear luminance, 1 is white.
    scale : float
        Pixels of the patch for each of the subject's.

    Raises
    ------
    NotMeasurable
        If there is none, its contrast is too low, or its angle does not suit the
        method.
    """
    plane = np.asarray(light, dtype=np.float64)
    if min(plane.shape) < LEAST_ALONG:
        raise NotMeasurable(
            f"the patch is too small, needs {LEAST_ALONG} × {LEAST_ACROSS} output px"
        )
    turned, leaning = _direction(light)
    plane = plane.T if turned else plane
    mirrored = bool(plane[:, -3:].mean() < plane[:, :3].mean())
    plane = plane[:, ::-1] if mirrored else plane
    edge = Edge(plane, *_line(plane, max(1.0, scale)), turned, mirrored)
    angle = (
        max(edge.angle, leaning)
        if leaning > ANGLES[1] - ASTRAY and abs(leaning - edge.angle) > ASTRAY
        else edge.angle
    )
    if not ANGLES[0] <= angle <= ANGLES[1]:
        raise NotMeasurable(f"edge angle {angle:.1f}°, needs {ANGLES[0]:.0f} to {ANGLES[1]:.0f}")
    return edge


def _direction(light: Floats) -> tuple[bool, float]:
    """Whether an edge lies nearer to the rows than to the columns, and its angle from
    the nearer, degrees (structure tensor).
    """
    smooth = cv2.blur(
        np.ascontiguousarray(light, dtype=np.float32), (5, 5), borderType=cv2.BORDER_REFLECT
    )
    gx, gy = smooth[1:-1, 2:] - smooth[1:-1, :-2], smooth[2:, 1:-1] - smooth[:-2, 1:-1]
    xx, yy, xy = (float(np.vdot(a, b)) for a, b in ((gx, gx), (gy, gy), (gx, gy)))
    return yy > xx, math.degrees(0.5 * math.atan2(abs(2 * xy), abs(xx - yy)))


def _line(plane: Doubles, scale: float) -> tuple[float, float]:
    """Centroid of the derivative per row, line through them; several rounds, each
    nearer the line.
    """
    along = min(2.0, plane.shape[0] / 24)
    smooth = gaussian(plane, (along, 1.0), "held")
    slopes = np.diff(smooth, axis=1)
    near = min(NEAR * scale, slopes.shape[1] / 4)
    status, line, rows = edge_line.follow(slopes, near, STILL * scale, 3 * along, LEAST_ALONG)
    if status != edge_line.FOUND:
        raise NotMeasurable(NO_EDGE)
    at, slope = line
    y, mass, centre, sure = rows
    half = slopes.shape[1] / 2
    across = np.abs(at + slope * y - half) < half - 2
    if (
        not across.any()
        or (mass[across] > LEAST_MASS * quantile(ordered(mass), 0.9)).mean() < MOST_ROWS
    ):
        raise NotMeasurable(NO_EDGE)
    rest = (centre - at - slope * y)[sure]
    if NORMAL * median(np.abs(rest)) > ASIDE * scale:
        raise NotMeasurable(NO_EDGE)
    return at, slope


@dataclass(frozen=True)
class EdgeProfiles:
    """An edge's profile over all rows, and others that each leave out one run of them.

    ``gathered`` has the pixels behind them by run and distance; ``scale`` is px for
    each of the subject's.
    """

    gathered: EdgeSamples
    splines: tuple[Doubles, ...]
    profiles: tuple[EdgeProfile, ...]
    scale: float

    @property
    def whole(self) -> EdgeProfile:
        """Over all rows."""
        return self.profiles[0]

    @property
    def reach(self) -> float:
        """How far it was looked on either side, px."""
        return float(self.gathered.knots[-1])

    @cached_property
    def transfers(self) -> tuple[Doubles, Doubles]:
        """Frequencies in cycles/px, and the modulation transfer of each profile, shape
        (profiles, frequencies).

        Window over the derivative: level as far as the profile is not settled, then
        fading by a raised cosine. ISO 12233:2017 fades from the peak on, which makes a
        soft edge seem sharper (8 % at a Gaussian of 6 px in a patch of 128 px).
        """
        places = (self.gathered.knots[:-1] + self.gathered.knots[1:]) / 2
        places = np.concatenate(
            [[places[0] - self.gathered.step], places, [places[-1] + self.gathered.step]]
        )
        flat = self._flat()
        fade = np.clip(
            (np.abs(places) - flat) / max(min(SOFT * flat, self.reach) - flat, self.gathered.step),
            0,
            1,
        )
        window = np.where(fade < 1, 0.5 + 0.5 * np.cos(np.pi * fade), 0)
        size = 2 ** math.ceil(math.log2(max(FINEST * self.scale, 2 * places.size)))
        return spline.transfers(np.stack(self.splines), window, self.gathered.step, size)

    def _flat(self) -> float:
        """How far from the edge the window is level, px."""
        p = self.whole
        wide = width_of(p)
        beyond = np.abs(p.light - (p.distance > 0)) > max(SETTLED, 3 * p.noise)
        last = float(
            np.abs(p.distance[beyond & (np.abs(p.distance) < PLATEAU * self.reach)]).max(
                initial=0.0
            )
        )
        least = max(LEAST_FLAT * self.scale, last, FLAT * (wide or 0.0))
        return min(least, 0.9 * self.reach)


def profiles(edge: Edge, runs: int, scale: float = 1.0, reach: float = REACH) -> EdgeProfiles:
    """The profile over all rows, and others that each leave out one of `runs` runs of
    rows; none for less than two runs.

    ``reach`` is how far the edge is looked at on either side, subject px, as far as the
    patch goes.

    Parameters
    ----------
    edge : Edge
        The edge, its dark side left.
    runs : int
        How many runs of rows are left out in turn.
    scale : float
        Pixels of the patch for each of the subject's.
    reach : float
        How far it is looked, px.

    Raises
    ------
    NotMeasurable
        If the plateaus are too short, too close in brightness, or too noisy.
    """
    distance = edge.distance
    # Three rows in four must reach that far; the corners of a steep edge need not.
    left, right = quantile(ordered(-distance[:, 0]), 0.25), quantile(ordered(distance[:, -1]), 0.25)
    far = min(reach * scale, left, right)
    if far < LEAST_REACH:
        raise NotMeasurable(
            f"the edge runs too close to the patch's side, needs {LEAST_REACH:.0f} px on both sides"
        )
    gathered = EdgeSamples(
        np.ascontiguousarray(edge.light), edge.at, edge.slope, far, BIN, max(1, runs)
    )
    splines = gathered.splines()
    return EdgeProfiles(
        gathered,
        tuple(splines),
        tuple(_profile(np.asarray(gathered.knots, dtype=np.float64), s, far) for s in splines),
        scale,
    )


def noise_within(found: EdgeProfiles, reach: float) -> float | None:
    """The plateaus' noise, had the edge been looked at no farther than `reach` subject
    px; None where its step is too small.

    Parameters
    ----------
    found : EdgeProfiles
        The edge's profiles, over all rows and without some.
    reach : float
        How far on either side, subject px.
    """
    far = min(reach * found.scale, found.reach)
    inside = np.abs(found.gathered.knots) <= far + 1e-9
    try:
        return _profile(found.gathered.knots[inside], found.splines[0], far, inside).noise
    except NotMeasurable:
        return None


def _profile(
    knots: Doubles, coefficients: Doubles, reach: float, inside: np.ndarray | slice = slice(None)
) -> EdgeProfile:
    spread = spline.values(coefficients)[inside]
    dark, bright = spread[knots < -PLATEAU * reach], spread[knots > PLATEAU * reach]
    low, high = median(dark), median(bright)
    if high - low < LEAST_STEP:
        raise NotMeasurable(
            f"edge contrast {100 * (high - low):.1f} % of white, needs {100 * LEAST_STEP:.0f} %"
        )
    noise = max(_ripple(spread[side * knots > QUIET * reach]) for side in (-1, 1)) / (high - low)
    return EdgeProfile(knots, np.asarray((spread - low) / (high - low)), high - low, noise)


def _ripple(plateau: Doubles) -> float:
    """Standard deviation of a plateau about its own straight line."""
    x = np.arange(plateau.size) - (plateau.size - 1) / 2
    rest = plateau - plateau.mean() - x * (x @ plateau) / (x @ x)
    return float(rest.std())


def widths_of(found: EdgeProfiles) -> tuple[float | None, Doubles]:
    """`width_of` over all rows, and without each run: there the same cubics say how far
    each crossing moves.

    Parameters
    ----------
    found : EdgeProfiles
        The edge's profiles, over all rows and without some.
    """
    whole = found.whole
    places = _crossings(whole)
    if places is None:
        return None, np.zeros(0)
    lights = (
        np.stack([p.light for p in found.profiles[1:]])
        if len(found.profiles) > 1
        else np.zeros((0, whole.light.size))
    )
    moved = np.zeros(lights.shape[0])
    for sign, at, level, near in places:
        part = np.abs(sign * whole.distance - at) <= near
        if part.sum() < ORDER:
            continue
        fit = np.linalg.pinv(np.vander(sign * whole.distance[part] - at, ORDER, increasing=True))
        slope = float(fit[1] @ whole.light[part])
        moved += (level - lights[:, part] @ fit[0]) / slope if slope else 0.0
    total = sum(at for _, at, _, _ in places)
    return total, np.asarray(total + moved)


def width_of(p: EdgeProfile) -> float | None:
    """Distance from 10 to 90 % of the step, px, outwards from the middle;

    None where the patch does not hold it.

    About either crossing a cubic is laid through the profile, so that noise does not
    bring the first crossing forward.

    Parameters
    ----------
    p : EdgeProfile
        A profile across the edge.
    """
    places = _crossings(p)
    return None if places is None else sum(at for _, at, _, _ in places)


def _crossings(p: EdgeProfile) -> list[tuple[int, float, float, float]] | None:
    """Where the profile crosses 90 % and 10 %: side (1 or -1), distance from the edge,
    level, and how far about it was fitted.
    """
    middle = int(np.abs(p.distance).argmin())
    up = crossing(p.distance[middle:], -p.light[middle:], -0.9)
    down = crossing(-p.distance[middle::-1], p.light[middle::-1], 0.1)
    if up is None or down is None:
        return None
    near = max(2 * (p.distance[1] - p.distance[0]), (up + down) / 5)
    return [
        (s, _refined(s * p.distance, p.light, at, level, near), level, near)
        for s, at, level in ((1, up, 0.9), (-1, down, 0.1))
    ]


def _refined(distance: Doubles, light: Doubles, at: float, level: float, near: float) -> float:
    """Where a cubic through the profile about a place crosses a level; the place itself
    where it does not.
    """
    for _ in range(3):
        part = np.abs(distance - at) <= near
        if part.sum() < ORDER:
            return at
        cubic = np.polynomial.Polynomial.fit(
            distance[part] - at, light[part] - level, 3, domain=[-near, near]
        )
        slope = float(cubic.deriv()(0.0))
        move = -float(cubic(0.0)) / slope if slope else math.inf
        if abs(move) > near:
            return at
        at += move
    return at


def crossing(x: Doubles, y: Doubles, level: float) -> float | None:
    """The first x at which y falls through a level, interpolated;

    None if it never does.

    Parameters
    ----------
    x : ndarray, shape (n,)
        Places across.
    y : ndarray, shape (n,)
        Values there.
    level : float
        The level it falls through.
    """
    below = np.flatnonzero(y < level)
    if below.size == 0 or below[0] == 0:
        return None
    i = int(below[0])
    return float(x[i - 1] + (y[i - 1] - level) / (y[i - 1] - y[i]) * (x[i] - x[i - 1]))
