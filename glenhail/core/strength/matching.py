"""Which setting of one tool belongs to another's: the one at which it leaves as much
noise.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from glenhail.core.interval import Interval


@dataclass(frozen=True)
class NoiseStep:
    """What noise a setting leaves, as a share of the frame's, with its bounds."""

    setting: float
    noise: Interval


@dataclass(frozen=True)
class MatchedSetting:
    """A setting of one series, and the other's that leaves as much noise, between two
    bounds; None where the other never leaves so much, or so little.
    """

    setting: float
    other: float | None
    low: float | None
    high: float | None


def matched_settings(one: Sequence[NoiseStep], other: Sequence[NoiseStep]) -> list[MatchedSetting]:
    """The other's setting for each of one's, by straight lines between neighbours.

    Parameters
    ----------
    one, other : sequence of NoiseStep
        By their settings; where the other passes a noise several times, the lowest
        setting counts.
    """
    made = []
    for step in one:
        found = crossing(other, step.noise.value)
        # Less noise takes more of a setting.
        ends = [crossing(other, v) for v in (step.noise.high, step.noise.low)]
        told = [end for end in ends if end is not None]
        low, high = (min(told), max(told)) if found is not None and told else (None, None)
        made.append(MatchedSetting(step.setting, found, low, high))
    return made


def crossing(steps: Sequence[NoiseStep], noise: float) -> float | None:
    """The lowest setting at which a series leaves so much noise.

    Parameters
    ----------
    steps : sequence of NoiseStep
        By their settings.
    noise : float
        Share of the frame's.
    """
    for a, b in pairwise(steps):
        before, after = a.noise.value, b.noise.value
        if min(before, after) <= noise <= max(before, after):
            along = 0.0 if before == after else (before - noise) / (before - after)
            return a.setting + along * (b.setting - a.setting)
    return None


def matched_said(
    found: Sequence[MatchedSetting], titles: tuple[str, str], units: tuple[str, str]
) -> str:
    """In words which settings leave as much noise, by the middle one that has a like.

    Parameters
    ----------
    found : sequence of MatchedSetting
        Of the first for each setting.
    titles, units : (str, str)
        Of both tools and their settings.
    """
    # A setting of nothing leaves the frame's noise in both.
    told = [m for m in found if m.other is not None and m.setting]
    if not told:
        return f"{titles[0]} and {titles[1]} leave equal noise at no setting."
    one = told[len(told) // 2]
    assert one.other is not None and one.low is not None and one.high is not None
    mine, theirs = f"{one.setting:g} {units[0]}".strip(), f"{one.other:.0f}"
    if one.high - one.low >= 1:
        theirs += f" ({one.low:.0f} to {one.high:.0f})"
    return (
        f"{titles[0]} at {mine} leaves as much noise as {titles[1]} at"
        f" {f'{theirs} {units[1]}'.strip()}."
    )
