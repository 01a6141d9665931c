"""Names within a sentence."""

from __future__ import annotations

from django import template
from django.utils.safestring import mark_safe

register = template.Library()


@register.filter
def inline(name: str) -> str:
    """A name as it stands within a sentence; abbreviations stay as they are."""
    return name if name[1:2].isupper() else name[:1].lower() + name[1:]


@register.filter
def css_text(words: str) -> str:
    """Words within quotation marks of a style sheet: whatever could end them, or the
    style, is written as a number.
    """
    return mark_safe("".join(c if c.isalnum() or c == " " else f"\\{ord(c):06x}" for c in words))  # noqa: S308
