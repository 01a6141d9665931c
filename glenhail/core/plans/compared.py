"""Readings of a plan held against those that were published."""

from __future__ import annotations

import csv
import io
import math
from dataclasses import dataclass

from glenhail.core.plans.plan import Plan
from glenhail.core.plans.report import WHOLE
from glenhail.core.plans.study import Taken

# Between machines; on one machine numbers are the same.
RELATIVE, ABSOLUTE = 1e-6, 1e-9
AS_MADE = "as made"
Key = tuple[str, str, str, str]


@dataclass(frozen=True)
class Held:
    """How many are equal; which differ, in words; which are on one side alone."""

    equal: int
    differing: tuple[str, ...]
    only_here: int
    only_there: tuple[str, ...]


def held_against(plan: Plan, readings: list[Taken], table: str) -> Held:
    """Compare what was taken with a table of readings of an edition or a bench.

    Readings of the same places under the same names are compared in their order; a
    second, matched set is passed over.

    Parameters
    ----------
    plan : Plan
        The plan.
    readings : list of Taken
        What was taken.
    table : str
        CSV.
    """
    there: dict[Key, list[tuple[str, ...]]] = {}
    for row in csv.DictReader(io.StringIO(table)):
        if row.get("basis", AS_MADE) == AS_MADE and row["value"]:
            key = (row["frame"], row["patch"], row["letter"], row["measure"])
            there.setdefault(key, []).append((row["value"], row["low"], row["high"]))
    equal, only_here = 0, 0
    differing = []
    for taken in readings:
        frame, r = plan.frames[taken.frame], taken.reading
        if r.value is None:
            continue
        place = WHOLE if taken.patch is None else frame.patches[taken.patch].name
        key = (frame.name, place, taken.letter, r.measure)
        waiting = there.get(key)
        if not waiting:
            only_here += 1
            continue
        told = waiting.pop(0)
        if all(map(_alike, told, (r.value, r.low, r.high))):
            equal += 1
        else:
            what = f"{r.measure} of {taken.letter}, {place}, {frame.name}"
            differing.append(f"{what}: {told[0]} there, {r.value!r} here")
    left = tuple(f"{k[3]} of {k[2]}, {k[1]}, {k[0]}" for k, v in there.items() for _ in v)
    return Held(equal, tuple(differing), only_here, left)


def _alike(told: str, here: float | None) -> bool:
    if not told or here is None:
        return not told and here is None
    return math.isclose(float(told), here, rel_tol=RELATIVE, abs_tol=ABSOLUTE)
