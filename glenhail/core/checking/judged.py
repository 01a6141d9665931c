"""A sitting's results, worked out again from the answers that an edition holds."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from typing import Any

from glenhail.core.checking.checks import Check, check
from glenhail.core.judging.calls import Call, Said
from glenhail.core.judging.results import results_of
from glenhail.core.judging.setup import ShownPlace, SittingKind, calls_in
from glenhail.core.judging.words import said_of, speaks_for

Document = dict[str, Any]
KIND = "sitting"
NEAR = 1e-6


def sittings_again(document: Document) -> Iterator[Check]:
    """Each sitting's sentence, for whom it speaks, and every chance with its bounds.

    Parameters
    ----------
    document : dict
        The edition.
    """
    for sitting in document.get("sittings", ()):
        if sitting["kind"] == SittingKind.SINGLE:
            continue
        what = f"sitting {sitting['number']}, {sitting['question']}"
        letters = [c["letter"] for c in sitting["contenders"]]
        try:
            found = results_of(_judges(sitting), letters)
        except (ValueError, IndexError, KeyError, TypeError):
            found = None
        if found is None or sitting["results"] is None:
            same = found is None and sitting["results"] is None
            yield check(KIND, what, same, "its answers can not be read")
            continue
        told = sitting["results"]["standings"]
        near = len(told) == len(found.standings) and all(
            one["contender"] == two.contender
            and abs(one["chance"][end] - getattr(two.chance, end)) < NEAR
            for one, two in zip(told, found.standings, strict=True)
            for end in ("value", "low", "high")
        )
        yield check(KIND, f"chances of {what}", near, "the answers give others")
        words = (sitting["said"], sitting["speaks"]) == (said_of(found), speaks_for(found))
        yield check(KIND, f"words of {what}", words, f"the answers say: {said_of(found)}")


def _judges(sitting: Document) -> dict[str, list[Call]]:
    """Choices by judge, first times alone."""
    judges: dict[str, list[Call]] = defaultdict(list)
    for judge, _, purpose, spot, _, _, _, shown, answer, *_ in sitting["answers"]:
        if purpose != "asked":
            continue
        letters = shown.split()
        place = ShownPlace(spot - 1, tuple(letters))
        if sitting["kind"] == SittingKind.PAIRS:
            judges[str(judge)] += calls_in(SittingKind.PAIRS, place, {"said": Said(answer)})
        else:
            order = [letters.index(x) for x in answer.split(" > ")]
            judges[str(judge)] += calls_in(SittingKind.ORDER, place, {"order": order})
    return judges
