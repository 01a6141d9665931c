"""Ranks that never contradict values: by distance from a measure's best, and shared
where a test tells no difference.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.answers.comparison import TakenReading, TestedDifference, from_best
from glenhail.core.measures.best import Best, distance

LEVEL = 0.05
RULE = (
    "Ordered by distance from the measure's best. Going down, a new rank begins at the first that a"
    " paired test (Holm 1979, 5 %) tells from the first of its group; the rest of the group share"
    " the rank. ≈ marks those not told from a better group either."
)


@dataclass(frozen=True)
class Rank:
    """A rank from 1; whether others share it; whether it can not be told from a better
    one.
    """

    rank: int
    tied: bool
    unsure: bool = False


def places(readings: Sequence[TakenReading | None], best: Best) -> list[Rank | None]:
    """Rank readings of one measure at one place; None stays without a place.

    Parameters
    ----------
    readings : sequence of TakenReading or None
        One a contender; None where it has none.
    best : Best
        Where the measure's best lies.

    Raises
    ------
    ValueError
        If a value is not finite.
    """
    order = sorted(
        (i for i, r in enumerate(readings) if r is not None),
        key=lambda i: distance(_of(readings, i).value, best),
    )
    groups: list[list[int]] = []
    told: dict[
        int, dict[int, bool]
    ] = {}  # by first of a group: which of those below it are told from it
    for position, i in enumerate(order):
        if groups and not told[groups[-1][0]][i]:
            groups[-1].append(i)
            continue
        groups.append([i])
        below = order[position + 1 :]
        told[i] = dict(
            zip(
                below,
                holm([from_best(_of(readings, j), _of(readings, i), best) for j in below]),
                strict=True,
            )
        )
    found: list[Rank | None] = [None] * len(readings)
    rank = 1
    for number, group in enumerate(groups):
        better = [told[g[0]] for g in groups[:number]]
        for i in group:
            found[i] = Rank(rank, len(group) > 1, any(not apart[i] for apart in better))
        rank += len(group)
    return found


def _of(readings: Sequence[TakenReading | None], i: int) -> TakenReading:
    taken = readings[i]
    assert taken is not None
    return taken


def holm(differences: Sequence[TestedDifference]) -> list[bool]:
    """Which differences a family of tests tells at 5 %, all of them together.

    Parameters
    ----------
    differences : sequence of TestedDifference
        The family, in any order.

    References
    ----------
    Holm 1979: A simple sequentially rejective multiple test procedure. Scandinavian
    Journal of Statistics 6.
    """
    chances = [d.chance for d in differences]
    told = [False] * len(chances)
    for tested, i in enumerate(sorted(range(len(chances)), key=chances.__getitem__)):
        if chances[i] > LEVEL / (len(chances) - tested):
            break
        told[i] = True
    return told
