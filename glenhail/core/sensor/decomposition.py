"""Why one body is ahead of another: how much of it is the sensor's area, how much light
each part of it turns into electrons, and how much read noise it adds.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from itertools import permutations

FACTORS = ("area", "electrons per area", "read noise")


@dataclass(frozen=True)
class CaughtLight:
    """A body at one spot, shutter and f-number: its sensor's area in mm², electrons per
    mm² of a frame at the spot, read noise of a pixel in electrons, and pixels.
    """

    area: float
    electrons_per_area: float
    read_noise: float
    pixels: float

    @property
    def read_variance_per_area(self) -> float:
        """Electrons squared per mm²."""
        return self.read_noise**2 * self.pixels / self.area


@dataclass(frozen=True)
class Reason:
    """One of the reasons, and the stops that it brings."""

    name: str
    stops: float


def reasons_of(one: CaughtLight, other: CaughtLight, measured: float) -> list[Reason]:
    """What the first is ahead by, divided over its reasons; their sum is what was
    measured.

    Signal to noise of a print goes with the root of the area, and with electrons over
    the root of electrons and read variance, both per area. It is told in stops of light
    that a body would need more to reach as much, the mean of what either would; a stop
    of light is a doubling of the ratio where read noise alone is there, and its root
    where photons alone are. Each reason is what it changes, averaged over all orders in
    which one body could be turned into the other
    (Shapley, L. S. (1953), A value for n-person games, Annals of Mathematics Studies
    28, 307-317). What is left is processing, unevenness, and what was measured wrong.

    Parameters
    ----------
    one, other : CaughtLight
        At the same shutter and f-number.
    measured : float
        Stops by which the first was found ahead.
    """
    of_one, of_other = _parts(one), _parts(other)
    found = dict.fromkeys(FACTORS, 0.0)
    orders = list(permutations(FACTORS))

    def stops(parts: dict[str, float]) -> float:
        return (_light(of_one, parts) + _light(of_other, parts)) / 2

    for order in orders:
        now = dict(of_other)
        for name in order:
            before = stops(now)
            now[name] = of_one[name]
            found[name] += (stops(now) - before) / len(orders)
    told = [Reason(name, stops) for name, stops in found.items()]
    return [*told, Reason("what is left", measured - sum(found.values()))]


def _parts(of: CaughtLight) -> dict[str, float]:
    values: tuple[Callable[[CaughtLight], float], ...] = (
        lambda c: c.area,
        lambda c: c.electrons_per_area,
        lambda c: c.read_variance_per_area,
    )
    return {name: value(of) for name, value in zip(FACTORS, values, strict=True)}


def _light(body: dict[str, float], wanted: dict[str, float]) -> float:
    """By how many stops more light a body has the wanted one's ratio: the root of the
    ratio's square, which is quadratic in its electrons.
    """
    square = _square(wanted)
    area, electrons, read = (body[name] for name in FACTORS)
    needed = (square + math.sqrt(square**2 + 4 * area * square * read)) / (2 * area)
    return math.log2(needed / electrons)


def _square(parts: dict[str, float]) -> float:
    """Of the ratio of signal to noise of a print, but for a factor that all share."""
    area, electrons, read = (parts[name] for name in FACTORS)
    return area * electrons**2 / (electrons + read)
