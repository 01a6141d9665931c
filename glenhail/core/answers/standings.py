"""A study's readings by groups of places: medians, and every contender against every
other.
"""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from glenhail.core.answers.board import Board
from glenhail.core.measures.catalogue import MEASURES

# What a place can be counted under.
ROLE, KIND, FRAME = GROUPED = ("role", "kind", "frame")


def groups(board: Board) -> list[dict[str, Any]]:
    """What places can be taken together by: all, a role, a kind of scene, a frame; each
    with its places.

    Parameters
    ----------
    board : Board
        A study's readings by place, measure and contender.
    """
    found: dict[tuple[str, str], list[str]] = defaultdict(list)
    for place in board.places.values():
        if place.role:
            found[ROLE, place.role].append(place.key)
        for kind in place.kinds:
            found[KIND, kind].append(place.key)
        found[FRAME, place.frame].append(place.key)
    every = [{"by": "all", "name": "all", "places": list(board.places)}]
    order = {ROLE: 0, KIND: 1, FRAME: 2}
    ordered = sorted(found.items(), key=lambda g: order[g[0][0]])
    return every + [{"by": by, "name": name, "places": keys} for (by, name), keys in ordered]


def summary(board: Board, by: str) -> list[dict[str, Any]]:
    """Medians by measure and contender over the places of each group of one kind.

    Parameters
    ----------
    board : Board
        A study's readings by place, measure and contender.
    by : str
        'role', 'kind' or 'frame'.
    """
    made = []
    measures = {measure for measure, _ in board.cells}
    for group in groups(board):
        if group["by"] != by:
            continue
        for measure in (m for m in MEASURES if m in measures):
            for column in board.columns:
                middle = board.median(measure, column.letter, group["places"])
                if middle is not None:
                    made.append(
                        {
                            "group": group["name"],
                            "measure": measure,
                            "letter": column.letter,
                            "middle": middle,
                        }
                    )
    return made


def pairs(board: Board, measure: str) -> list[dict[str, Any]]:
    """Every contender against every other (the unprocessed frame included) by group of
    places, for one measure.

    Parameters
    ----------
    board : Board
        A study's readings by place, measure and contender.
    measure : str
        A measure's id.
    """
    letters = [c.letter for c in board.columns if not c.truth]
    made = []
    for group in groups(board):
        for one in letters:
            middle = board.median(measure, one, group["places"])
            if middle is None:
                continue
            against = [
                {
                    "letter": other,
                    "answer": t.answer,
                    "counts": t.counts,
                    "places": t.places,
                    "same": t.same,
                    "difference": t.difference.value,
                    "low": t.difference.low,
                    "high": t.difference.high,
                }
                for other in letters
                if other != one
                and (t := board.against(measure, one, other, group["places"])) is not None
            ]
            made.append(
                {
                    "by": group["by"],
                    "group": group["name"],
                    "letter": one,
                    "middle": middle,
                    "against": against,
                }
            )
    return made
