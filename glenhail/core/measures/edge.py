"""Sharpness of an edge: mtf50 and rise; what its other measures share."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.measures.edge_profile import (
    NOISE_FLOOR,
    REACH,
    Edge,
    EdgeProfile,
    EdgeProfiles,
    crossing,
    find_edge,
    noise_within,
    profiles,
    widths_of,
)
from glenhail.core.measures.edge_sides import unseen_share
from glenhail.core.measures.places import pseudo
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.segments import best_segment
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Doubles, Floats, Rect
from glenhail.core.statistics.intervals import jackknife

RUNS = 16
GRID = "output pixels, not resampled; with_interval per frame pixel"
# How far either side of an edge is looked at, frame px: the widest at which the plateaus are still
# plain.
REACHES = (100.0, 64.0, 48.0, REACH, 20.0, 12.0)
PLAIN, AS_PLAIN = 0.01, 1.3  # of the step; of what the narrowest has
# Largest errors seen on noiseless Gaussian edges of 0.4 to 6 px at any angle (docs/measures.md):
# part of each interval.
MTF50_BIAS, RISE_BIAS = 0.005, 0.01
UNSURE = 0.6  # of a value that its interval may reach
HALF_CODE = 0.5 / 255
MOST_CUT_OFF = (
    0.1  # share of the pixels at one distance from the edge that may lie at white or at black
)


def scale_of(subject: Subject) -> float:
    """Output px per frame px.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    """
    mapping = subject.output.mapping
    return (mapping.sx + mapping.sy) / 2


@dataclass(frozen=True)
class EdgeFound:
    """An edge in an output with its profiles; where in the frame it lies, and how good
    it is (0 to 1).
    """

    edge: Edge
    profiles: EdgeProfiles
    segment: Rect
    quality: float


@dataclass(frozen=True)
class Site:
    """Where in the frame an edge is measured: the part of the patch that holds it, how
    far from it, and how good it is.
    """

    segment: Rect
    reach: float
    quality: float


def site_of(subject: Subject, rect: Rect) -> Site:
    """The part of a patch, in the frame's pixels, that holds its best straight edge.

    It is looked for in the truth, or else in the frame, blurred a little if noise hides
    it there, so that all outputs are measured at the same place and equally far. Where
    nothing is found, each output's whole patch has to do.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.
    """

    def find() -> Site:
        reference = subject.reference
        target = reference.mapping.rect(rect).whole()
        if not target.inside(reference.picture.width, reference.picture.height):
            return Site(rect, REACH, 0.0)
        light = srgb.luminance(reference.picture.crop(target))
        scale = (reference.mapping.sx + reference.mapping.sy) / 2
        found = best_segment(light, scale)
        if found is None:
            return Site(rect, REACH, 0.0)
        r = found.rect
        part = light[int(r.y) : int(r.y + r.h), int(r.x) : int(r.x + r.w)]
        whole = r.w == target.w and r.h == target.h
        segment = (
            rect
            if whole
            else reference.mapping.back(Rect(target.x + r.x, target.y + r.y, r.w, r.h))
        )
        return Site(segment, _reach(part, scale), found.quality)

    return subject.shared("site", rect, find)


def _reach(light: Floats, scale: float) -> float:
    """The widest reach whose plateaus are as plain as those of the narrowest that will
    do.
    """
    try:
        found = profiles(find_edge(light, scale), 0, scale, REACHES[0])
    except NotMeasurable:
        return REACH
    noises = {
        reach: noise for reach in REACHES if (noise := noise_within(found, reach)) is not None
    }
    if not noises:
        return REACH
    limit = max(PLAIN, AS_PLAIN * min(noises.values()))
    return next(reach for reach, noise in noises.items() if noise <= limit)


def profiles_of(subject: Subject, rect: Rect) -> EdgeFound:
    """A patch's edge and its profiles, found once for the measures that share them.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Raises
    ------
    NotMeasurable
        If there is no edge, or a side of it is cut off at white or black in the output
        or in the frame.
    """

    def find() -> EdgeFound:
        site, scale = site_of(subject, rect), scale_of(subject)
        pixels = subject.native(site.segment)
        edge = find_edge(srgb.luminance(pixels), scale)
        found = profiles(edge, RUNS, scale, site.reach)
        _refuse_cut_off(edge, pixels, found, subject.output.white)
        if subject.output.picture is not subject.source:
            _refuse_frame_cut_off(subject, site, found.reach / scale)
        return EdgeFound(edge, found, site.segment, site.quality)

    return subject.once("profiles", rect, find)


def _refuse_frame_cut_off(subject: Subject, site: Site, reach: float) -> None:
    """What the frame has lost at white no output shows, whatever smoothed over it."""
    own = subject.source.crop(site.segment.whole())
    if float(own.max()) < _near_white(1.0)[0] and float(own.max(axis=2).min()) > _near_black():
        return
    try:
        edge = find_edge(srgb.luminance(own))
        _refuse_cut_off(edge, own, profiles(edge, 0, 1.0, reach), 1.0, " in the frame")
    except NotMeasurable as why:
        if "cut off" in str(why):
            raise


def _refuse_cut_off(
    edge: Edge, pixels: Floats, found: EdgeProfiles, white: float, where: str = ""
) -> None:
    (least, most), black = _near_white(white), _near_black()
    brightest = pixels.max(axis=2)
    for side, at_end in (
        ("bright side is cut off at white", (brightest >= least) & (brightest <= most)),
        ("dark side is cut off at black", brightest <= black),
    ):
        if at_end.mean() < 1e-3:
            continue
        distance = np.round(edge.distance / found.scale).astype(int)
        inside = np.abs(edge.distance) < found.reach
        index = (distance - distance.min())[inside]
        share = np.bincount(index, weights=edge.upright(at_end)[inside]) / np.maximum(
            np.bincount(index), 1
        )
        if share.max() > MOST_CUT_OFF:
            raise NotMeasurable(f"the edge's {side}{where}: its true shape is lost")


def _near_white(white: float) -> tuple[float, float]:
    """Half a code about white, linear."""
    return white * float(srgb.decode(np.array(1 - HALF_CODE))), white * float(
        srgb.decode(np.array(1 + HALF_CODE))
    )


def _near_black() -> float:
    return float(srgb.decode(np.array(HALF_CODE)))


def with_interval(
    whole: float, left_out: Doubles, bias: float = 0.0
) -> tuple[Interval, tuple[float, ...]]:
    """An estimate over all rows with its interval, from leaving out one sixteenth of
    the edge at a time, and its parts.

    `bias` is the share of the value by which the method itself may be off.

    Parameters
    ----------
    whole : float
        The estimate from everything.
    left_out : ndarray, shape (n,)
        Estimates that each leave out one part.
    bias : float
        Share of the value by which the method may be off.
    """
    found = jackknife(whole, left_out)
    if found.high - found.value > UNSURE * abs(whole):
        raise NotMeasurable("no single straight edge found in the patch: its parts do not agree")
    reach = math.hypot(found.high - found.value, bias * whole)
    return Interval(whole, whole - reach, whole + reach), pseudo(whole, left_out)


def _halves(found: EdgeProfiles) -> Doubles:
    """Frequencies at which each profile's contrast falls to one half, cycles per output
    px.
    """
    frequency, transfer = found.transfers
    made = [crossing(frequency, t, 0.5) for t in transfer]
    if any(m is None for m in made):
        raise NotMeasurable(
            "contrast stays above one half up to 1 cycle/px: sharper than can be measured"
        )
    return np.array(made, dtype=np.float64)


def refuse_noisy(p: EdgeProfile, most: float = NOISE_FLOOR) -> None:
    """Refuse a profile whose plateaus are too noisy.

    Parameters
    ----------
    p : EdgeProfile
        A profile across the edge.
    most : float
        The most noise it may have, share of the step.

    Raises
    ------
    NotMeasurable
        With how noisy it is.
    """
    if p.noise > most:
        raise NotMeasurable(
            f"the edge is too noisy: {100 * p.noise:.0f} % of its step, at most {100 * most:.0f} %"
        )


def mtf50(subject: Subject, rect: Rect) -> MeasuredValue:
    """Spatial frequency at which an edge's contrast falls to one half, cycles per frame
    pixel.

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
    ISO 12233:2017, e-SFR. A Gaussian spread of sigma px has mtf50 = 0.18739 / sigma.
    """
    edges, scale = profiles_of(subject, rect), scale_of(subject)
    refuse_noisy(edges.profiles.whole, 2 * NOISE_FLOOR)
    whole, *left_out = scale * _halves(edges.profiles)
    found, parts = with_interval(
        float(whole), np.array(left_out), MTF50_BIAS + unseen_share(edges.profiles)
    )
    details = _details(edges, scale) | {
        "cycles_per_output_px": found.value / scale,
        "lp_per_picture_height": found.value * subject.source.height,
    }
    return MeasuredValue(found.value, max(0.0, found.low), found.high, GRID, details, parts)


def _details(found: EdgeFound, scale: float) -> dict[str, Any]:
    """The curves behind the number, thinned for keeping."""
    p = found.profiles.whole
    frequency, transfer = found.profiles.transfers
    kept = np.flatnonzero(frequency <= 0.6 * max(1.0, 1 / scale))
    pick = kept[:: max(1, kept.size // 60)]
    others = transfer[1:, pick]
    error = np.sqrt(
        (len(others) - 1) / len(others) * ((others - others.mean(axis=0)) ** 2).sum(axis=0)
    )
    near = np.flatnonzero(np.abs(p.distance) <= REACH * scale)
    thin = near[:: max(1, near.size // 256)]
    return {
        "angle_deg": found.edge.angle,
        "step": p.step,
        "segment": [
            round(v, 2)
            for v in (found.segment.x, found.segment.y, found.segment.w, found.segment.h)
        ],
        "reach_frame_px": round(found.profiles.reach / scale, 1),
        "quality": round(found.quality, 2),
        "mtf": {
            "cycles_per_frame_px": _rounded(frequency[pick] * scale),
            "transfer": _rounded(transfer[0, pick]),
            "error": _rounded(2 * error),
        },
        "profile": {
            "frame_px": _rounded(p.distance[thin] / scale),
            "light": _rounded(p.light[thin]),
        },
    }


def _rounded(values: np.ndarray) -> list[float]:
    return [round(float(v), 4) for v in values]


def rise(subject: Subject, rect: Rect) -> MeasuredValue:
    """Distance over which an edge rises from 10 to 90 % of its step, frame px;

    Gaussian: 2.563 sigma.

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
    edges, scale = profiles_of(subject, rect), scale_of(subject)
    refuse_noisy(edges.profiles.whole)
    whole, left_out = widths_of(edges.profiles)
    if whole is None:
        raise NotMeasurable("the edge is wider than the patch")
    found, parts = with_interval(whole / scale, left_out / scale, RISE_BIAS)
    details = {
        "output_px": found.value * scale,
        "per_mille_of_picture_height": 1000 * found.value / subject.source.height,
    }
    return MeasuredValue(found.value, max(0.0, found.low), found.high, GRID, details, parts)
