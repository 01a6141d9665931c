"""Price and speed: reckoned again from the prices and times that an edition holds."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from glenhail.core.answers.worth import ToldPrice, amount_said, picture_cost, waiting_said
from glenhail.core.checking.checks import Check, check

Document = dict[str, Any]
KIND = "price and speed"
UNREADABLE = (ValueError, KeyError, TypeError, ZeroDivisionError)


def worth_again(document: Document) -> Iterator[Check]:
    """Each contender's.

    Parameters
    ----------
    document : dict
        The edition.
    """
    told = document.get("worth") or {}
    for row in told.get("rows", ()):
        try:
            yield _again(row, told)
        except UNREADABLE:
            yield check(KIND, str(row.get("title", "")), False, "its numbers can not be read")


def _again(row: Document, told: Document) -> Check:
    tools = [(t["tool"], [ToldPrice(**price) for price in t["prices"]]) for t in row["prices"]]
    cost = picture_cost(tools, told["pictures"], told["years"])
    wanted = amount_said(cost.amount, cost.currency), cost.said, waiting_said(row["seconds"])
    printed = row["costs"], row["said"], row["waits"]
    why = f"its prices and seconds say: {', '.join(wanted)}"
    return check(KIND, f"{row['letter']}, {row['title']}", printed == wanted, why)
