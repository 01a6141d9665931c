"""Price and speed in an edition, at numbers that it states, with what they were
reckoned from.
"""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from glenhail.core.answers.worth import USUAL
from glenhail.server.inquiries.worth import told_prices, worth_page
from glenhail.server.publishing.colours import colour_of
from glenhail.server.studies.models import Contender, Study

Document = dict[str, Any]
UNTOLD = "–"


def worth_table(study: Study, contenders: list[Contender]) -> Document:
    """What a picture costs and how long a batch waits, of those that either is known
    of.
    """
    page = worth_page(study, dict(USUAL))
    by = {c.letter: c for c in contenders}
    rows = [r for r in page["rows"] if r["letter"] in by and _known(r)]
    return {
        **USUAL,
        "machines": page["machines"],
        "rows": [_row(row, by[row["letter"]]) for row in rows],
    }


def _known(row: Document) -> bool:
    """A method that comes with the bench costs nothing: that alone is no news."""
    return row["seconds"] is not None or bool(row["amount"])


def _row(row: Document, contender: Contender) -> Document:
    prices = [
        {"tool": name, "prices": [asdict(price) for price in prices]}
        for name, prices in told_prices(contender)
    ]
    kept = ("letter", "amount", "currency", "said", "costs", "seconds", "waits", "by_hand")
    size = row["size_bytes"]
    return {
        **{k: row[k] for k in kept},
        "colour": colour_of(contender.letter),
        "title": contender.title,
        "prices": prices,
        "size": UNTOLD if size is None else f"{size / 1e6:.1f}",
        "noise": UNTOLD if row["noise"] is None else f"{row['noise']['value']:.3g}",
        "detail": UNTOLD if row["detail"] is None else f"{row['detail']['value']:.3g}",
    }
