"""Addresses that let sit: a row's number with a mark that only this bench can make, so
that nothing secret is kept and nobody can guess one.
"""

from __future__ import annotations

from django.utils.crypto import constant_time_compare, salted_hmac

from glenhail.server.common.query import number_of

LENGTH = 32  # signs of the mark, of 4 bits each
SEAT, LINK = "glenhail.judging.seat", "glenhail.judging.link"


def key_of(kind: str, number: int) -> str:
    """The key of a judge's seat, or of a link for guests."""
    return f"{number}-{_mark(kind, number)}"


def number_in(kind: str, key: str) -> int | None:
    """The number that a key was made for; None if it is no key of this kind."""
    told, _, mark = key.partition("-")
    number = number_of(told)
    if number is None or not constant_time_compare(mark, _mark(kind, number)):
        return None
    return number


def _mark(kind: str, number: int) -> str:
    return salted_hmac(kind, str(number), algorithm="sha256").hexdigest()[:LENGTH]
