"""Names within a sentence."""

from __future__ import annotations

from django import template
from django.utils.safestring import mark_safe

from glenhail.core.articles.names import inline
from glenhail.server.publishing import article

register = template.Library()


register.filter("inline", inline)


@register.filter
def css_text(words: str) -> str:
    """Words within quotation marks of a style sheet: whatever could end them, or the
    style, is written as a number.
    """
    return mark_safe("".join(c if c.isalnum() or c == " " else f"\\{ord(c):06x}" for c in words))  # noqa: S308


@register.filter
def rich(html: str) -> str:
    """Rich text, cleaned once more before it is printed; the numbers of its footnotes
    stay.
    """
    return mark_safe(article.rich(html, numbered=True))  # noqa: S308
