"""Sharpness and halos of an edge: mtf50, rise, overshoot, undershoot."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.edge_profile import NOISE_FLOOR, Edge, Profile, crossing, find_edge, profiles
from glenhail.core.measures.intervals import Interval, jackknife
from glenhail.core.measures.places import pseudo
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.segments import best_segment
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Rect

GROUPS = 16
GRID = "output pixels, not resampled; told per frame pixel"


def _scale(subject: Subject) -> float:
    mapping = subject.output.mapping
    return (mapping.sx + mapping.sy) / 2


@dataclass(frozen=True)
class Profiles:
    """An edge's profile over all rows, and others that each leave out one sixteenth of the edge; where in the frame it lies."""

    edge: Edge
    whole: Profile
    left_out: tuple[Profile, ...]
    segment: Rect
    quality: float


def edge_of(subject: Subject, rect: Rect) -> tuple[Rect, float]:
    """The part of a patch, in the frame's pixels, that holds its best straight edge, and how good it is (0 to 1).

    It is looked for in the truth, or else in the frame, blurred a little if noise hides it there, so that all outputs are
    measured at the same place. Where nothing is found, each output's whole patch has to do.
    """

    def find() -> tuple[Rect, float]:
        reference = subject.reference
        target = reference.mapping.rect(rect).whole()
        if not target.inside(reference.picture.width, reference.picture.height):
            return rect, 0.0
        light = srgb.luminance(reference.picture.crop(target))
        found = best_segment(light)
        if found is None or (found.rect.w == target.w and found.rect.h == target.h):
            return rect, found.quality if found else 0.0
        r = found.rect
        return reference.mapping.back(Rect(target.x + r.x, target.y + r.y, r.w, r.h)), found.quality

    return subject.once("segment", rect, find)


def profiles_of(subject: Subject, rect: Rect) -> Profiles:
    """A patch's edge and its profiles, found once for the measures that share them."""

    def find() -> Profiles:
        segment, quality = edge_of(subject, rect)
        edge = find_edge(srgb.luminance(subject.native(segment)))
        whole, *left_out = profiles(edge, GROUPS)
        return Profiles(edge, whole, tuple(left_out), segment, quality)

    return subject.once("profiles", rect, find)


def _with_interval(edges: Profiles, estimate: Callable[[Profile], float], factor: float) -> tuple[Interval, tuple[float, ...]]:
    """An estimate over all rows times a factor; its interval and parts from leaving out one sixteenth of the edge at a time."""
    left_out = factor * np.array([estimate(p) for p in edges.left_out])
    found = jackknife(factor * estimate(edges.whole), left_out)
    return found, pseudo(found.value, left_out)


def _mtf50(p: Profile) -> float:
    if p.noise > NOISE_FLOOR * 2:
        raise NotMeasurable(f"the edge is too noisy: {100 * p.noise:.0f} % of its step, at most {200 * NOISE_FLOOR:.0f} %")
    found = crossing(*p.transfer, 0.5)
    if found is None:
        raise NotMeasurable("contrast stays above one half up to 1 cycle/px: sharper than can be measured")
    return found


def mtf50(subject: Subject, rect: Rect) -> Measured:
    """Spatial frequency at which an edge's contrast falls to one half, cycles per frame pixel.

    References
    ----------
    ISO 12233:2017, e-SFR. A Gaussian spread of sigma px has mtf50 = 0.18739 / sigma.
    """
    edges, scale = profiles_of(subject, rect), _scale(subject)
    found, parts = _with_interval(edges, _mtf50, scale)
    details = _details(edges, scale) | {
        "cycles_per_output_px": found.value / scale,
        "lp_per_picture_height": found.value * subject.source.height,
    }
    return Measured(found.value, max(0.0, found.low), found.high, GRID, details, parts)


def _details(found: Profiles, scale: float) -> dict[str, Any]:
    """The curves behind the number, thinned for keeping."""
    p = found.whole
    frequency, transfer = p.transfer
    others = np.stack([o.transfer[1] for o in found.left_out])
    error = np.sqrt((len(others) - 1) / len(others) * ((others - others.mean(axis=0)) ** 2).sum(axis=0))
    kept = frequency <= 0.6
    pick = slice(None, None, max(1, int(kept.sum()) // 60))
    return {
        "angle_deg": found.edge.angle,
        "step": p.step,
        "segment": [round(v, 2) for v in (found.segment.x, found.segment.y, found.segment.w, found.segment.h)],
        "quality": round(found.quality, 2),
        "mtf": {
            "cycles_per_frame_px": _rounded(frequency[kept][pick] * scale),
            "transfer": _rounded(transfer[kept][pick]),
            "error": _rounded(2 * error[kept][pick]),
        },
        "profile": {"frame_px": _rounded(p.distance / scale), "light": _rounded(p.light)},
    }


def _rounded(values: np.ndarray) -> list[float]:
    return [round(float(v), 4) for v in values]


def _rise(p: Profile) -> float:
    if p.noise > NOISE_FLOOR:
        raise NotMeasurable(f"the edge is too noisy: {100 * p.noise:.0f} % of its step, at most {100 * NOISE_FLOOR:.0f} %")
    middle = int(np.abs(p.distance).argmin())
    # Outwards from the middle, so that ripples of the plateaus are not taken for the edge.
    up = crossing(p.distance[middle:], -p.light[middle:], -0.9)
    down = crossing(-p.distance[middle::-1], p.light[middle::-1], 0.1)
    if up is None or down is None:
        raise NotMeasurable("the edge is wider than the patch")
    return up + down


def rise(subject: Subject, rect: Rect) -> Measured:
    """Distance over which an edge rises from 10 to 90 % of its step, frame px; Gaussian: 2.563 sigma."""
    scale = _scale(subject)
    found, parts = _with_interval(profiles_of(subject, rect), _rise, 1 / scale)
    details = {"output_px": found.value * scale, "per_mille_of_picture_height": 1000 * found.value / subject.source.height}
    return Measured(found.value, max(0.0, found.low), found.high, GRID, details, parts)


def _beyond(p: Profile, sign: float) -> float:
    """How far the profile goes beyond a plateau, % of the step, beside the edge."""
    if p.noise > NOISE_FLOOR:
        raise NotMeasurable(f"the edge is too noisy: {100 * p.noise:.0f} % of its step, at most {100 * NOISE_FLOOR:.0f} %")
    reach = float(np.abs(p.distance).max())
    near = p.light[np.abs(p.distance) < 0.6 * reach]
    most = float((near - 1).max()) if sign > 0 else float((-near).max())
    return 100 * max(0.0, most)


def overshoot(subject: Subject, rect: Rect) -> Measured:
    """How far the bright side of an edge goes above its plateau, % of the step: a bright halo."""
    return _halo(subject, rect, 1.0)


def undershoot(subject: Subject, rect: Rect) -> Measured:
    """How far the dark side of an edge goes below its plateau, % of the step: a dark halo."""
    return _halo(subject, rect, -1.0)


def _halo(subject: Subject, rect: Rect, sign: float) -> Measured:
    found, parts = _with_interval(profiles_of(subject, rect), lambda p: _beyond(p, sign), 1.0)
    return Measured(found.value, max(0.0, found.low), found.high, GRID, {}, parts)
