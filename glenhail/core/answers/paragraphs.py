"""The answer to a study's question: a paragraph for each type of patch, made by rules
from who beats whom there and what speaks against whom, with how far that carries.
"""

from __future__ import annotations

from dataclasses import dataclass

from glenhail.core.answers.board import Board
from glenhail.core.answers.comparison import Answer
from glenhail.core.answers.sentences import BAD, PLAIN, faults
from glenhail.core.measures.catalogue import OWN, WITHOUT_TRUTH

ABOUT = {
    "texture": "Fine texture",
    "print": "Lettering",
    "face": "Faces",
    "edge": "Edges",
    "flat": "Plain areas",
    "shadow": "Deep shadow",
    "lights": "Points of light",
    "leave-alone": "Parts to be left alone",
}


@dataclass(frozen=True)
class Clause:
    """A part of a paragraph: of which contenders, in words after their letters, whether
    it speaks against them, and the readings behind it.
    """

    letters: tuple[str, ...]
    text: str
    tone: str
    measure: str
    readings: tuple[int, ...]


@dataclass(frozen=True)
class Paragraph:
    """What is answered for one type of patch, by which measure, over how many places.

    ``order`` holds contenders by rank, the best first; several in a rank can not be
    told apart there.
    """

    role: str
    about: str
    measure: str
    places: int
    order: tuple[Clause, ...]
    faults: tuple[Clause, ...]


def paragraphs(board: Board) -> list[Paragraph]:
    """A paragraph for each type of patch that was measured, in the order of `ABOUT`.

    Parameters
    ----------
    board : Board
        A study's readings by place, measure and contender.
    """
    made = (_paragraph(board.of_role(role), role) for role in ABOUT)
    return [paragraph for paragraph in made if paragraph is not None]


def told_by(board: Board, role: str) -> str | None:
    """The measure that answers for a type of patch: its own one, or what stands for it
    without a truth; None where neither was read of anybody who competes.

    Parameters
    ----------
    board : Board
        Readings of the places that count.
    role : str
        A type of patch.
    """
    own = OWN[role]
    return next((m for m in (own, WITHOUT_TRUTH.get(own, "")) if m and _measured(board, m)), None)


def _paragraph(board: Board, role: str) -> Paragraph | None:
    measure = told_by(board, role)
    if measure is None:
        return None
    places = {place for name, place in board.cells if name == measure}
    ranks = ranked(board, measure)
    order = tuple(
        Clause(
            letters,
            "" if len(letters) == 1 else _alike(board, measure, letters),
            PLAIN,
            measure,
            tuple(c.id for letter in letters for c in board.at(measure, letter).values()),
        )
        for letters in ranks
    )
    return Paragraph(role, ABOUT[role], measure, len(places), order, _against(board))


def _against(board: Board) -> tuple[Clause, ...]:
    """What speaks against whom: each thing once, with all that it is said of."""
    told = [s for letter in board.contenders for s in faults(board, letter) if s.tone == BAD]
    return tuple(
        Clause(
            tuple(s.letter for s in told if s.short == short),
            short,
            BAD,
            next(s.measure for s in told if s.short == short),
            tuple(pk for s in told if s.short == short for pk in s.readings),
        )
        for short in dict.fromkeys(s.short for s in told)
    )


def _measured(board: Board, measure: str) -> list[str]:
    return [letter for letter in board.contenders if board.at(measure, letter)]


def ranked(board: Board, measure: str) -> list[tuple[str, ...]]:
    """Contenders in ranks: each is beaten, over most places, by nobody of its own rank
    or a later one.

    Whoever beats somebody that stands before it by others' answers (a circle) shares
    that one's rank: the answers carry no order there.

    Parameters
    ----------
    board : Board
        Readings of the places that count.
    measure : str
        A measure's id.
    """
    left = _measured(board, measure)
    ranks = []
    while left:
        first = tuple(
            one for one in left if not any(_beats(board, measure, o, one) for o in left)
        ) or tuple(left)
        ranks.append(first)
        left = [one for one in left if one not in first]
    return ranks


def _beats(board: Board, measure: str, one: str, other: str) -> bool:
    found = board.against(measure, one, other) if one != other else None
    return found is not None and found.answer == Answer.BETTER


def _alike(board: Board, measure: str, letters: tuple[str, ...]) -> str:
    """What is said of those in one rank."""
    answers = {
        found.answer
        for i, one in enumerate(letters)
        for other in letters[i + 1 :]
        if (found := board.against(measure, one, other)) is not None
    }
    if answers <= {Answer.NONE}:
        return "no measurable difference"
    if answers <= {Answer.NONE, Answer.UNSEEN}:
        return "no difference that can be seen"
    return "in no order that the readings carry"
