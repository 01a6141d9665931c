"""Answers of a sitting, and how often each was given."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from glenhail.core.picture import Doubles


class Said(StrEnum):
    """What a judge answers to a pair."""

    LEFT = "left"
    RIGHT = "right"
    NEITHER = "no difference"


@dataclass(frozen=True)
class Call:
    """One answer to one pair: who stood where, what was said, at which spot."""

    left: str
    right: str
    said: Said
    spot: str

    @property
    def chosen(self) -> str | None:
        """The contender that was chosen, if one was."""
        return {Said.LEFT: self.left, Said.RIGHT: self.right}.get(self.said)

    @property
    def pair(self) -> frozenset[str]:
        """The two, whatever their sides."""
        return frozenset((self.left, self.right))


@dataclass(frozen=True)
class Counts:
    """How often each answer was given to each ordered pair.

    ``left`` and ``right`` are places in the list of contenders, shape (n,);
    ``groups`` has columns left, right, no difference, shape (groups, n, 3).
    """

    left: np.ndarray
    right: np.ndarray
    groups: Doubles

    @property
    def counts(self) -> Doubles:
        """Over all groups, shape (n, 3)."""
        return np.asarray(self.groups.sum(axis=0))


COLUMNS = {Said.LEFT: 0, Said.RIGHT: 1, Said.NEITHER: 2}


def counted(groups: Sequence[Iterable[Call]], contenders: Sequence[str]) -> Counts:
    """Answers counted by who stood on the left and who on the right.

    Parameters
    ----------
    groups : sequence of iterables of Call
        Answers that belong together: of a judge, of a scene. Only pairs of two
        contenders of the list that differ are counted.
    contenders : sequence of str
        Everyone who may have been shown.
    """
    places = {name: i for i, name in enumerate(contenders)}
    known = Counter(
        ((places[c.left], places[c.right]), group, COLUMNS[c.said])
        for group, calls in enumerate(groups)
        for c in calls
        if c.left != c.right and c.left in places and c.right in places
    )
    rows = sorted({pair for pair, _, _ in known})
    at = {pair: row for row, pair in enumerate(rows)}
    groups_of = np.zeros((len(groups), len(rows), len(COLUMNS)))
    for (pair, group, column), times in known.items():
        groups_of[group, at[pair], column] = times
    ends = np.array(rows, dtype=np.intp).reshape(-1, 2)
    return Counts(ends[:, 0], ends[:, 1], groups_of)
