"""Readings as CSV (RFC 4180)."""

from __future__ import annotations

from glenhail.server.common.csvs import csv_text
from glenhail.server.measuring.queries import Ranked

COLUMNS = [
    "frame",
    "patch",
    "role",
    "letter",
    "contender",
    "measure",
    "value",
    "low",
    "high",
    "unit",
    "rank",
    "tied",
    "unsure",
    "version",
    "grid",
    "reason",
    "basis",
]


def readings_csv(rows: list[Ranked]) -> str:
    """One line per reading; numbers unrounded."""
    return csv_text(COLUMNS, map(_row, rows))


def _row(ranked: Ranked) -> list[object]:
    r, place, patch = ranked.reading, ranked.place, ranked.reading.patch
    contender = r.output.contender
    texts = [
        r.output.frame.name,
        patch.name if patch else "whole frame",
        patch.role if patch else "",
    ]
    words = f"{contender.title}, {contender.manner}".strip(", ")
    ranked_as = (
        [place.rank, "yes" if place.tied else "", "yes" if place.unsure else ""]
        if place
        else [""] * 3
    )
    what = [*texts, contender.letter, words, r.measure]
    number = [r.value, r.low, r.high, r.unit]
    return [*what, *number, *ranked_as, r.version, r.grid, r.reason, r.basis or "as made"]
