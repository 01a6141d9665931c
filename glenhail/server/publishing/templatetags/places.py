"""Things of a document by their place in it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django import template

from glenhail.core.articles.looking import all_figures

register = template.Library()


@register.filter
def at(things: Sequence[Any], place: int) -> Any:
    """What stands at a place of a list."""
    return things[place]


@register.filter
def own_place(document: Any, place: int) -> int:
    """An own figure's place among all figures, as the page's script counts them."""
    return len(document["patches"]) + place


@register.filter
def figures(document: Any) -> list[Any]:
    """What is cut into crops, in the order of the page."""
    there = [f for f in all_figures(document) if f["crops"]]
    return sorted(there, key=lambda figure: figure["figure"])
