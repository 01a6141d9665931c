"""One contender against another over many places: who wins how often, how consistently."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.answers.comparison import Comparison
from glenhail.core.statistics.medians import Median, median


@dataclass(frozen=True)
class Tally:
    """How one contender fared against another over many places.

    ``same`` is the largest share of places that gave one answer: "same in 20 of 22".
    """

    counts: dict[str, int]
    places: int
    same: int
    answer: str
    difference: Median


def tally(found: Sequence[Comparison]) -> Tally:
    """Count the answers; measurable differences that can not be seen are told apart
    from none.

    The answer over all is the commonest one if it holds at more than half of the
    places, else "it depends".

    Parameters
    ----------
    found : sequence of Comparison
        One a place.
    """
    counts = Counter(str(c.answer) for c in found)
    answer, same = counts.most_common(1)[0]
    return Tally(
        dict(counts),
        len(found),
        same,
        answer if 2 * same > len(found) else "it depends",
        median([c.difference for c in found]),
    )
