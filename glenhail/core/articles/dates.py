"""Dates in the one form that the application shows; in English everywhere, since an
edition reads the same wherever it was printed.
"""

from __future__ import annotations

from datetime import UTC, datetime

MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


def day(moment: str) -> str:
    """A day, as 27 Nov 2026.

    Parameters
    ----------
    moment : str
        Date and time by ISO 8601.
    """
    told = datetime.fromisoformat(moment)
    return f"{told.day} {MONTHS[told.month - 1]} {told.year}"


def month(moment: str) -> str:
    """A month, as Nov 2026.

    Parameters
    ----------
    moment : str
        Date and time by ISO 8601.
    """
    told = datetime.fromisoformat(moment)
    return f"{MONTHS[told.month - 1]} {told.year}"


def minute(moment: datetime) -> str:
    """A moment, as 27 Nov 2026, 14:00 UTC.

    Parameters
    ----------
    moment : datetime
        With its time zone.
    """
    told = moment.astimezone(UTC)
    return f"{day(told.isoformat())}, {told:%H:%M} UTC"
