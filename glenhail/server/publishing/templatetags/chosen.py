"""Tables and charts of a report, as templates lay them."""

from __future__ import annotations

from collections.abc import Sequence

from django import template

from glenhail.core.articles.tables import ChosenRow, chosen_rows, panels

register = template.Library()
register.filter("chosen_rows", chosen_rows)
register.filter("panels", panels)


@register.filter
def one(rows: Sequence[ChosenRow], what: str) -> bool:
    """Whether all rows have the same measure, or place."""
    return len({getattr(row, what) for row in rows}) == 1


@register.filter
def any_unseen(rows: Sequence[ChosenRow]) -> bool:
    """Whether any row differs by less than is seen."""
    return any(row.unseen for row in rows)


@register.filter
def share(value: float) -> str:
    """A share as CSS wants it, whatever the language of the server."""
    return f"{100 * value:.3f}%"
