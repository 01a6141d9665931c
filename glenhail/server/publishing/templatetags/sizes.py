"""Sizes of files in a report."""

from django import template

from glenhail.core.articles.sizes import size_words

register = template.Library()
register.filter("size", size_words)
