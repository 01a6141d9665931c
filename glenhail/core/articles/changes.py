"""What changed from one edition to the next, worked out from both."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

Document = dict[str, Any]
# Frame, patch (empty for the whole frame), measure, letter.
Key = tuple[str, str, str, str]


@dataclass(frozen=True)
class ChangedReading:
    """A reading whose intervals in the two editions lie apart."""

    what: str
    letter: str
    before: str
    after: str


@dataclass(frozen=True)
class Changes:
    """What is new, gone or other in the later of two editions.

    ``readings`` differ by more than both their intervals; ``within`` more differ by
    less, and ``same`` are what they were.
    """

    contenders: tuple[str, ...]
    material: tuple[str, ...]
    texts: tuple[str, ...]
    readings: tuple[ChangedReading, ...]
    within: int
    same: int


def changes(before: Document, after: Document) -> Changes:
    """What changed from one edition to a later one.

    Parameters
    ----------
    before, after : dict
        Two editions' data, whichever form they have.
    """
    old, new = _readings(before), _readings(after)
    both = [key for key in new if key in old]
    moved = [key for key in both if not _same(old[key], new[key])]
    apart = [key for key in moved if _apart(old[key], new[key])]
    names = {r["id"]: r["measure"] for t in _tables(after) for r in t[2]}
    return Changes(
        contenders=tuple(_contenders(before, after)),
        material=(
            *_listed("frame", _named(before, "frames"), _named(after, "frames")),
            *_listed("patch", _patches(before), _patches(after)),
            *_listed("figure", _figures(before), _figures(after)),
            *_listed("sitting", _sittings(before), _sittings(after)),
            *_listed("answer", _answers(before), _answers(after)),
            *_listed("series over ISO", _series(before), _series(after)),
        ),
        texts=tuple(_texts(before, after)),
        readings=tuple(
            ChangedReading(
                f"{names[measure]}, {patch or 'whole frame'}, {frame}",
                letter,
                _told(old[frame, patch, measure, letter]),
                _told(new[frame, patch, measure, letter]),
            )
            for frame, patch, measure, letter in apart
        ),
        within=len(moved) - len(apart),
        same=len(both) - len(moved),
    )


def _tables(document: Document) -> Iterator[tuple[str, str, list[Document]]]:
    for frame in document["frames"]:
        yield frame["name"], "", frame["table"]
    for patch in document["patches"]:
        yield patch["frame"], patch["name"], patch["table"]


def _readings(document: Document) -> dict[Key, Document]:
    letters = [c["letter"] for c in document["contenders"]]
    return {
        (frame, patch, row["id"], letter): cell
        for frame, patch, table in _tables(document)
        for row in table
        for letter, cell in zip(letters, row["cells"], strict=False)
        if "value" in cell
    }


def _same(one: Document, other: Document) -> bool:
    return math.isclose(one["value"], other["value"], rel_tol=1e-9, abs_tol=1e-12)


def _apart(one: Document, other: Document) -> bool:
    return bool(one["high"] < other["low"] or other["high"] < one["low"])


def _told(cell: Document) -> str:
    return f"{cell['text']} ±{cell['half']}"


def _contenders(before: Document, after: Document) -> Iterator[str]:
    old, new = (
        {c["letter"]: ", ".join(p for p in (c["title"], c["manner"]) if p) for c in d["contenders"]}
        for d in (before, after)
    )
    for letter, name in new.items():
        if letter not in old:
            yield f"{letter}, {name}: new"
        elif old[letter] != name:
            yield f"{letter}: {name}, before {old[letter]}"
    yield from (f"{letter}, {name}: gone" for letter, name in old.items() if letter not in new)


def _figures(document: Document) -> list[str]:
    return [", ".join(filter(None, (f["name"], f["shown"]))) for f in document.get("figures", ())]


def _named(document: Document, what: str) -> list[str]:
    return [thing["name"] for thing in document[what]]


def _patches(document: Document) -> list[str]:
    return [f"{p['name']} ({p['frame']})" for p in document["patches"]]


def _series(document: Document) -> list[str]:
    series = document.get("series")
    return [f"{s['name']}: {a['said']}" for s, a in _ahead(series)] if series else []


def _answers(document: Document) -> list[str]:
    told = document.get("inquiries", ())
    return [f"{answer['title']} {words}" for answer in told for words in answer["said"]]


def _ahead(series: Document) -> list[tuple[Document, Document]]:
    return [(series["spots"][a["spot"]], a) for a in series["ahead"]]


def _sittings(document: Document) -> list[str]:
    return [f"{s['number']}, “{s['question']}”" for s in document.get("sittings", ())]


def _listed(what: str, old: list[str], new: list[str]) -> Iterator[str]:
    yield from (f"{what} {name}: new" for name in dict.fromkeys(new) if name not in old)
    yield from (f"{what} {name}: gone" for name in dict.fromkeys(old) if name not in new)


def _texts(before: Document, after: Document) -> Iterator[str]:
    for name in ("question", "summary", "method", "disclosure"):
        if before[name] != after[name]:
            yield f"the {name} was changed"
    old, new = (
        {v["use"]: f"{v['text']} {v.get('marked', '')}".strip() for v in d["verdicts"]}
        for d in (before, after)
    )
    for use, text in new.items():
        if use not in old:
            yield f"verdict for {use}: new"
        elif old[use] != text:
            yield f"verdict for {use}: before “{old[use]}”"
    yield from (f"verdict for {use}: gone" for use in old if use not in new)
