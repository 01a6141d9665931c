"""Strength series among treatments: those that differ in one number of one step."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Generic, TypeVar

from glenhail.core.treatments.step import Step, Treatment

LEAST = 3
STRENGTH = "strength"
Key = TypeVar("Key", bound=Hashable)


@dataclass(frozen=True)
class StrengthSeries(Generic[Key]):
    """Treatments that differ in one number: what varies, its unit, and who has which
    value, the smallest first. ``title`` says what they have in common.
    """

    title: str
    name: str
    unit: str
    members: tuple[tuple[float, Key], ...]


def series_among(treatments: Mapping[Key, Treatment]) -> list[StrengthSeries[Key]]:
    """Series of three values and more; each treatment is in one at most, the longest.

    Parameters
    ----------
    treatments : Mapping of key to Treatment
        Of a study.
    """
    by: dict[tuple[Treatment, int, str], dict[float, tuple[Key, str]]] = defaultdict(dict)
    for key, treatment in treatments.items():
        for at, step in enumerate(treatment.steps):
            for name, value, unit, rest in _numbers(step):
                steps = (*treatment.steps[:at], rest, *treatment.steps[at + 1 :])
                by[replace(treatment, steps=steps), at, name].setdefault(value, (key, unit))
    found, taken = [], set()
    for (blank, at, name), values in sorted(by.items(), key=lambda item: -len(item[1])):
        free = {v: (k, u) for v, (k, u) in values.items() if k not in taken}
        if len(free) < LEAST:
            continue
        taken |= {k for k, _ in free.values()}
        members = tuple((v, free[v][0]) for v in sorted(free))
        unit = next(iter(free.values()))[1]
        whole = ", then ".join(step.words for step in blank.steps)
        found.append((whole, StrengthSeries(blank.steps[at].title, name, unit, members)))
    titles = [series.title for _, series in found]
    # Two modes of one release are told apart by all that each has in common.
    return [
        replace(series, title=whole) if titles.count(series.title) > 1 else series
        for whole, series in found
    ]


def _numbers(step: Step) -> Iterator[tuple[str, float, str, Step]]:
    """What of a step is a number, and the step without it."""
    if step.strength is not None:
        yield STRENGTH, step.strength, "%", replace(step, strength=None)
    for i, setting in enumerate(step.settings):
        if isinstance(setting.value, int | float) and not isinstance(setting.value, bool):
            blank = replace(setting, value=None)
            rest = (*step.settings[:i], blank, *step.settings[i + 1 :])
            yield setting.name, float(setting.value), setting.unit, replace(step, settings=rest)
