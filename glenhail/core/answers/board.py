"""All readings of a study side by side, as the questions about the whole of it need
them.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field

from glenhail.core.answers.comparison import Comparison, TakenReading, compare
from glenhail.core.answers.tally import Tally, tally
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.measures.thresholds import THRESHOLDS
from glenhail.core.statistics.medians import Median, median


@dataclass(frozen=True)
class Column:
    """A contender: its letter, and whether it is the unprocessed frame or the truth,
    which compete with nobody.
    """

    letter: str
    unprocessed: bool = False
    truth: bool = False


@dataclass(frozen=True)
class Place:
    """A patch of a frame, or the whole of it (role "")."""

    key: str
    role: str
    name: str
    frame: str
    kinds: tuple[str, ...] = ()


@dataclass(frozen=True)
class Cell:
    """One reading and its number, by which a sentence leads back to it."""

    id: int
    taken: TakenReading


@dataclass
class Board:
    """Readings by measure, place and contender."""

    columns: Sequence[Column]
    places: dict[str, Place]
    cells: dict[tuple[str, str], dict[str, Cell]] = field(default_factory=dict)
    _compared: dict[tuple[str, str, str], dict[str, Comparison]] = field(
        default_factory=dict, repr=False
    )

    def put(self, measure: str, place: str, letter: str, cell: Cell) -> None:
        """Lay a reading in its place."""
        self.cells.setdefault((measure, place), {})[letter] = cell

    @property
    def contenders(self) -> list[str]:
        """Letters of those that compete."""
        return [c.letter for c in self.columns if not (c.unprocessed or c.truth)]

    @property
    def unprocessed(self) -> str | None:
        """The letter of the frame as it is."""
        return next((c.letter for c in self.columns if c.unprocessed), None)

    def of_role(self, role: str) -> Board:
        """The same with the patches of one role alone."""
        return self._of(lambda place: place.role == role)

    def of_kind(self, kind: str) -> Board:
        """The same with the places of one kind of scene alone."""
        return self._of(lambda place: kind in place.kinds)

    def _of(self, wanted: Callable[[Place], bool]) -> Board:
        places = {key: place for key, place in self.places.items() if wanted(place)}
        cells = {key: row for key, row in self.cells.items() if key[1] in places}
        return Board(self.columns, places, cells)

    def at(self, measure: str, letter: str, role: str | None = None) -> dict[str, Cell]:
        """One contender's readings of a measure by place, of one role if asked for."""
        found = {}
        for (name, place), row in self.cells.items():
            if (
                name == measure
                and letter in row
                and (role is None or self.places[place].role == role)
            ):
                found[place] = row[letter]
        return found

    def comparisons(
        self, measure: str, one: str, other: str, places: Iterable[str] | None = None
    ) -> dict[str, Comparison]:
        """One against another at every place that both were read at."""
        found = self._all(measure, one, other)
        if places is None:
            return found
        wanted = set(places)
        return {place: comparison for place, comparison in found.items() if place in wanted}

    def _all(self, measure: str, one: str, other: str) -> dict[str, Comparison]:
        """Each pair is compared once, and turned round for the other way."""
        key, turned = (measure, one, other), (measure, other, one)
        if key not in self._compared:
            if turned in self._compared:
                self._compared[key] = {
                    place: c.turned() for place, c in self._compared[turned].items()
                }
            else:
                self._compared[key] = self._compare(measure, one, other)
        return self._compared[key]

    def _compare(self, measure: str, one: str, other: str) -> dict[str, Comparison]:
        theirs = self.at(measure, other)
        best, threshold = MEASURES[measure].best, THRESHOLDS[measure]
        mine = self.at(measure, one)
        return {
            p: compare(c.taken, theirs[p].taken, best, threshold)
            for p, c in mine.items()
            if p in theirs
        }

    def against(
        self, measure: str, one: str, other: str, places: Iterable[str] | None = None
    ) -> Tally | None:
        """The same counted over the places; None where they share none."""
        found = self.comparisons(measure, one, other, places)
        return tally(list(found.values())) if found else None

    def median(
        self, measure: str, letter: str, places: Iterable[str] | None = None
    ) -> Median | None:
        """One contender's middle reading over the places."""
        wanted = set(places) if places is not None else None
        values = [
            c.taken.value
            for place, c in self.at(measure, letter).items()
            if wanted is None or place in wanted
        ]
        return median(values) if values else None
