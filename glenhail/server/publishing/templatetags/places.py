"""Things of a document by their place in it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django import template

register = template.Library()


@register.filter
def at(things: Sequence[Any], place: int) -> Any:
    """What stands at a place of a list."""
    return things[place]


@register.filter
def own_place(document: Any, place: int) -> int:
    """An own figure's place among all figures, as the page's script counts them."""
    return len(document["patches"]) + place
