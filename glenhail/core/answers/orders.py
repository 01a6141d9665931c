"""The same steps in every order: where the order matters, and where not."""

from __future__ import annotations

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass
from typing import Generic, TypeVar

from glenhail.core.answers.board import Board
from glenhail.core.answers.comparison import Answer
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.treatments.step import Step, Treatment
from glenhail.core.words import listed

# Measures of patches that are asked, each of one kind of patch.
ASKED = ("noise_luma", "noise_chroma", "detail_kept", "detail_added", "mtf50", "overshoot")
FIRM = (Answer.BETTER, Answer.WORSE)
Key = TypeVar("Key", bound=Hashable)


@dataclass(frozen=True)
class OrderGroup(Generic[Key]):
    """Treatments of the same steps in different orders, and each one's order in words."""

    members: tuple[tuple[Key, str], ...]


@dataclass(frozen=True)
class OrderPlace:
    """One measure on one patch: what the first order is against the other."""

    measure: str
    place: str
    frame: str
    one: float
    other: float
    answer: str


@dataclass(frozen=True)
class OrderPair:
    """Two orders against each other: everywhere that both were measured, and in words."""

    one: str
    other: str
    places: tuple[OrderPlace, ...]
    said: str


def order_groups(treatments: Mapping[Key, Treatment]) -> list[OrderGroup[Key]]:
    """Those that differ in nothing but the order of their steps.

    Parameters
    ----------
    treatments : Mapping of key to Treatment
        Of a study.
    """
    by: dict[tuple[str, ...], list[tuple[Key, Treatment]]] = {}
    for key, treatment in treatments.items():
        if len(treatment.steps) > 1:
            same = (*sorted(step.words for step in treatment.steps), treatment.feed)
            by.setdefault(same, []).append((key, treatment))
    return [
        OrderGroup(tuple((key, _in_words(t.steps)) for key, t in of))
        for of in by.values()
        if len({t.words for _, t in of}) > 1
    ]


def _in_words(steps: Sequence[Step]) -> str:
    return ", then ".join(step.title for step in steps)


def prefixes(treatments: Sequence[Treatment]) -> list[Treatment]:
    """What lies between: each treatment's first steps alone, as treatments.

    Parameters
    ----------
    treatments : sequence of Treatment
        Of two steps and more.
    """
    made = [
        Treatment(t.steps[:count], t.feed) for t in treatments for count in range(1, len(t.steps))
    ]
    return list(dict.fromkeys(made))


def order_pair(board: Board, one: tuple[str, str], other: tuple[str, str]) -> OrderPair:
    """One order against another, on every patch that both were measured on.

    Parameters
    ----------
    board : Board
        All readings.
    one, other : (str, str)
        Letters, and orders in words.
    """
    places = []
    for measure in ASKED:
        mine, theirs = board.at(measure, one[0]), board.at(measure, other[0])
        for key, compared in board.comparisons(measure, one[0], other[0]).items():
            place = board.places[key]
            if place.role:
                values = mine[key].taken.value, theirs[key].taken.value
                answer = compared.answer.value
                places.append(OrderPlace(measure, place.name, place.frame, *values, answer))
    return OrderPair(one[0], other[0], tuple(places), order_said(places, one, other))


def order_said(places: Sequence[OrderPlace], one: tuple[str, str], other: tuple[str, str]) -> str:
    """Where the order matters, and where not, in a sentence or two.

    Parameters
    ----------
    places : sequence of OrderPlace
        Everywhere that both were measured.
    one, other : (str, str)
        Letters, and orders in words.
    """
    start = f"{one[1]} ({one[0]}) against {other[1]} ({other[0]})"
    if not places:
        return f"{start}: nothing is measured on a patch of both yet."
    firm, none = [], []
    for measure in ASKED:
        of = [p.answer for p in places if p.measure == measure]
        if not of:
            continue
        name = _plainly(MEASURES[measure].name)
        told = [
            f"{answer.value} in {_count(of.count(answer.value), len(of))}"
            for answer in FIRM
            if of.count(answer.value)
        ]
        if told:
            firm.append(f"{' and '.join(told)} by {name}")
        else:
            none.append(name)
    matters = f"{start}: {'; '.join(firm)}." if firm else f"{start}: the order does not matter."
    if not none:
        return matters
    return f"{matters} No difference that would be seen by {listed(none, 'or')}."


def _plainly(name: str) -> str:
    """A measure's name within a sentence."""
    return name if name[:2].isupper() else name[:1].lower() + name[1:]


def _count(count: int, of: int) -> str:
    if of == 1:
        return "its one patch"
    return f"all {of} patches" if count == of else f"{count} of {of} patches"
