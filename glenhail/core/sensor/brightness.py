"""How bright bodies render the same scene at the ISO they claim: relative exposure out
of the mosaics alone, at spots that are averaged heavily.

A body whose codes lie higher at the same ISO, shutter and aperture is lifted by as many
stops. Makers mostly state SOS or REI (ISO 12232:2019), which leave other headroom, so
that equal numbers need not mean equal brightness.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.interval import Interval
from glenhail.core.sensor.spots import SpotCurve
from glenhail.core.sensor.stops import NORMAL

AGREED = 0.05  # EV by which spots may differ: common practice, no source


@dataclass(frozen=True)
class Lift:
    """By how many stops a body is brighter than another at its ISO, and by how many of
    them its spots differ.

    ``exposure`` is the part that shutter and aperture explain, None where the files do
    not say; ``doubtful`` whether spots differ by more than their noise and a twentieth
    of a stop: flare, or black that is not where it is told.
    """

    iso: float
    stops: Interval
    differ: float
    exposure: float | None
    doubtful: bool = False

    @property
    def effective_iso(self) -> float:
        """The ISO at which it would be as bright as the other is."""
        return float(self.iso * 2.0**-self.stops.value)


def lifts(body: Sequence[SpotCurve], other: Sequence[SpotCurve]) -> list[Lift]:
    """At each ISO of the first that lies among those of the second.

    Parameters
    ----------
    body, other : sequence of SpotCurve
        The same spots of both, the lit one and the dark one at least.
    """
    by: dict[float, list[Interval]] = {}
    for mine, theirs in zip(body, other, strict=True):
        for reading in mine.readings:
            light = _between(theirs, reading.iso)
            if light is not None and reading.light.low > 0 and light.low > 0:
                by.setdefault(reading.iso, []).append(_stops(reading.light, light))
    return [_lift(iso, of, _exposed(body[0], other[0], iso)) for iso, of in sorted(by.items())]


def _stops(one: Interval, other: Interval) -> Interval:
    value = math.log2(one.value / other.value)
    reach = math.hypot(*((i.high - i.low) / 2 / i.value / math.log(2) for i in (one, other)))
    return Interval(value, value - reach, value + reach)


def _between(curve: SpotCurve, iso: float) -> Interval | None:
    """Brightness at an ISO, in logarithms between its neighbours; None beyond them."""
    at = [r.iso for r in curve.readings]
    if not at or not at[0] <= iso <= at[-1] or any(r.light.low <= 0 for r in curve.readings):
        return None
    told = [
        float(
            np.exp(
                np.interp(
                    math.log(iso),
                    np.log(at),
                    [math.log(getattr(r.light, n)) for r in curve.readings],
                )
            )
        )
        for n in ("value", "low", "high")
    ]
    return Interval(*told)


def _lift(iso: float, of: Sequence[Interval], exposure: float | None) -> Lift:
    """Spots weighed by how well each is known; what they differ by is doubt as well."""
    reach = np.array([max(1e-6, (i.high - i.low) / 2) for i in of])
    values = np.array([i.value for i in of])
    weights = reach**-2
    value = float((weights * values).sum() / weights.sum())
    error = float(weights.sum() ** -0.5)
    if len(of) > 1:
        error = max(error, NORMAL * float(values.std(ddof=1)) / math.sqrt(len(of)))
    differ = float(np.ptp(values))
    doubtful = differ > max(AGREED, 2 * float(reach.max()))
    return Lift(iso, Interval(value, value - error, value + error), differ, exposure, doubtful)


def _exposed(mine: SpotCurve, theirs: SpotCurve, iso: float) -> float | None:
    """By how many stops more light the files say that the first one got, where both
    were shot at that ISO.
    """
    told = [_stops_of(c.exposures.get(iso)) for c in (mine, theirs)]
    return None if told[0] is None or told[1] is None else told[0] - told[1]


def _stops_of(exposures: set[tuple[float, float]] | None) -> float | None:
    if not exposures or len(exposures) > 1:
        return None
    shutter, aperture = next(iter(exposures))
    return math.log2(shutter / aperture**2) if shutter > 0 and aperture > 0 else None


def told(found: Sequence[Lift], names: tuple[str, str]) -> str:
    """In words who is brighter by how much, and what of it is exposure.

    Parameters
    ----------
    found : sequence of Lift
        Of the first body against the second.
    names : tuple of str
        Theirs.
    """
    if not found:
        return "The two were shot at no ISO in common: brightness can not be compared."
    values = [lift.stops.value for lift in found]
    low, high = min(values, key=abs), max(values, key=abs)
    if abs(high) < AGREED:
        return f"{names[0]} and {names[1]} are equally bright at the same ISO."
    middle = float(np.median(values))
    who = "brighter" if middle > 0 else "darker"
    span = (
        f"{abs(middle):.2f}" if abs(high - low) < AGREED else f"{abs(low):.2f} to {abs(high):.2f}"
    )
    text = f"{names[0]} is {who} than {names[1]} at the same ISO by {span} EV"
    exposed = [lift.exposure for lift in found if lift.exposure is not None]
    if exposed and max(abs(e) for e in exposed) >= AGREED:
        text += f", of which shutter and aperture explain {float(np.median(exposed)):+.2f}"
    doubts = (
        " Spots differ in that: flare, black that is not where the file tells it, or colours that"
        " the two see differently; plain grey spots tell best."
    )
    return f"{text}.{doubts if any(lift.doubtful for lift in found) else ''}"


def effective(found: Sequence[Lift]) -> Mapping[float, float]:
    """Each ISO as the one at which the body would be as bright as the other.

    Parameters
    ----------
    found : sequence of Lift
        Of the body.
    """
    return {lift.iso: lift.effective_iso for lift in found}
