"""What was asked of the whole study: words worked out again from the numbers that an
edition holds.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from glenhail.core.checking.checks import Check, check
from glenhail.core.interval import Interval
from glenhail.core.seeing.matrix import SeenAt, matrix, matrix_said
from glenhail.core.seeing.visible import Seen, seen_by_shares
from glenhail.core.strength.course import StrengthStep, course_said

Document = dict[str, Any]
KIND = "asked of the whole study"
UNREADABLE = (ValueError, IndexError, KeyError, TypeError, ZeroDivisionError)


def inquiries_again(document: Document) -> Iterator[Check]:
    """Each answer's words.

    Parameters
    ----------
    document : dict
        The edition.
    """
    for answer in document.get("inquiries") or ():
        try:
            yield from _AGAIN.get(answer["about"], _untold)(answer)
        except UNREADABLE:
            yield check(KIND, answer.get("title", ""), False, "its numbers can not be read")


def _untold(answer: Document) -> Iterator[Check]:
    yield from ()


def _visibility(answer: Document) -> Iterator[Check]:
    numbers, found = answer["numbers"], []
    frames: dict[str, int] = {}
    for cell in numbers["cells"]:
        seen = seen_by_shares([cell["strong"], cell["share"]])
        what = f"{cell['letter']} as {cell['use']}, {cell['frame']}"
        yield check(KIND, what, seen.value == cell["seen"], f"its shares say: {seen.value}")
        number = frames.setdefault(cell["frame"], len(frames))
        seen_as = Seen(cell["seen"])
        found.append(SeenAt(cell["letter"], number, cell["use"], seen_as, cell["share"]))
    names = {use["id"]: use["short"] for use in numbers["uses"]}
    said = matrix_said(matrix(found), names, numbers["against"]) if found else []
    yield check(KIND, answer["title"], said == answer["said"], f"its cells say: {' '.join(said)}")


def _strength(answer: Document) -> Iterator[Check]:
    for series in answer["numbers"]["series"]:
        steps = [StrengthStep(**{**s, "share": Interval(**s["share"])}) for s in series["steps"]]
        for words in course_said(series["name"], series["unit"], steps):
            wanted = f"{series['title']}: {words}"
            yield check(KIND, wanted, wanted in answer["said"], "the edition does not say it so")


_AGAIN = {"visibility": _visibility, "strength": _strength}
