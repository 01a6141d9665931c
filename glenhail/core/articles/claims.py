"""Sentences that say otherwise than the numbers they stand on."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from glenhail.core.articles.names import inline
from glenhail.core.articles.values import TAG, Value, asked_in, values_in
from glenhail.core.measures.best import distance
from glenhail.core.measures.catalogue import MEASURES

Document = dict[str, Any]
HIGHER, LOWER, BETTER, WORSE, SAME = "higher", "lower", "better", "worse", "the same"
# What a sentence says of its first reading against its second.
COMPARING = {
    HIGHER: ("more", "higher", "above", "larger", "greater", "exceeds"),
    LOWER: ("less", "lower", "below", "smaller", "fewer"),
    BETTER: ("better", "ahead", "beats", "wins"),
    WORSE: ("worse", "behind", "loses"),
    SAME: ("same", "equal", "tied", "alike", "equals"),
}
# A sentence that denies is left to its reader.
DENYING = re.compile(r"\b(not|no|never|neither|nor|without|hardly|cannot)\b|n[’']t\b", re.I)
ENDS = re.compile(r"(?<=[.!?;:])\s+|</(?:p|li|blockquote)>|<br\s*/?>|\n")


@dataclass(frozen=True)
class Claim:
    """A comparison in a text, and what the readings say to it."""

    says: str
    first: Value
    second: Value


def claims(document: Document, text: str, rich: bool = False) -> Iterator[Claim]:
    """The comparisons in a text that can be held against readings: a sentence with two
    contenders' values of one measure at one place, and one word that compares them.

    Parameters
    ----------
    document : dict
        The edition's contenders, frames and patches with their tables.
    text : str
        Plain, or rich as HTML, with its readings asked for in braces.
    rich : bool
        Whether it is HTML.
    """
    told = values_in(document, text, rich)
    for sentence in ENDS.split(_numbered(text, rich)):
        words = TAG.sub(" ", sentence)
        values = [told[int(n)] for n in re.findall(r"\0(\d+)\0", words)]
        says = [k for k, told in COMPARING.items() if _has(words, told)]
        if len(values) != 2 or len(says) != 1 or DENYING.search(words):
            continue
        first, second = values
        same = (first.measure, first.spot) == (second.measure, second.spot)
        if first.cell and second.cell and same and first.letter != second.letter:
            yield Claim(says[0], first, second)


def _numbered(text: str, rich: bool) -> str:
    """With a number in the place of each reading: names of measures compare nothing."""
    parts, end = [], 0
    for n, found in enumerate(asked_in(text, rich)):
        parts += [text[end : found.start()], f"\0{n}\0"]
        end = found.end()
    return "".join([*parts, text[end:]])


def _has(words: str, told: tuple[str, ...]) -> bool:
    return any(re.search(rf"\b{word}\b", words, re.I) for word in told)


def contradiction(claim: Claim) -> str:
    """What the readings say otherwise, in words; "" where they agree.

    Parameters
    ----------
    claim : Claim
        Of a text.
    """
    one, two = claim.first.cell, claim.second.cell
    assert one is not None
    assert two is not None
    m = MEASURES[claim.first.measure]
    apart = one["high"] < two["low"] or two["high"] < one["low"]
    told = f"{claim.first.letter} is {claim.says} than {claim.second.letter}"
    if claim.says == SAME:
        told = f"{claim.first.letter} and {claim.second.letter} are the same"
    head = f"The text says that {told} in {inline(m.name)}"
    numbers = f"{one['text']} ±{one['half']} and {two['text']} ±{two['half']}"
    if apart == (claim.says == SAME):
        how = "their intervals lie apart" if apart else "their intervals overlap"
        return f"{head}, but {how}: {numbers}."
    if claim.says == SAME or _agrees(claim.says, one["value"], two["value"], m.best):
        return ""
    return f"{head}, but the readings say otherwise: {numbers}."


def _agrees(says: str, one: float, two: float, best: float | None) -> bool:
    if says in (HIGHER, LOWER):
        return (one > two) == (says == HIGHER)
    # Neither end of such a measure is better: its words are left to the reader.
    return best is None or (distance(one, best) < distance(two, best)) == (says == BETTER)
