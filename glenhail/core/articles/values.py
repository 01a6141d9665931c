"""Readings within a text: ``{B detail kept, check cloth}`` stands for what contender B
has there, as long as nothing is published, and for a number from then on.
"""

from __future__ import annotations

import html as markup
import re
from collections.abc import Callable, Collection, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, TypeVar

from glenhail.core.articles.spots import Spot, row_anchor, row_at, spot_names, spots
from glenhail.core.measures.catalogue import MEASURES

Document = dict[str, Any]
Key = TypeVar("Key")
MINUS = "\N{MINUS SIGN}"
# A letter, a measure, a place, and a number where its author rounds it.
ASKED = re.compile(r"\{\s*([A-Z])\s+([^{}]{1,400}?)\s*\}")
ROUNDED = re.compile(r"=\s*([-\N{MINUS SIGN}]?\d+(?:\.\d+)?)\s*$")
TAG = re.compile(r"<[^>]*>")
WHOLE = "whole frame"


@dataclass(frozen=True)
class Value:
    """One reading that a text asks for.

    Attributes
    ----------
    asked : str
        What stands between the braces.
    letter, measure : str
        Whose, and the measure's id.
    spot : Spot or None
        Where it was read.
    cell : dict
        The reading; empty where there is none.
    text : str
        What is printed in its place.
    problem : str
        Why nothing can be printed.
    warning : str
        What the author's own number says otherwise.
    """

    asked: str
    letter: str = ""
    measure: str = ""
    spot: Spot | None = None
    cell: Document | None = None
    text: str = ""
    problem: str = ""
    warning: str = ""


class _NotFound(Exception):
    """What was asked for is not there, in words."""


def asked_in(text: str, rich: bool = False) -> Iterator[re.Match[str]]:
    """What a text asks for, in its order; in HTML what stands between tags.

    Parameters
    ----------
    text : str
        Plain, or rich as HTML.
    rich : bool
        Whether it is HTML.
    """
    for found in ASKED.finditer(text):
        within = rich and text.rfind("<", 0, found.start()) > text.rfind(">", 0, found.start())
        if "," in found.group(2) and not within:
            yield found


def values_in(document: Document, text: str, rich: bool = False) -> list[Value]:
    """All readings that a text asks for, in its order.

    Parameters
    ----------
    document : dict
        The edition's contenders, frames and patches with their tables.
    text : str
        Plain, or rich as HTML.
    rich : bool
        Whether it is HTML.
    """
    return [_value(document, found) for found in asked_in(text, rich)]


def with_values(
    document: Document, text: str, kinds: Collection[str], rich: bool = False
) -> tuple[str, list[Value]]:
    """A text with its readings in place, and these; what can not be found stays as it
    is.

    Parameters
    ----------
    document : dict
        The edition's contenders, frames and patches with their tables.
    text : str
        Plain, or rich as HTML.
    kinds : collection of str
        Kinds of the blocks that the page has: numbers lead to tables that are there.
    rich : bool
        Whether it is HTML, where numbers lead to their tables.
    """
    values: list[Value] = []
    parts: list[str] = []
    end = 0
    for found in asked_in(text, rich):
        value = _value(document, found)
        values.append(value)
        if value.spot is not None and not value.problem:
            href = row_anchor(document, value.spot, value.measure, kinds) if rich else ""
            words = markup.escape(value.text) if rich else value.text
            parts += [text[end : found.start()], f'<a href="{href}">{words}</a>' if href else words]
            end = found.end()
    return "".join([*parts, text[end:]]), values


def _value(document: Document, found: re.Match[str]) -> Value:
    asked = " ".join(markup.unescape(found.group()[1:-1]).split())
    if TAG.search(found.group()):
        return Value(TAG.sub("", asked), problem="Write it without bold, italics or links within.")
    letter, told = found.group(1), " ".join(markup.unescape(found.group(2)).split())
    rounded = ROUNDED.search(told)
    if rounded:
        told = told[: rounded.start()].rstrip()
    try:
        spot, measure = _meant(document, told)
        cell = _cell(document, spot, measure, letter)
    except _NotFound as why:
        return Value(asked, letter, problem=str(why))
    text, warning = _told(measure, cell, rounded.group(1) if rounded else "")
    return Value(asked, letter, measure, spot, cell, text, "", warning)


def _meant(document: Document, told: str) -> tuple[Spot, str]:
    """Place and measure of those words; the names of both may have commas."""
    names = {m.id: (m.name, m.id) for m in MEASURES.values()}
    exact = {name.casefold() for told_names in names.values() for name in told_names}
    parts = told.split(",")
    splits = ((",".join(parts[:n]), ",".join(parts[n:])) for n in range(len(parts) - 1, 0, -1))
    known = (split for split in splits if split[0].strip().casefold() in exact)
    name, place = next(known, (parts[0], ",".join(parts[1:])))
    measure = _one(name, names, "measure", lambda key: MEASURES[key].name)
    return _spot(document, place.strip()), measure


def _spot(document: Document, place: str) -> Spot:
    """The place of those words: a patch's name, a frame's, or both."""
    names = {}
    for spot in spots(document):
        patch, frame = spot_names(document, spot)
        own = patch or WHOLE
        names[spot] = (own, f"{own}, {frame}") if patch else (frame, f"{own}, {frame}")
    return _one(place, names, "place", lambda spot: names[spot][-1])


def _one(
    words: str, names: Mapping[Key, tuple[str, ...]], what: str, tell: Callable[[Key], str]
) -> Key:
    """The one thing that has this name, else the one whose name has these words."""
    wanted = words.strip().casefold()
    for same in (lambda name: name == wanted, lambda name: wanted in name):
        found = [k for k, told in names.items() if any(same(n.casefold()) for n in told)]
        if len(found) == 1:
            return found[0]
        if found:
            some = ", ".join(f"“{tell(k)}”" for k in found[:3])
            raise _NotFound(f"“{words.strip()}” is more than one {what}: {some}. Say which.")
    raise _NotFound(f"There is no {what} “{words.strip()}” in this study.")


def _cell(document: Document, spot: Spot, measure: str, letter: str) -> Document:
    letters = [c["letter"] for c in document["contenders"]]
    if letter not in letters:
        raise _NotFound(f"There is no contender {letter} in this study.")
    row = row_at(document, spot, measure)
    cell: Document = row["cells"][letters.index(letter)] if row else {}
    if "value" not in cell:
        reason = cell.get("reason", "")
        why = f": {reason}" if reason else ""
        raise _NotFound(f"{letter} has no reading of {MEASURES[measure].name} there{why}.")
    return cell


def _told(measure: str, cell: Document, rounded: str) -> tuple[str, str]:
    unit = MEASURES[measure].unit
    if not rounded:
        return f"{cell['text']} ±{cell['half']} {unit}".strip(), ""
    number = rounded.replace(MINUS, "-")
    digits = len(number.partition(".")[2])
    text = f"{number.replace('-', MINUS)} {unit}".strip()
    # Either way of rounding a half is right.
    if abs(float(number) - cell["value"]) <= 0.5 * 10.0**-digits * (1 + 1e-9):
        return text, ""
    return text, f"it is {cell['text']} ±{cell['half']} {unit}".strip()
