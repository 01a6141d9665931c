"""Dates of a report in the one form that the application shows."""

from __future__ import annotations

from datetime import datetime

from django import template

register = template.Library()


@register.filter
def day(moment: str) -> str:
    """27 Nov 2026, of an ISO 8601 date and time; months in English everywhere."""
    # Not by the machine's language: an edition reads the same wherever it was printed.
    months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"]
    told = datetime.fromisoformat(moment)
    return f"{told.day} {months[told.month - 1]} {told.year}"
