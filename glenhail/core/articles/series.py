"""One question over time: what its editions found, beside each other."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from statistics import fmean
from typing import Any

from glenhail.core.measures.catalogue import OWN, WITHOUT_TRUTH

Document = dict[str, Any]
# A frame, a patch of it, and which of those that have both names.
Place = tuple[str, str, int]


def reached(document: Document) -> list[Document]:
    """What every contender reached in the main measure of each patch, as printed: one
    entry for each measure, with its patches.

    Parameters
    ----------
    document : dict
        The edition.
    """
    best = {m["id"]: m.get("best") for m in document["measures"]}
    letters = [c["letter"] for c in document["contenders"]]
    made: dict[str, Document] = {}
    for at, patch in enumerate(document["patches"]):
        row = _main_row(patch)
        if row is None:
            continue
        told = {"measure": row["id"], "name": row["measure"], "unit": row["unit"], "places": []}
        entry = made.setdefault(row["id"], {**told, "best": best.get(row["id"])})
        values = {
            letter: {"value": cell["value"], "text": cell["text"]}
            for letter, cell in zip(letters, row["cells"], strict=True)
            if "value" in cell
        }
        where = {"frame": patch["frame"], "patch": patch["name"], "at": at}
        entry["places"].append({**where, "values": values})
    return list(made.values())


def _main_row(patch: Document) -> Document | None:
    """The row of the measure that a patch's type is for, or of what stands in for it."""
    own = OWN.get(patch["role"])
    wanted = (own, WITHOUT_TRUTH.get(own or ""))
    # Editions of earlier releases name measures in words alone.
    rows = {row["id"]: row for row in patch["table"] if row["cells"] and "id" in row}
    return next((rows[name] for name in wanted if name in rows), None)


def series(editions: Sequence[Document]) -> Document:
    """A report's editions as a series.

    Parameters
    ----------
    editions : sequence of dict
        What is told of each (`about`), the oldest first; at least one.

    Returns
    -------
    dict
        ``editions``, each with the letters that are ``new`` in it; ``contenders`` as
        the newest edition has them; ``tables``, one for each main measure.
    """
    known: set[str] = set()
    told = []
    for edition in editions:
        letters = [c["letter"] for c in edition["contenders"]]
        told.append({**edition, "new": [x for x in letters if x not in known] if known else []})
        known |= set(letters)
    contenders = {c["letter"]: c for edition in editions for c in edition["contenders"]}
    names = dict.fromkeys(r["measure"] for e in editions for r in e.get("reached", []))
    tables = [_table(name, editions, list(contenders)) for name in names]
    return {"editions": told, "contenders": contenders, "tables": tables}


def _table(measure: str, editions: Sequence[Document], letters: Sequence[str]) -> Document:
    """A measure over all editions: means over the patches that all of them have, and
    every reading.
    """
    rows = [_of_measure(edition, measure) for edition in editions]
    there = [_by_place(row["places"]) if row else {} for row in rows]
    shared = set.intersection(*(set(places) for places in there if places))
    first = next(row for row in reversed(rows) if row)
    ordered = dict.fromkeys(place for places in there for place in places)
    values = [v for places in there for p in places.values() for v in p["values"].values()]
    digits = max((_decimals(v["text"]) for v in values), default=0)
    means = [
        {"letter": letter, "cells": [_mean(places, shared, letter, digits) for places in there]}
        for letter in letters
        if any(letter in p["values"] for places in there for p in places.values())
    ]
    return {
        **{k: first[k] for k in ("measure", "name", "unit", "best")},
        "shared": len(shared),
        "rows": means if shared else [],
        "gaps": any("" in row["cells"] for row in means),
        "places": [
            {"frame": place[0], "patch": place[1], "rows": _rows(place, there, letters)}
            for place in ordered
        ],
    }


def _of_measure(edition: Document, measure: str) -> Document | None:
    return next((r for r in edition.get("reached", []) if r["measure"] == measure), None)


def _by_place(places: Sequence[Document]) -> dict[Place, Document]:
    """Places by their names; those of one name are counted, since two may share it."""
    seen: Counter[tuple[str, str]] = Counter()
    made: dict[Place, Document] = {}
    for place in places:
        names = place["frame"], place["patch"]
        made[(*names, seen[names])] = place
        seen[names] += 1
    return made


def _decimals(text: str) -> int:
    return len(text.partition(".")[2])


def _mean(places: dict[Place, Document], shared: set[Place], letter: str, digits: int) -> str:
    """The mean over shared places, each of which has to have a reading."""
    found = [places[p]["values"].get(letter) for p in shared if p in places]
    if not found or not all(found):
        return ""
    return f"{fmean(v['value'] for v in found if v):.{digits}f}"


def _rows(
    place: Place,
    there: Sequence[dict[Place, Document]],
    letters: Sequence[str],
) -> list[Document]:
    """One place's readings, each with the patch's place in its edition."""
    rows = []
    for letter in letters:
        cells = []
        for places in there:
            known = places.get(place)
            value = known["values"].get(letter) if known else None
            cells.append({"text": value["text"], "at": known["at"]} if known and value else None)
        if any(cells):
            rows.append({"letter": letter, "cells": cells})
    return rows
