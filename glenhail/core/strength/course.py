"""The course of a setting: where it does nothing, where nothing more comes, where it
turns or jumps, and in words.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from glenhail.core.interval import Interval
from glenhail.core.strength.evenness import Evenness

# Of the whole way from the frame to full strength; common practice, no source.
ENDS = ("value", "low", "high")
NOTHING = 0.02
TURNED = 0.03
JUMP = 0.3  # of the whole way between two neighbouring steps, and ...
STEEP = 3.0  # ... so many times as steep as the whole


@dataclass(frozen=True)
class StrengthStep:
    """One step of a series: its setting, how far it goes, and how evenly.

    ``cleaned`` and ``untouched`` are shares of the plain places.
    """

    setting: float
    share: Interval
    spread: float
    even: bool
    cleaned: float | None
    untouched: float | None


@dataclass(frozen=True)
class Course:
    """What a setting does over its range.

    ``dead`` is up to where it does nothing, ``saturated`` from where on nothing more
    comes, ``turns`` and ``jumps`` pairs of neighbouring settings; None or empty where
    there is no such place.
    """

    dead: float | None
    saturated: float | None
    turns: tuple[tuple[float, float], ...]
    jumps: tuple[tuple[float, float], ...]


def step_of(setting: float, found: Evenness) -> StrengthStep:
    """A step without its map.

    Parameters
    ----------
    setting : float
        Its value.
    found : Evenness
        Of its output.
    """
    return StrengthStep(
        setting, found.share, found.spread, found.even, found.cleaned, found.untouched
    )


def course_of(steps: Sequence[StrengthStep]) -> Course:
    """Where a setting does nothing, saturates, turns and jumps.

    Parameters
    ----------
    steps : sequence of StrengthStep
        By their settings, the last one being full strength.
    """
    idle = [s.setting for s in steps if s.setting and s.share.value < NOTHING]
    first = next((s.setting for s in steps if s.setting and s.share.value >= NOTHING), None)
    dead = max((s for s in idle if first is None or s < first), default=None)
    full = [
        i for i, s in enumerate(steps) if all(abs(t.share.value - 1) <= NOTHING for t in steps[i:])
    ]
    saturated = steps[full[0]].setting if full and full[0] < len(steps) - 1 else None
    pairs = list(pairwise(steps))
    turns = [(a, b) for a, b in pairs if b.share.value < a.share.value - TURNED]
    return Course(
        dead,
        saturated,
        tuple((a.setting, b.setting) for a, b in turns),
        tuple((a.setting, b.setting) for a, b in pairs if _jumps(a, b, steps)),
    )


def _jumps(a: StrengthStep, b: StrengthStep, steps: Sequence[StrengthStep]) -> bool:
    reach = steps[-1].setting - steps[0].setting
    rise = b.share.value - a.share.value
    # Of two steps or three every one is a large part of the way.
    return len(steps) > 3 and rise >= JUMP and rise * reach >= STEEP * (b.setting - a.setting)


def course_said(name: str, unit: str, steps: Sequence[StrengthStep]) -> list[str]:
    """The course in words, and how even the steps are.

    Parameters
    ----------
    name, unit : str
        Of the setting.
    steps : sequence of StrengthStep
        By their settings.
    """
    return [*_course_words(name, unit, steps), *_even_words(unit, steps)]


def _course_words(name: str, unit: str, steps: Sequence[StrengthStep]) -> Iterator[str]:
    def at(value: float) -> str:
        return f"{value:g} {unit}".strip()

    found = course_of(steps)
    if found.dead is not None:
        yield f"Up to {at(found.dead)}, {name} does nothing that can be measured."
    for a, b in found.jumps:
        rise = sum(
            s.share.value * (1 if s.setting == b else -1) for s in steps if s.setting in (a, b)
        )
        part = f"{100 * rise:.0f} % of all it does comes there"
        yield f"Between {a:g} and {at(b)}, {name} jumps: {part}."
    for a, b in found.turns:
        yield f"It turns: at {at(b)} it does less than at {at(a)}."
    if found.saturated is not None:
        yield f"From {at(found.saturated)} on nothing more comes."


def _even_words(unit: str, steps: Sequence[StrengthStep]) -> Iterator[str]:
    inner = [s for s in steps[:-1] if s.share.value >= NOTHING]
    uneven = [s for s in inner if not s.even]
    if inner and not uneven:
        yield "Every step is an even blend: it works alike all over the picture."
    # The one that is least even says it.
    for step in sorted(uneven, key=lambda s: -s.spread)[:1]:
        at = f"{step.setting:g} {unit}".strip()
        start = f"It works unevenly, most so at {at}"
        if step.cleaned is None or step.untouched is None or step.cleaned + step.untouched < 0.1:
            yield f"{start}, which goes {100 * step.share.value:.0f} % of the way on the whole."
            continue
        between = 1 - step.cleaned - step.untouched
        rest = ", the rest lies between" if between >= 0.1 else ""
        yield (
            f"{start}: {_part(step.cleaned)} of the plain areas are treated as far as at full"
            f" strength and {_part(step.untouched)} left untouched{rest}."
        )


def _part(share: float) -> str:
    """A share in words where one lies near."""
    if share < 0.01:
        return "none"
    near = ((1 / 4, "a quarter"), (1 / 3, "a third"), (1 / 2, "half"), (2 / 3, "two thirds"))
    for value, words in near:
        if abs(share - value) < 0.025:
            return words
    return f"{100 * share:.0f} %"


def pooled(frames: Sequence[Sequence[StrengthStep]]) -> list[StrengthStep]:
    """The same settings over several frames: medians, and as uneven as the least even
    of them.

    Parameters
    ----------
    frames : sequence of sequence of StrengthStep
        Of each frame its steps; settings that not all have are left out.
    """
    by = [{s.setting: s for s in steps} for steps in frames]
    common = sorted(set.intersection(*(set(of) for of in by))) if by else []
    return [_pooled([of[setting] for of in by]) for setting in common]


def _pooled(steps: Sequence[StrengthStep]) -> StrengthStep:
    worst = max(steps, key=lambda s: s.spread)
    share = Interval(*(float(np.median([getattr(s.share, end) for s in steps])) for end in ENDS))
    even = all(s.even for s in steps)
    return StrengthStep(worst.setting, share, worst.spread, even, worst.cleaned, worst.untouched)
