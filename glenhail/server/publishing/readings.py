"""The readings of a study as tables of an edition."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from glenhail.core.measures.catalogue import HEADLINES, MEASURES
from glenhail.server.material.models import Frame
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.models import AS_MADE
from glenhail.server.studies import queries
from glenhail.server.studies.models import Contender, Kind, Study

ORDINALS = {1: "1st", 2: "2nd", 3: "3rd"}

Document = dict[str, Any]
# By frame and patch, then by measure and letter.
Values = dict[tuple[int, int | None], dict[tuple[str, str], Document]]


def shown_contenders(study: Study, frames: list[Frame]) -> list[Contender]:
    """The columns of an edition; a truth where a frame has one."""
    return [
        c
        for c in queries.contenders().filter(study=study)
        if c.kind != Kind.TRUTH or any(f.truth for f in frames)
    ]


def readings_of(study: Study) -> Document:
    """As much of an edition's document as its texts are held against: contenders, and
    the tables of frames and patches.
    """
    frames = [sf.frame for sf in queries.study_frames(study)]
    places = {f.pk: at for at, f in enumerate(frames)}
    columns = [{"letter": c.letter, "kind": c.kind} for c in shown_contenders(study, frames)]
    rows = measuring_queries.ranked_readings(study)
    values = values_of([r for r in rows if r.reading.basis == AS_MADE])
    return {
        "lead": None,
        "contenders": columns,
        "frames": [
            {"name": f.name, "table": table_of(values, (f.pk, None), columns)} for f in frames
        ],
        "patches": [
            {
                "name": p.name,
                "frame_at": places[p.frame_id],
                "table": table_of(values, (p.frame_id, p.pk), columns),
            }
            for p in study.patches.all()
        ],
    }


def values_of(rows: list[measuring_queries.Ranked]) -> Values:
    """Readings by their places, as cells of tables."""
    found: Values = defaultdict(dict)
    for ranked in rows:
        r = ranked.reading
        found[r.output.frame_id, r.patch_id][r.measure, r.output.contender.letter] = _cell(ranked)
    return found


def _cell(ranked: measuring_queries.Ranked) -> Document:
    r, place, m = ranked.reading, ranked.place, MEASURES[ranked.reading.measure]
    if r.value is None or r.low is None or r.high is None:
        return {"text": "–", "reason": r.reason, "concerns": r.concerns}
    half = max(r.high - r.value, r.value - r.low)
    rank = ""
    if place is not None:
        rank = (
            ORDINALS.get(place.rank, f"{place.rank}th")
            + (", tied" if place.tied else "")
            + (" ≈" if place.unsure else "")
        )
    return {
        "text": f"{r.value:.{m.digits}f}",
        "half": f"{half:.{m.digits}f}",
        "rank": rank,
        "value": r.value,
        "low": r.low,
        "high": r.high,
        "grid": r.grid,
        "version": r.version,
    }


def table_of(values: Values, place: Any, columns: list[Document]) -> list[Document]:
    """Rows of measures; only those with at least one number or reason."""
    cells = values.get(place, {})
    rows = []
    for m in MEASURES.values():
        row = [cells.get((m.id, c["letter"]), {}) for c in columns]
        if any("value" in cell for cell in row):
            rows.append(
                {
                    "id": m.id,
                    "measure": m.name,
                    "unit": m.unit,
                    "best": m.best_in_words,
                    "cells": row,
                    "main": m.id in HEADLINES,
                    "reasons": _reasons(row, columns),
                }
            )
        elif not any(cell.get("concerns") for cell in row):
            continue
        elif reasons := _reasons(row, columns):
            rows.append(
                {
                    "id": m.id,
                    "measure": m.name,
                    "unit": m.unit,
                    "best": m.best_in_words,
                    "cells": [],
                    "reasons": reasons[:1],
                }
            )
    return rows


def absences(table: list[Document]) -> list[str]:
    """Why numbers are missing from a table, each reason once, with the measures it is
    for.
    """
    by_text: dict[str, list[str]] = defaultdict(list)
    for row in table:
        for reason in row["reasons"]:
            by_text[reason].append(row["measure"])
    return [f"{reason} ({', '.join(measures)})" for reason, measures in by_text.items()]


def _reasons(row: list[Document], columns: list[Document]) -> list[str]:
    by_text: dict[str, list[str]] = defaultdict(list)
    for cell, column in zip(row, columns, strict=True):
        if cell.get("reason"):
            by_text[cell["reason"]].append(column["letter"])
    return [f"{', '.join(letters)}: {text}" for text, letters in by_text.items()]
