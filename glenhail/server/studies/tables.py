"""Readings as CSV (RFC 4180)."""

from __future__ import annotations

import csv
import io

from glenhail.server.studies.queries import Ranked

COLUMNS = [
    "frame", "patch", "role", "letter", "contender", "measure", "value", "low", "high", "unit", "rank", "tied", "unsure",
    "version", "grid", "reason", "basis",
]  # fmt: skip
# A spreadsheet would run a text that starts so as a formula.
FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r")


def safe(text: str) -> str:
    """A text no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith(FORMULA_STARTS) else text


def readings_csv(rows: list[Ranked]) -> str:
    """One line per reading; numbers unrounded."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for ranked in rows:
        r, place, patch = ranked.reading, ranked.place, ranked.reading.patch
        contender = r.output.contender
        texts = [r.output.frame.name, patch.name if patch else "whole frame", patch.role if patch else ""]
        words = f"{contender.title}, {contender.manner}".strip(", ")
        ranked_as = [place.rank, "yes" if place.tied else "", "yes" if place.unsure else ""] if place else [""] * 3
        what = [*(safe(t) for t in texts), contender.letter, safe(words), r.measure]
        number = [r.value, r.low, r.high, r.unit]
        writer.writerow([*what, *number, *ranked_as, r.version, r.grid, safe(r.reason), r.basis or "as made"])
    return out.getvalue()
