"""The transfer from a frame's tones to an output's: exposure, a monotone curve,
contrast, vignetting.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.srgb import LUMA
from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles
from glenhail.core.tone.matched import MatchedTone

# Encoded tones that shadows, mids and lights reach from and to. Common practice, no source.
ZONES = {"shadows": (0.0, 0.25), "mids": (0.25, 0.6), "lights": (0.6, 1.0)}
KNOTS = 24
LEAST_IN_KNOT, LEAST_IN_ZONE, LEAST_MIDS = 4, 8, 40
# Areas for exposure: not buried in noise, not near white (linear).
DARKEST, BRIGHTEST = 0.004, 0.8
ROUNDS = 8  # of taking the curve and the fall-off off each other
NEIGHBOURS = 4  # areas that count as one, since they share their content
NORMAL = 1.4826  # median absolute deviation to standard deviation


@dataclass(frozen=True)
class ToneCurve:
    """Encoded tones of the frame and what the output has for them (0..1, rising), with
    how far areas scatter about it.
    """

    source: list[float]
    output: list[float]
    scatter: float


def luminances(matched: MatchedTone) -> tuple[Doubles, Doubles]:
    """Linear luminance of the areas of frame and output.

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    weights = LUMA.astype(np.float64)
    return matched.source @ weights, matched.output @ weights


def exposure(matched: MatchedTone) -> Interval | None:
    """log2 of the output's over the frame's luminance, EV: the areas' median;

    None where there are too few useful ones.

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    frame, output = luminances(matched)
    useful = (frame > DARKEST) & (frame < BRIGHTEST) & (output > DARKEST / 4)
    return (
        middle(np.log2(output[useful] / frame[useful]))
        if int(useful.sum()) >= LEAST_IN_ZONE
        else None
    )


def middle(values: Doubles) -> Interval:
    """The median with its interval, from the median absolute deviation.

    Parameters
    ----------
    values : ndarray, shape (n,)
        Values, at least one.
    """
    value = float(np.median(values))
    error = (
        1.2533
        * NORMAL
        * float(np.median(np.abs(values - value)))
        / np.sqrt(max(1.0, values.size / NEIGHBOURS))
    )
    return Interval(value, value - 1.96 * error, value + 1.96 * error)


def curve(matched: MatchedTone) -> ToneCurve | None:
    """The monotone curve through the areas' encoded values: medians of equal counts,
    made to rise (Barlow et al. 1972).

    All three channels of an area count, as curves are usually applied to each of them
    (common practice, no source): the luma of a coloured area does not follow the curve
    of its channels.

    None where fewer than three groups of areas can be told apart.

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    from scipy.optimize import isotonic_regression  # slow to import

    frame, output = channels(matched)
    order = np.argsort(frame)
    groups = [
        g
        for g in np.array_split(order, min(KNOTS, order.size // LEAST_IN_KNOT or 1))
        if g.size >= LEAST_IN_KNOT
    ]
    if len(groups) < 3:
        return None
    x = np.array([float(np.median(frame[g])) for g in groups])
    y = np.array([float(np.median(output[g])) for g in groups])
    rising = np.asarray(
        isotonic_regression(y, weights=np.array([g.size for g in groups], dtype=float)).x
    )
    scatter = NORMAL * float(np.median(np.abs(output - np.interp(frame, x, rising))))
    return ToneCurve([round(float(v), 5) for v in x], [round(float(v), 5) for v in rising], scatter)


def channels(matched: MatchedTone) -> tuple[Doubles, Doubles]:
    """Encoded values of the plain areas' channels, frame and output, all in one row.

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    return encoded(matched.source[matched.plain].ravel()), encoded(
        matched.output[matched.plain].ravel()
    )


def encoded(linear: Doubles) -> Doubles:
    """sRGB codes (0..1) of linear values.

    Parameters
    ----------
    linear : ndarray
        Linear light, 1 is white.
    """
    return np.asarray(
        srgb.encode(linear.astype(np.float32).reshape(-1, 1)), dtype=np.float64
    ).ravel()


def decoded(codes: Doubles) -> Doubles:
    """Linear light of sRGB codes (0..1).

    Parameters
    ----------
    codes : ndarray
        sRGB codes, 0..1.
    """
    return np.asarray(srgb.decode(codes), dtype=np.float64)


def zones(matched: MatchedTone) -> dict[str, Interval]:
    """How much brighter the output is in shadows, mids and lights beside its exposure,
    encoded (1 is white).

    Zones with too few areas are left out.

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    level = replace(matched, output=matched.output * 2 ** -_level(matched))
    frame, output = channels(level)
    found = {}
    for name, (low, high) in ZONES.items():
        inside = (frame >= low) & (frame < high)
        if int(inside.sum()) >= LEAST_IN_ZONE:
            found[name] = middle(output[inside] - frame[inside])
    return found


def _level(matched: MatchedTone) -> float:
    """EV that most lit areas share: the middle of the shortest half of them (Andrews et
    al. 1972, shorth).

    Opened shadows or rolled-off lights are no half an exposure, as a median would have
    it.
    """
    frame, output = luminances(matched)
    lit = (frame > float(decoded(np.array([ZONES["mids"][0]]))[0])) & (output > DARKEST)
    if int(lit.sum()) < LEAST_MIDS:
        found = exposure(matched)
        return found.value if found is not None else 0.0
    stops = np.sort(np.log2(output[lit] / frame[lit]))
    half = stops.size // 2 + 1
    start = int((stops[half - 1 :] - stops[: stops.size - half + 1]).argmin())
    return float(np.median(stops[start : start + half]))


def contrast(matched: MatchedTone) -> Interval | None:
    """Coarse contrast, output over frame: the slope through encoded values of the
    areas, robust (Theil 1950, Sen 1968).

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    frame, output = channels(matched)
    if frame.size < LEAST_IN_ZONE:
        return None
    rng = np.random.default_rng(0)
    one, other = rng.integers(0, frame.size, (2, 20_000))
    apart = np.abs(frame[one] - frame[other]) > 0.1
    if int(apart.sum()) < 200:
        return None
    slopes = (output[one] - output[other])[apart] / (frame[one] - frame[other])[apart]
    value = float(np.median(slopes))
    error = (
        1.2533
        * NORMAL
        * float(np.median(np.abs(slopes - value)))
        / np.sqrt(frame.size / NEIGHBOURS)
    )
    return Interval(value, value - 1.96 * error, value + 1.96 * error)


def _through(matched: MatchedTone, found: ToneCurve) -> Doubles:
    """The frame's areas as the curve makes them, linear; beyond its ends it goes on
    level with them.
    """
    codes = encoded(matched.source.ravel())
    shift = np.interp(codes, found.source, np.asarray(found.output) - np.asarray(found.source))
    return np.asarray(srgb.decode(np.maximum(codes + shift, 0)), dtype=np.float64).reshape(
        matched.source.shape
    )


def vignetting(matched: MatchedTone) -> Interval | None:
    """How much brighter the output's corners are against its middle than the frame's,
    EV, once its tone curve is taken off.

    Curve and fall-off are found in turn, each with the other taken off: the fall-off is
    the straight line of the areas' EV over the squared distance from the middle. None
    where the areas do not reach from the middle to the corners. Without the curve,
    opened shadows would look like lit corners wherever the corners are dark.

    Parameters
    ----------
    matched : MatchedTone
        Areas of frame and output, averaged.
    """
    away = (matched.x**2 + matched.y**2) / 2
    slope, found = 0.0, None
    for _ in range(ROUNDS):
        found = _fall_off(
            replace(matched, output=matched.output * 2 ** (-slope * away)[:, None]), away
        )
        if found is None:
            return None
        slope += found.value
    assert found is not None
    half = (found.high - found.low) / 2
    return Interval(slope, slope - half, slope + half)


def _fall_off(matched: MatchedTone, away: Doubles) -> Interval | None:
    """What is left of it, once the curve as it looks now is taken off."""
    tones = curve(matched)
    if tones is None:
        return None
    frame, output = _through(matched, tones) @ LUMA.astype(np.float64), luminances(matched)[1]
    # Plain areas alone: smoothing encoded values darkens what is textured, wherever in the picture
    # that lies.
    useful = matched.plain & (frame > DARKEST) & (frame < BRIGHTEST) & (output > DARKEST / 4)
    far = away[useful]
    if far.size < LEAST_IN_ZONE or far.min() > 0.15 or far.max() < 0.6:
        return None
    stops = np.log2(output[useful] / frame[useful])
    keep = np.ones(far.size, dtype=bool)
    slope, base = 0.0, 0.0
    for _ in range(6):
        slope, base = np.polyfit(far[keep], stops[keep], 1)
        off = np.abs(stops - slope * far - base)
        keep = off <= 3 * max(1e-6, NORMAL * float(np.median(off)))
    left = stops[keep] - slope * far[keep] - base
    spread = float(np.sqrt(np.sum((far[keep] - far[keep].mean()) ** 2)))
    error = float(left.std()) / max(1e-9, spread) * np.sqrt(NEIGHBOURS)
    return Interval(float(slope), float(slope - 1.96 * error), float(slope + 1.96 * error))
