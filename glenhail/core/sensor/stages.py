"""What read noise over ISO betrays: a second gain stage, and from which ISO on a higher
one gains nothing that lifting afterwards would not.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from glenhail.core.interval import Interval

SMALLEST = 0.1  # stops of noise that nobody sees: common practice, no source


@dataclass(frozen=True)
class ReadNoiseAt:
    """Read noise at one ISO, electrons, with its interval."""

    iso: float
    electrons: Interval


@dataclass(frozen=True)
class GainStep:
    """Between two ISO values a body changes to another gain stage.

    Noise falls by so many ``stops``, of which a higher gain of one stage could bring
    at most ``explained``.
    """

    below: float
    above: float
    stops: Interval
    explained: float


def gain_steps(found: Sequence[ReadNoiseAt]) -> list[GainStep]:
    """Steps between neighbouring ISO values.

    Noise ahead of the gain is the same at every ISO, noise behind it falls with the
    gain when it is told in electrons: by the ratio of the two ISO values at most. What
    falls by more, even by the nearer ends of both intervals, has changed its stage.

    Parameters
    ----------
    found : sequence of ReadNoiseAt
        In any order, each ISO once.
    """
    steps = []
    for one, two in pairwise(sorted(found, key=lambda f: f.iso)):
        explained = math.log2(two.iso / one.iso)
        fallen = _stops(one.electrons, two.electrons)
        if fallen.low > explained:
            steps.append(GainStep(one.iso, two.iso, fallen, explained))
    return steps


def _stops(one: Interval, two: Interval) -> Interval:
    """By how many stops the second is lower."""
    return Interval(
        math.log2(one.value / two.value),
        math.log2(one.low / two.high),
        math.log2(one.high / two.low),
    )


def nothing_gained_from(found: Sequence[ReadNoiseAt]) -> float | None:
    """The lowest ISO from which on no higher one has less read noise by what is seen.

    At equal exposure a picture lifted by k stops is then as good as one at 2^k times
    the ISO. None where the highest one still gains on the one below it, or there is one
    alone.

    Parameters
    ----------
    found : sequence of ReadNoiseAt
        In any order, each ISO once.
    """
    ordered = sorted(found, key=lambda f: f.iso)
    for at, one in enumerate(ordered[:-1]):
        gains = [
            math.log2(one.electrons.value / higher.electrons.value) for higher in ordered[at + 1 :]
        ]
        if max(gains) < SMALLEST:
            return one.iso
    return None


def told(found: Sequence[ReadNoiseAt]) -> str:
    """In words what read noise over ISO betrays.

    Parameters
    ----------
    found : sequence of ReadNoiseAt
        In any order, each ISO once.
    """
    if len(found) < 2:
        return "One ISO alone tells nothing of gain stages: shoot pairs at more of them."
    parts = [
        f"Between ISO {step.below:,.0f} and {step.above:,.0f} read noise falls by"
        f" {step.stops.value:.2f} stops ({step.stops.low:.2f} to {step.stops.high:.2f}), more than"
        f" the {step.explained:.2f} that one gain stage could bring: a second one."
        for step in gain_steps(found)
    ]
    start = nothing_gained_from(found)
    if start is None:
        parts.append("Up to the highest ISO shot, a higher one still lowers read noise.")
    else:
        parts.append(f"From ISO {start:,.0f} on a higher one gains nothing over lifting.")
    return " ".join(parts)
