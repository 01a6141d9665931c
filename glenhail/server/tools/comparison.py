"""Any set of tools side by side by their facts: one table for the screen, for CSV and
for reports.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from glenhail.server.common.csvs import csv_text
from glenhail.server.tools.models import Price, Tool

UNKNOWN = "not known"


@dataclass(frozen=True)
class Row:
    """One fact, told of each tool."""

    fact: str
    told: list[str]


def _prices(tool: Tool) -> str:
    return "; ".join(
        f"{_amount(p)} for {p.what} (checked {p.checked:%-d %b %Y})" for p in tool.prices.all()
    )


def _amount(price: Price) -> str:
    return f"{price.amount:.2f} {price.currency}"


def _newest(tool: Tool) -> str:
    dated = sorted((r for r in tool.releases.all() if r.released), key=lambda r: str(r.released))
    return f"{dated[-1].name}, {dated[-1].released:%-d %b %Y}" if dated else ""


def _raw_modes(tool: Tool) -> str:
    modes = sorted({m for r in tool.releases.all() for m in r.raw_modes})
    return f"any file; {', '.join(modes)}: raw files only" if modes else "any file"


FACTS: dict[str, Callable[[Tool], str]] = {
    "Kind": lambda t: t.kind,
    "Maker": lambda t: t.maker,
    "Licence": lambda t: t.licence,
    "Price": _prices,
    "Platforms": lambda t: ", ".join(t.platforms),
    "Run": lambda t: ", ".join(t.ways),
    "Takes": lambda t: "raw files only" if t.takes == "raw only" else _raw_modes(t),
    "Largest enlargement": lambda t: f"{t.largest:g}×" if t.largest else "",
    "Batches": lambda t: "" if t.batch is None else "yes" if t.batch else "no",
    "Newest release": _newest,
    "How we came by it": lambda t: t.disclosure,
    "Notes": lambda t: t.notes,
}


def compared(tools: Sequence[Tool]) -> list[Row]:
    """All facts that at least one of the tools has; what is missing of the others is
    said.
    """
    rows = [Row(fact, [told(t) for t in tools]) for fact, told in FACTS.items()]
    return [
        Row(r.fact, [w or ("" if r.fact == "Notes" else UNKNOWN) for w in r.told])
        for r in rows
        if any(r.told)
    ]


def compared_csv(tools: Sequence[Tool]) -> str:
    """The same as CSV."""
    return csv_text(["", *(t.name for t in tools)], ([r.fact, *r.told] for r in compared(tools)))
