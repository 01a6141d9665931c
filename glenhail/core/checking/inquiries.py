"""What was asked of the whole study: words worked out again from the numbers that an
edition holds.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from glenhail.core.answers.orders import OrderPlace, order_said
from glenhail.core.answers.succession import MeasureSuccession, succession_words
from glenhail.core.checking.checks import Check, check
from glenhail.core.execution.timing import spread_told
from glenhail.core.interval import Interval
from glenhail.core.level.costs import AtOneLevel
from glenhail.core.level.way import Way
from glenhail.core.level.ways import MEANS
from glenhail.core.releases.changes import change_told
from glenhail.core.releases.said import changes_said, speed_said
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


def _level(answer: Document) -> Iterator[Check]:
    numbers = answer["numbers"]
    names = numbers["one"], numbers["other"]
    for cell in numbers["cells"]:
        readings = [AtOneLevel(**row) for row in cell["readings"]]
        said = MEANS[Way(numbers["way"])].said(cell["numbers"], readings, names)
        yield _worded(answer, said, cell["name"])


def _order(answer: Document) -> Iterator[Check]:
    words = {m["letter"]: m["order"] for group in answer["numbers"]["groups"] for m in group}
    for pair in answer["numbers"]["pairs"]:
        places = [
            OrderPlace(**{k: v for k, v in place.items() if k != "title"})
            for place in pair["places"]
        ]
        one, other = ((k, words[k]) for k in (pair["one"], pair["other"]))
        yield _worded(answer, order_said(places, one, other))


def _releases(answer: Document) -> Iterator[Check]:
    numbers = answer["numbers"]
    names = numbers["earlier"], numbers["later"]
    frames = [(cell["name"], change_told(cell)) for cell in numbers["cells"]]
    yield _worded(answer, changes_said(frames, names))
    measured = [
        MeasureSuccession(**{k: v for k, v in row.items() if k != "title"})
        for row in numbers["rows"]
    ]
    yield _worded(answer, succession_words(measured))
    costs = [cost or {} for cost in numbers["costs"]]
    seconds = [spread_told(cost.get("seconds")) for cost in costs]
    runs = min(cost.get("runs", 0) for cost in costs)
    speed = speed_said(seconds[0], seconds[1], runs, names)
    if speed:
        yield _worded(answer, speed)


def _worded(answer: Document, wanted: str, frame: str = "") -> Check:
    """Whether an answer says what its numbers do, of one frame by its name where it
    says so of several.
    """
    said = wanted in answer["said"] or f"{frame}: {wanted}" in answer["said"]
    what = f"{answer['title']}, {frame}".removesuffix(", ")
    return check(KIND, what, said, f"its numbers say: {wanted}")


_AGAIN = {
    "visibility": _visibility,
    "strength": _strength,
    "level": _level,
    "order": _order,
    "releases": _releases,
}
