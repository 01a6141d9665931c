"""Saturation-based speed out of a spot whose luminance was measured.

A raw mosaic alone tells how bright a body renders against another; what its codes hold
of the light that there was takes the luminance of a spot and what the lens let through.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.interval import Interval

SATURATION = 78.0  # over the exposure that saturates: ISO 12232:2019, from memory
LUMINANCES = (1e-4, 1e6)  # cd/m2 that a meter tells
T_NUMBERS = (0.5, 128.0)
SAME = 0.05  # EV that nobody would set apart
FULL = 0.98  # of saturation, from which on a spot may be cut off


@dataclass(frozen=True)
class SpeedAt:
    """At an ISO as claimed: the saturation-based speed and by how many EV it is higher
    than the claim; ``reason`` where there is none.
    """

    iso: float
    speed: Interval | None
    above: Interval | None
    reason: str = ""


def exposure(luminance: float, shutter: float, t_number: float) -> float:
    """Exposure of the sensor in the middle of the picture, lux seconds.

    pi/4 L t / T2 for a far scene: the T-number holds what the lens loses, and nothing
    falls off in the middle (ISO 12232:2019 has 0.65 for an f-number and 10 degrees
    off).

    Parameters
    ----------
    luminance : float
        Of the spot, cd/m2.
    shutter : float
        Seconds.
    t_number : float
        Of the lens as it was set.
    """
    return math.pi / 4 * luminance * shutter / t_number**2


def saturation_speed(light: Interval, exposed: float) -> Interval:
    """The speed of a spot that fills so much of saturation.

    The interval is the mosaic's own; a meter's doubt is not in it.

    Parameters
    ----------
    light : Interval
        Mean above black, a share of saturation.
    exposed : float
        Of the spot, lux seconds.
    """
    return Interval(*(SATURATION * v / exposed for v in (light.value, light.low, light.high)))


@dataclass(frozen=True)
class LitAt:
    """A spot at one ISO: its ``light``, a share of saturation, and which shutters, s,
    and apertures it was shot with.
    """

    iso: float
    light: Interval
    exposures: tuple[tuple[float, float], ...]


def speeds(spot: Sequence[LitAt], luminance: float, t_number: float) -> list[SpeedAt]:
    """At each ISO of a spot.

    Parameters
    ----------
    spot : sequence of LitAt
        In the middle of the picture.
    luminance : float
        cd/m2.
    t_number : float
        Of this body's lens.
    """
    if len({aperture for at in spot for _, aperture in at.exposures}) > 1:
        why = "several apertures were used, and one T-number is given"
        return [SpeedAt(at.iso, None, None, why) for at in spot]
    return [_at(at, luminance, t_number) for at in spot]


def _at(at: LitAt, luminance: float, t_number: float) -> SpeedAt:
    iso, light = at.iso, at.light
    shutters = {shutter for shutter, _ in at.exposures}
    if len(shutters) != 1 or min(shutters) <= 0:
        why = "the files tell no shutter" if len(shutters) < 2 else "several shutters were used"
        return SpeedAt(iso, None, None, why)
    if light.value >= FULL:
        return SpeedAt(iso, None, None, "the spot may be cut off; take a darker one")
    found = saturation_speed(light, exposure(luminance, shutters.pop(), t_number))
    if found.low <= 0:
        return SpeedAt(iso, None, None, "the spot is no brighter than black")
    above = Interval(*(math.log2(v / iso) for v in (found.value, found.low, found.high)))
    return SpeedAt(iso, found, above)


def told(found: Sequence[SpeedAt]) -> str:
    """In words how far speeds lie from the ISO that is claimed.

    Parameters
    ----------
    found : sequence of SpeedAt
        Of one body.
    """
    known = [s.above.value for s in found if s.above is not None]
    if not known:
        reasons = dict.fromkeys(s.reason for s in found)
        return f"No saturation-based speed: {'; '.join(reasons) or 'the spot was not read'}."
    return (
        f"Its saturation-based speed lies {_apart(min(known), max(known))} the ISO that is claimed"
        f" ({len(known)} of {len(found)} read). What it lies below is headroom that the claim"
        " leaves: makers mostly state SOS or REI."
    )


def _apart(low: float, high: float) -> str:
    """How far above or below, in words."""
    if low < 0 < high:
        return f"from {-low:.2f} EV below to {high:.2f} above"
    near, far = sorted((abs(low), abs(high)))
    span = f"{far:.2f}" if far - near < SAME else f"{near:.2f} to {far:.2f}"
    return f"{span} EV {'below' if high <= 0 else 'above'}"
