"""What lifting a dark spot brings to light beside noise: a colour cast, where black of
one filter colour is not quite that of another.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.interval import Interval
from glenhail.core.sensor.spots import GREEN, SpotCurve, SpotReading

SEEN = 0.07  # EV of red or blue against green: a twentieth; common practice, no source


@dataclass(frozen=True)
class Shadow:
    """A spot's cast at one ISO against the same spot where it had most light: EV of red
    and blue against green, and the hue in words; empty where there is none to be seen.

    ``spot`` is its number.
    """

    spot: int
    iso: float
    red: float
    blue: float
    hue: str


def shadows(curves: Sequence[SpotCurve]) -> list[Shadow]:
    """Casts of all spots at every ISO but the first, which the others are held against.

    Parameters
    ----------
    curves : sequence of SpotCurve
        Of one body.
    """
    made = []
    for number, curve in enumerate(curves):
        readings = [r for r in curve.readings if _balance(r) is not None]
        if len(readings) < 2:
            continue
        base = max(readings, key=lambda r: r.snr.value)
        made += [_shadow(number, r, base) for r in readings if r is not base]
    return made


def _shadow(number: int, reading: SpotReading, base: SpotReading) -> Shadow:
    """What no larger than its own noise is no cast."""
    now, then = _balance(reading) or {}, _balance(base) or {}
    apart = {c: now[c].value - then[c].value for c in now}
    sure = {
        c: value if abs(value) > math.hypot(_reach(now[c]), _reach(then[c])) else 0.0
        for c, value in apart.items()
    }
    return Shadow(number, reading.iso, apart["R"], apart["B"], hue_of(sure["R"], sure["B"]))


def _reach(of: Interval) -> float:
    return (of.high - of.low) / 2


def _balance(reading: SpotReading) -> dict[str, Interval] | None:
    """EV of red and blue against green, each with its bounds; None where a spot is no
    brighter than black in one of them.
    """
    lights = reading.colours
    if any(c not in lights or lights[c].low <= 0 for c in ("R", GREEN, "B")):
        return None
    green = lights[GREEN]
    found = {}
    for c in ("R", "B"):
        value = math.log2(lights[c].value / green.value)
        reach = math.hypot(*(_reach(i) / i.value / math.log(2) for i in (lights[c], green)))
        found[c] = Interval(value, value - reach, value + reach)
    return found


def hue_of(red: float, blue: float) -> str:
    """A cast in words.

    Parameters
    ----------
    red, blue : float
        EV against green.
    """
    if max(abs(red), abs(blue)) < SEEN:
        return ""
    if min(red, blue) >= SEEN:
        return "magenta"
    if max(red, blue) <= -SEEN:
        return "green"
    if abs(red) >= abs(blue):
        return "red" if red > 0 else "cyan"
    return "blue" if blue > 0 else "yellow"


def told(found: Sequence[Shadow], spots: Sequence[str]) -> list[str]:
    """In words at which ISO a spot turns which hue, a sentence for each spot that does.

    Parameters
    ----------
    found : sequence of Shadow
        Of one body.
    spots : sequence of str
        What the spots are called.
    """
    sentences = []
    for number, name in enumerate(spots):
        cast = [s for s in found if s.spot == number and s.hue]
        if cast:
            parts = [
                f"{hue} at ISO {', '.join(f'{s.iso:,.0f}' for s in cast if s.hue == hue)}"
                for hue in dict.fromkeys(s.hue for s in cast)
            ]
            sentences.append(f"{name}: turns {' and '.join(parts)}.")
    return sentences
