"""What changed from one release to the next: measurable, visible, or neither."""

from __future__ import annotations

from dataclasses import dataclass

from glenhail.core.answers.board import Board
from glenhail.core.answers.comparison import Answer, Comparison
from glenhail.core.articles.names import inline
from glenhail.core.measures.catalogue import HEADLINES, MEASURES

SUCCEEDED = tuple(m for m in MEASURES if m in HEADLINES)  # by which it is told
OTHER = (Answer.HIGHER, Answer.LOWER, Answer.OPPOSITE)


@dataclass(frozen=True)
class MeasureSuccession:
    """The later release against the earlier by one measure: the places where it is
    visibly better, visibly worse, and visibly other where neither end is better; how
    many more differ measurably but not visibly, and how many not at all.
    """

    measure: str
    better: tuple[str, ...]
    worse: tuple[str, ...]
    other: tuple[str, ...]
    unseen: int
    none: int

    @property
    def places(self) -> int:
        """At how many both were read."""
        return len(self.better) + len(self.worse) + len(self.other) + self.unseen + self.none


def succession(board: Board, later: str, earlier: str) -> list[MeasureSuccession]:
    """The main measures by which both were read, in the order of their table.

    Parameters
    ----------
    board : Board
        The study's readings.
    later, earlier : str
        Letters of the two.
    """
    made = []
    for measure in SUCCEEDED:
        found = board.comparisons(measure, later, earlier)
        if not found:
            continue
        made.append(
            MeasureSuccession(
                measure,
                better=_named(board, found, Answer.BETTER),
                worse=_named(board, found, Answer.WORSE),
                other=_named(board, found, *OTHER),
                unseen=len(_named(board, found, Answer.UNSEEN)),
                none=len(_named(board, found, Answer.NONE)),
            )
        )
    return made


def _named(board: Board, found: dict[str, Comparison], *answers: Answer) -> tuple[str, ...]:
    places = (board.places[key] for key, c in found.items() if c.answer in answers)
    return tuple(f"{p.name}, {p.frame}" for p in places)


def succession_words(found: list[MeasureSuccession]) -> str:
    """All of it in a sentence or two.

    Parameters
    ----------
    found : list of MeasureSuccession
        By measure.
    """
    if not found:
        return "The two were read nowhere alike."
    better = [_told(f.measure, len(f.better), f.places) for f in found if f.better]
    worse = [_told(f.measure, len(f.worse), f.places) for f in found if f.worse]
    parts = []
    if better:
        parts.append(f"Visibly better in {_and(better)}.")
    if worse:
        parts.append(f"Visibly worse in {_and(worse)}.")
    if not parts:
        unseen = sum(f.unseen for f in found)
        parts.append(
            "What changed can be measured, but not seen."
            if unseen
            else "Nothing changed that can be measured."
        )
    return " ".join(parts)


def _told(measure: str, count: int, places: int) -> str:
    return f"{inline(MEASURES[measure].name)} (at {count} of {places} places)"


def _and(parts: list[str]) -> str:
    return parts[0] if len(parts) == 1 else f"{', '.join(parts[:-1])} and {parts[-1]}"
