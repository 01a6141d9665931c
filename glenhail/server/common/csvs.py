"""Tables as CSV (RFC 4180) that no spreadsheet takes for formulas."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

# A spreadsheet would run a text that starts so as a formula.
FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r", "\n")


def safe(text: str) -> str:
    """A text no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith(FORMULA_STARTS) else text


def csv_text(header: Iterable[object], rows: Iterable[Iterable[object]]) -> str:
    """A table; texts are made safe, numbers stay as they are."""
    out = io.StringIO()
    writer = csv.writer(out)
    for row in (header, *rows):
        writer.writerow([safe(cell) if isinstance(cell, str) else cell for cell in row])
    return out.getvalue()
