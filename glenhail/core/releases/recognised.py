"""Which treatments of a study are one treatment by two releases."""

from __future__ import annotations

import re
from collections.abc import Hashable, Mapping
from dataclasses import replace
from itertools import pairwise
from typing import TypeVar

from glenhail.core.treatments.step import Treatment

Key = TypeVar("Key", bound=Hashable)


def release_pairs(treatments: Mapping[Key, Treatment]) -> list[tuple[Key, Key]]:
    """Earlier and later of those that differ in nothing but releases, each with the one
    right before it.

    Parameters
    ----------
    treatments : Mapping of key to Treatment
        Of a study.
    """
    by: dict[Treatment, list[Key]] = {}
    for key, treatment in treatments.items():
        steps = tuple(replace(step, release="") for step in treatment.steps)
        by.setdefault(replace(treatment, steps=steps), []).append(key)
    pairs = []
    for of in by.values():
        inorder = sorted(of, key=lambda k: [_natural(s.release) for s in treatments[k].steps])
        pairs += [
            (one, two)
            for one, two in pairwise(inorder)
            if treatments[one].words != treatments[two].words
        ]
    return pairs


def _natural(release: str) -> list[tuple[int, str]]:
    """So that 5.10 comes after 5.9."""
    return [(int(n or 0), word) for n, word in re.findall(r"(\d+)|(\D+)", release)]
