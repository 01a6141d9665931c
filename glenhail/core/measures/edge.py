"""Sharpness and halos of an edge: mtf50, rise, overshoot, undershoot."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.edge_profile import NOISE_FLOOR, Edge, Profile, crossing, find_edge, mtf, profile
from glenhail.core.measures.intervals import Interval, jackknife
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Rect

GROUPS = 8
GRID = "output pixels, not resampled; told per frame pixel"


def _scale(subject: Subject) -> float:
    mapping = subject.output.mapping
    return (mapping.sx + mapping.sy) / 2


@dataclass(frozen=True)
class Profiles:
    """An edge's profile over all rows, and eight that each leave out one eighth of the edge."""

    edge: Edge
    whole: Profile
    left_out: tuple[Profile, ...]


def _profiles(subject: Subject, rect: Rect) -> Profiles:
    """Found once for the measures that share them."""

    def find() -> Profiles:
        edge = find_edge(srgb.luminance(subject.native(rect)))
        group = np.arange(edge.light.shape[0]) * GROUPS // edge.light.shape[0]
        left_out = tuple(profile(edge, np.flatnonzero(group != g)) for g in range(GROUPS))
        return Profiles(edge, profile(edge), left_out)

    return subject.once(("profiles", rect), find)


def _with_interval(profiles: Profiles, estimate: Callable[[Profile], float]) -> Interval:
    """An estimate over all rows; its interval from leaving out one eighth of the edge at a time."""
    return jackknife(estimate(profiles.whole), np.array([estimate(p) for p in profiles.left_out]))


def _mtf50(p: Profile) -> float:
    if p.noise > NOISE_FLOOR * 2:
        raise NotMeasurable(f"the edge is too noisy: {100 * p.noise:.0f} % of its step, at most {200 * NOISE_FLOOR:.0f} %")
    found = crossing(*mtf(p), 0.5)
    if found is None:
        raise NotMeasurable("contrast stays above one half up to 1 cycle/px: sharper than can be measured")
    return found


def mtf50(subject: Subject, rect: Rect) -> Measured:
    """Spatial frequency at which an edge's contrast falls to one half, cycles per frame pixel.

    References
    ----------
    ISO 12233:2017, e-SFR. A Gaussian spread of sigma px has mtf50 = 0.18739 / sigma.
    """
    profiles, scale = _profiles(subject, rect), _scale(subject)
    found = _with_interval(profiles, _mtf50)
    details = _details(profiles, scale) | {
        "cycles_per_output_px": found.value,
        "lp_per_picture_height": found.value * scale * subject.source.height,
    }
    return Measured(found.value * scale, max(0.0, found.low * scale), found.high * scale, GRID, details)


def _details(profiles: Profiles, scale: float) -> dict[str, Any]:
    """The curves behind the number, thinned for keeping."""
    p = profiles.whole
    frequency, transfer = mtf(p)
    kept = frequency <= 0.6
    pick = slice(None, None, max(1, int(kept.sum()) // 60))
    return {
        "angle_deg": profiles.edge.angle,
        "step": p.step,
        "mtf": {"cycles_per_frame_px": _rounded(frequency[kept][pick] * scale), "transfer": _rounded(transfer[kept][pick])},
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
    found = _with_interval(_profiles(subject, rect), _rise)
    details = {"output_px": found.value}
    return Measured(found.value / scale, max(0.0, found.low / scale), found.high / scale, GRID, details)


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
    found = _with_interval(_profiles(subject, rect), lambda p: _beyond(p, sign))
    return Measured(found.value, max(0.0, found.low), found.high, GRID)
