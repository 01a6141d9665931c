"""Things of a document by their place in it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django import template

from glenhail.core.articles.looking import all_figures

register = template.Library()
UNLISTED = ("text", "figure", "table", "chart")


@register.filter
def at(things: Sequence[Any], place: int) -> Any:
    """What stands at a place of a list."""
    return things[place]


@register.filter
def own_place(document: Any, place: int) -> int:
    """An own figure's place among all figures, as the page's script counts them."""
    return len(document["patches"]) + place


@register.filter
def of_letter(contenders: Sequence[Any], letter: str) -> Any:
    """The contender of a letter."""
    return next(c for c in contenders if c["letter"] == letter)


@register.filter
def has(blocks: Sequence[Any], kind: str) -> bool:
    """Whether there is a block of a kind."""
    return any(b["kind"] == kind for b in blocks)


@register.filter
def listed(blocks: Sequence[Any]) -> list[Any]:
    """The blocks that contents name: those with a heading."""
    return [b for b in blocks if b["kind"] not in UNLISTED]


@register.filter
def figures(document: Any) -> list[Any]:
    """What is cut into crops, in the order of the page."""
    there = [f for f in all_figures(document) if f["crops"]]
    return sorted(there, key=lambda figure: figure["figure"])
