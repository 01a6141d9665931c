"""Grades of single pictures on the five-grade impairment scale of ITU-R BT.500."""

from __future__ import annotations

import math
from collections.abc import Mapping
from enum import IntEnum

import numpy as np
import scipy.special

from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles

LEVEL = 0.95


class Grade(IntEnum):
    """How disturbing what is seen is."""

    VERY_ANNOYING = 1
    ANNOYING = 2
    SLIGHTLY_ANNOYING = 3
    PERCEPTIBLE = 4
    IMPERCEPTIBLE = 5


def mean_grade(grades: list[float]) -> Interval:
    """Mean with Student's interval over judges; all of the scale where there is one.

    Parameters
    ----------
    grades : list of float
        One for each judge, 1..5, at least one.
    """
    values = np.asarray(grades, dtype=np.float64)
    mean = float(values.mean())
    if values.size < 2:
        return Interval(mean, float(min(Grade)), float(max(Grade)))
    student = float(scipy.special.stdtrit(values.size - 1, 1 - (1 - LEVEL) / 2))
    reach = student * float(values.std(ddof=1)) / math.sqrt(values.size)
    return Interval(mean, max(1.0, mean - reach), min(5.0, mean + reach))


def screened_out(grades: Mapping[str, Mapping[str, float]]) -> list[str]:
    """Judges whose grades lie far from the others' both ways: the screening of ITU-R
    BT.500 (annex on analysis, from memory), with kurtosis deciding how far is far.

    Parameters
    ----------
    grades : mapping
        For each judge, a grade for each thing that was shown.
    """
    judges = list(grades)
    things = sorted({thing for given in grades.values() for thing in given})
    table = np.array([[grades[j].get(t, np.nan) for t in things] for j in judges]).reshape(
        len(judges), -1
    )
    above, below = np.zeros(len(judges)), np.zeros(len(judges))
    for column in table.T:
        there = ~np.isnan(column)
        if there.sum() < 2:
            continue
        high, low = _far(column[there])
        above[there] += column[there] >= high
        below[there] += column[there] <= low
    far = above + below
    given = np.maximum(1, (~np.isnan(table)).sum(axis=1))
    odd = (far / given > 0.05) & (np.abs(above - below) / np.maximum(1, far) < 0.3)
    return [judge for judge, out in zip(judges, odd, strict=True) if out]


def _far(values: Doubles) -> tuple[float, float]:
    """Beyond which grades of one thing are far from the rest."""
    mean, spread = float(values.mean()), float(values.std(ddof=1))
    if not spread:
        return math.inf, -math.inf
    second, fourth = (float(((values - mean) ** n).mean()) for n in (2, 4))
    wide = 2.0 if 2 <= fourth / second**2 <= 4 else math.sqrt(20)
    return mean + wide * spread, mean - wide * spread
