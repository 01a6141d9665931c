"""Licences of a document's files."""

from __future__ import annotations

from django import template

from glenhail.core.articles.licences import licences_table

register = template.Library()
register.filter("licences", licences_table)
