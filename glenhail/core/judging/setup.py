"""What a sitting shows in which order, what an answer to it may be, and what so many
answers can tell.
"""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from enum import StrEnum
from itertools import combinations
from typing import Any

from glenhail.core.errors import BadRequest
from glenhail.core.judging.calls import Call, Said
from glenhail.core.judging.drawing import REPEATS, Purpose, drawn_pairs, shares_of
from glenhail.core.judging.grades import Grade
from glenhail.core.judging.power import needed, told_apart
from glenhail.core.picture import Rect

MOST_ORDERED = 6
TIES = 0.2  # common practice, no source: what is expected before anybody has answered
SECONDS = {"pairs": 8, "single": 5, "order": 25}  # common practice, no source: a judge's time
# Of a crop on a screen, px: two beside each other on 1280, and one as large as there is room.
BESIDE, ALONE = (600, 480), (1200, 600)


class SittingKind(StrEnum):
    """What a judge is asked."""

    PAIRS = "pairs"
    SINGLE = "single"
    ORDER = "order"


@dataclass(frozen=True)
class ShownPlace:
    """One thing a judge is shown: the spot, by its place in the sitting, and who is
    seen there from left to right. ``of`` is the place that a repeat repeats.
    """

    spot: int
    letters: tuple[str, ...]
    purpose: Purpose = Purpose.ASKED
    of: int | None = None

    def as_json(self) -> dict[str, Any]:
        """To be kept."""
        return asdict(self) | {"letters": list(self.letters)}

    @staticmethod
    def of_json(told: dict[str, Any]) -> ShownPlace:
        """As it was kept."""
        return ShownPlace(
            told["spot"], tuple(told["letters"]), Purpose(told["purpose"]), told["of"]
        )


@dataclass(frozen=True)
class Prospect:
    """What a sitting can tell: ``decisive`` answers are expected of ``answers``, so
    many of them for each pair of contenders; ``tells`` is the smallest share that a
    pair's answers tell from its opposite; ``seconds`` is what it takes one judge.
    """

    answers: int
    decisive: int
    of_a_pair: int
    tells: float | None
    needed_67: int
    needed_60: int
    seconds: int


def drawn_places(
    kind: SittingKind,
    letters: Sequence[str],
    spots: int,
    count: int,
    seed: int,
    obvious: tuple[str, str] | None = None,
) -> list[ShownPlace]:
    """What one judge is shown, in order.

    Parameters
    ----------
    kind : SittingKind
        What is asked.
    letters : sequence of str
        Contenders.
    spots : int
        How many there are.
    count : int
        Pairs; the other kinds show everything there is, and a tenth of it again.
    seed : int
        The same seed draws the same.
    obvious : tuple of str, optional
        The better and the worse of a pair that everybody can tell.
    """
    if kind == SittingKind.PAIRS:
        names = [str(i) for i in range(spots)]
        drawn = drawn_pairs(list(letters), names, count, seed, obvious)
        return [ShownPlace(int(p.spot), (p.left, p.right), p.purpose, p.of) for p in drawn]
    rng = random.Random(seed)  # noqa: S311
    if kind == SittingKind.SINGLE:
        shown = [ShownPlace(i, (letter,)) for i in range(spots) for letter in letters]
    else:
        shown = [
            ShownPlace(i, tuple(rng.sample(list(letters), len(letters)))) for i in range(spots)
        ]
    rng.shuffle(shown)
    again = sorted(rng.sample(range(len(shown)), round(REPEATS * len(shown))))
    repeats = [
        ShownPlace(
            shown[i].spot,
            tuple(rng.sample(shown[i].letters, len(shown[i].letters))),
            Purpose.REPEAT,
            i,
        )
        for i in again
    ]
    return shown + repeats


def checked_answer(kind: SittingKind, place: ShownPlace, answer: object) -> dict[str, Any]:
    """An answer as it is kept.

    Parameters
    ----------
    kind : SittingKind
        What was asked.
    place : ShownPlace
        What was shown.
    answer : object
        ``{"said": ...}`` of a pair, ``{"grade": 1..5}`` of a single picture,
        ``{"order": [...]}`` with the places from the left, the best first.

    Raises
    ------
    BadRequest
        If it is no answer to that.
    """
    told = answer if isinstance(answer, dict) else {}
    if kind == SittingKind.PAIRS and told.get("said") in list(Said):
        return {"said": told["said"]}
    grade = told.get("grade")
    if kind == SittingKind.SINGLE and type(grade) is int and grade in list(Grade):
        return {"grade": grade}
    order = told.get("order")
    if kind == SittingKind.ORDER and isinstance(order, list):
        whole = all(type(i) is int for i in order)
        if whole and sorted(order) == list(range(len(place.letters))):
            return {"order": order}
    raise BadRequest(
        {
            SittingKind.PAIRS: f"the answer is one of {', '.join(Said)}",
            SittingKind.SINGLE: "the answer is a grade from 1 to 5",
            SittingKind.ORDER: "the answer names each picture once, the best first",
        }[kind]
    )


def calls_in(kind: SittingKind, place: ShownPlace, answer: dict[str, Any]) -> list[Call]:
    """An answer as choices between two: of an order, one for each two in it; none of a
    grade.

    Parameters
    ----------
    kind : SittingKind
        What was asked.
    place : ShownPlace
        What was shown.
    answer : dict
        As `checked_answer` gives it.
    """
    spot = str(place.spot)
    if kind == SittingKind.PAIRS:
        return [Call(place.letters[0], place.letters[1], Said(answer["said"]), spot)]
    if kind == SittingKind.SINGLE:
        return []
    rank = {shown: at for at, shown in enumerate(answer["order"])}
    return [
        Call(
            place.letters[i],
            place.letters[j],
            Said.LEFT if rank[i] < rank[j] else Said.RIGHT,
            spot,
        )
        for i, j in combinations(range(len(place.letters)), 2)
    ]


def prospect(
    kind: SittingKind, contenders: int, spots: int, count: int, judges: int, obvious: bool
) -> Prospect:
    """What a sitting can tell, before it is begun.

    Parameters
    ----------
    kind : SittingKind
        What is asked.
    contenders, spots : int
        How many.
    count : int
        Pairs that each judge is shown.
    judges : int
        How many are expected.
    obvious : bool
        Whether an obvious pair is among the checks.
    """
    pairs = contenders * (contenders - 1) // 2
    if kind == SittingKind.PAIRS:
        shown, asked, ties = count, shares_of(count, obvious).asked, TIES
    elif kind == SittingKind.ORDER:
        shown, asked, ties = spots + round(REPEATS * spots), spots * pairs, 0.0
    else:
        shown = contenders * spots + round(REPEATS * contenders * spots)
        asked, ties = 0, 0.0
    decisive = round(judges * asked * (1 - ties))
    each = decisive // max(1, pairs)
    return Prospect(
        judges * shown,
        decisive,
        each,
        told_apart(each),
        needed(2 / 3),
        needed(0.6),
        shown * SECONDS[kind],
    )


def shown_part(rect: Rect, scale: float, room: tuple[int, int] = BESIDE) -> Rect:
    """The middle of a spot that a screen has room for.

    Parameters
    ----------
    rect : Rect
        The spot, px.
    scale : float
        Screen pixels for each of its pixels.
    room : tuple of int
        Screen pixels across and down.
    """
    w, h = (min(side, most / scale) for side, most in zip((rect.w, rect.h), room, strict=True))
    return Rect(rect.x + (rect.w - w) / 2, rect.y + (rect.h - h) / 2, w, h)
