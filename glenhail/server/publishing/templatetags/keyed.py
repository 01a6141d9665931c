"""What belongs to a name or a place."""

from collections.abc import Mapping, Sequence

from django import template

register = template.Library()


@register.filter
def of(table: Mapping[str, object], name: str) -> object:
    """What a table has under a name."""
    return table.get(name, "")


@register.filter
def at(row: Sequence[object], place: int) -> object:
    """What stands at a place."""
    return row[place]
