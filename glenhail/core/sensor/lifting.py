"""What under-exposing at one ISO and lifting afterwards costs against a higher ISO at
the same exposure.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.interval import Interval
from glenhail.core.sensor.stages import SMALLEST, ReadNoiseAt

LIFTED = (1.0, 6.0)  # EV that shadows are lifted by
ROUNDED = 0.1  # EV, as bodies round their ISO values


@dataclass(frozen=True)
class LiftCost:
    """Lifted by so many ``ev`` from ``iso``: by how many stops more light the deepest
    shadow takes than at ``to``, the ISO that is as bright without lifting.

    The deepest shadow is where a pixel's signal equals its noise.
    """

    iso: float
    to: float
    ev: float
    stops: Interval


def lift_costs(found: Sequence[ReadNoiseAt]) -> list[LiftCost]:
    """Of the lowest ISO lifted to each higher one, 1 to 6 EV.

    Both get the same light, so that photons make them equally noisy; read noise alone
    tells them apart (Janesick 2007).

    Parameters
    ----------
    found : sequence of ReadNoiseAt
        In any order, each ISO once.
    """
    ordered = sorted(found, key=lambda f: f.iso)
    made = []
    for higher in ordered[1:]:
        ev = math.log2(higher.iso / ordered[0].iso)
        if LIFTED[0] - ROUNDED <= ev <= LIFTED[1] + ROUNDED:
            cost = _apart(ordered[0].electrons, higher.electrons)
            made.append(LiftCost(ordered[0].iso, higher.iso, ev, cost))
    return made


def _apart(one: Interval, other: Interval) -> Interval:
    """By how many stops the first one's deepest shadow takes more light; reaches on
    either side are independent and add by their squares.
    """
    a, b = (
        Interval(*(math.log2(deepest(max(0.0, r))) for r in (i.value, i.low, i.high)))
        for i in (one, other)
    )
    value = a.value - b.value
    low = math.hypot(a.value - a.low, b.high - b.value)
    high = math.hypot(a.high - a.value, b.value - b.low)
    return Interval(value, value - low, value + high)


def deepest(read_noise: float) -> float:
    """Electrons at which a pixel's signal equals its noise: that of light, its root,
    and of reading, by their squares.

    Parameters
    ----------
    read_noise : float
        Electrons.
    """
    return (1 + math.sqrt(1 + 4 * read_noise**2)) / 2


def told(found: Sequence[LiftCost]) -> str:
    """In words how far shadows may be lifted for nothing, and what most costs.

    Parameters
    ----------
    found : sequence of LiftCost
        The least lift first.
    """
    if not found:
        return ""
    costly = [c for c in found if c.stops.low > 0 and c.stops.value >= SMALLEST]
    last = found[-1]
    if not costly:
        return (
            f"Under-exposed at ISO {last.iso:,.0f} and lifted by up to {last.ev:.0f} EV, the"
            " deepest shadows are as good as of a higher ISO at the same exposure."
        )
    most = costly[-1]
    text = (
        f"Under-exposed at ISO {most.iso:,.0f} and lifted by {most.ev:.0f} EV, the deepest shadows"
        f" take {most.stops.value:.2f} stops ({most.stops.low:.2f} to {most.stops.high:.2f}) more"
        f" light than at ISO {most.to:,.0f}."
    )
    free = [c for c in found if c.ev < costly[0].ev]
    if free:
        text += f" Lifting by {free[-1].ev:.0f} EV costs nothing that is measurable."
    return text
