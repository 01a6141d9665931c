"""Points of light: which of them an output still has, and whether it drew them out."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.filters.blur import gaussian
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Doubles, Floats, Rect
from glenhail.core.statistics.ordered import robust_deviation

INNER, OUTER = 1.2, 2.4  # px, Gaussians whose difference answers to points
STRONG, WEAK = 8.0, 4.0  # noise deviations of that difference: to be looked for, to be found again
LEAST_RISE = 2.0  # codes
NEAR = 1.0  # frame px within which a light is the same one
REACH = 4  # px about a light that its shape is told from
LEAST_LIGHTS = 3
CODES = np.float32(255)


@dataclass(frozen=True)
class Lights:
    """Places, px from the patch's corner (x, y), shape (n, 2), and strengths in codes;
    noise of what they were looked for in.
    """

    places: Doubles
    strength: Doubles
    noise: float

    def stronger(self, least: float) -> Lights:
        """Those of at least this strength."""
        kept = self.strength > least
        return Lights(self.places[kept], self.strength[kept], self.noise)

    def surely(self) -> Lights:
        """Those that are strong enough to be looked for."""
        return self.stronger(max(STRONG * self.noise, LEAST_RISE))


def find_lights(luma: Floats) -> Lights:
    """Points brighter than their surroundings: maxima of a difference of Gaussians
    above its noise, to a fraction of a px.

    Parameters
    ----------
    luma : ndarray, shape (h, w), float32
        Encoded luma.
    """
    answer = gaussian(luma, INNER) - gaussian(luma, OUTER)
    noise = robust_deviation(answer)
    peak = (answer == cv2.dilate(answer, np.ones((5, 5), np.uint8))) & (
        answer > max(WEAK * noise, LEAST_RISE / 2)
    )
    peak[:REACH], peak[-REACH:], peak[:, :REACH], peak[:, -REACH:] = False, False, False, False
    rows, columns = np.divmod(np.flatnonzero(peak), peak.shape[1])
    places = [_refined(answer, int(y), int(x)) for y, x in zip(rows, columns, strict=True)]
    return Lights(np.array(places).reshape(-1, 2), answer[rows, columns].astype(np.float64), noise)


def _refined(answer: Floats, y: int, x: int) -> tuple[float, float]:
    """Vertex of a parabola through a maximum and its neighbours, each way."""

    def vertex(before: float, at: float, after: float) -> float:
        bend = before - 2 * at + after
        return 0.0 if bend >= 0 else float(np.clip((before - after) / (2 * bend), -0.5, 0.5))

    across = vertex(*(float(v) for v in answer[y, x - 1 : x + 2]))
    down = vertex(*(float(v) for v in answer[y - 1 : y + 2, x]))
    return x + 0.5 + across, y + 0.5 + down


def _planes(subject: Subject, rect: Rect) -> tuple[Floats, Floats, str]:
    """Luma of the reference and of the output on the frame's grid, codes."""
    wanted = rect.whole()
    for name, laid in (("this output", subject.output), ("the truth", subject.reference)):
        if shared_part(wanted, laid.mapping, laid.usable) != wanted:
            raise NotMeasurable(f"the patch reaches beyond the edge of {name}")
    one, two = (_luma(laid, wanted) for laid in (subject.reference, subject.output))
    return one[0], two[0], two[1]


def _luma(laid: AlignedPicture, rect: Rect) -> tuple[Floats, str]:
    placed = to_frame_grid(laid.picture.pixels, laid.mapping, rect)
    return srgb.luma(placed.pixels) * CODES, placed.grid


@dataclass(frozen=True)
class _Matched:
    """The reference's lights, which of them were found again and where, and how many
    new ones there are.
    """

    reference: Lights
    found: np.ndarray
    elongation: Doubles
    new: int
    grid: str


def _matched(subject: Subject, rect: Rect) -> _Matched:
    def find() -> _Matched:
        own, made, grid = _planes(subject, rect)
        all_own, again = find_lights(own), find_lights(made)
        lights, strong = all_own.surely(), again.surely()
        if lights.strength.size < LEAST_LIGHTS:
            raise NotMeasurable(
                f"{lights.strength.size} points of light found, needs {LEAST_LIGHTS}"
            )
        gaps = (
            np.hypot(*(lights.places[:, None] - again.places[None]).transpose(2, 0, 1))
            if again.strength.size
            else None
        )
        found = (
            gaps.min(axis=1) <= NEAR if gaps is not None else np.zeros(lights.strength.size, bool)
        )
        new = 0
        if strong.strength.size:
            to_known = np.hypot(*(strong.places[:, None] - all_own.places[None]).transpose(2, 0, 1))
            new = int((to_known.min(axis=1) > 2 * NEAR).sum())
        ratio = np.array([_long(made, *p) / _long(own, *p) for p in lights.places[found]])
        return _Matched(lights, found, ratio, new, grid)

    return subject.once("lights", rect, find)


def _long(luma: Floats, x: float, y: float) -> float:
    """Length over width of a light: root of the ratio of its second moments, above its
    surroundings.
    """
    left, top = int(x) - REACH, int(y) - REACH
    window = luma[top : top + 2 * REACH + 1, left : left + 2 * REACH + 1].astype(np.float64)
    rim = np.concatenate([window[0], window[-1], window[1:-1, 0], window[1:-1, -1]])
    above = np.maximum(window - np.median(rim), 0)
    above[above < 0.1 * above.max()] = 0
    v, u = np.mgrid[0 : window.shape[0], 0 : window.shape[1]]
    mass = above.sum()
    if mass <= 0:
        return 1.0
    du, dv = u - (above * u).sum() / mass, v - (above * v).sum() / mass
    # A pixel's own width, 1/12, belongs to neither axis.
    xx, yy, xy = (
        (above * m).sum() / mass + extra
        for m, extra in ((du * du, 1 / 12), (dv * dv, 1 / 12), (du * dv, 0))
    )
    half, turn = (xx + yy) / 2, math.hypot((xx - yy) / 2, xy)
    return math.sqrt((half + turn) / max(half - turn, 1e-3))


def lights_kept(subject: Subject, rect: Rect) -> MeasuredValue:
    """Share of the points of light found again within 1 frame px, per cent; against the
    truth, or else the frame.

    The interval is Wilson's for a share (1927).

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
    m = _matched(subject, rect)
    count, share = m.found.size, float(m.found.mean())
    z2 = 1.96**2
    middle = (share + z2 / (2 * count)) / (1 + z2 / count)
    reach = 1.96 * math.sqrt(share * (1 - share) / count + z2 / (4 * count**2)) / (1 + z2 / count)
    details = {"lights": count, "found": int(m.found.sum()), "new": m.new}
    return MeasuredValue(
        100 * share, 100 * max(0.0, middle - reach), 100 * min(1.0, middle + reach), m.grid, details
    )


def lights_long(subject: Subject, rect: Rect) -> MeasuredValue:
    """How much longer than wide lights have become, median of output over reference:

    1 is unchanged, more are streaks.

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
    m = _matched(subject, rect)
    if m.elongation.size < LEAST_LIGHTS:
        raise NotMeasurable(
            f"{m.elongation.size} points of light found again, needs {LEAST_LIGHTS}"
        )
    ordered = np.sort(m.elongation)
    share = min(0.5, 0.98 / math.sqrt(ordered.size))
    low, high = np.quantile(ordered, [0.5 - share, 0.5 + share])
    return MeasuredValue(
        float(np.median(ordered)), float(low), float(high), m.grid, {"lights": int(ordered.size)}
    )
