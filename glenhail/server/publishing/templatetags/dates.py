"""Dates of a report."""

from django import template

from glenhail.core.articles.dates import day

register = template.Library()
register.filter("day", day)
