"""Jobs that need the machine to themselves, so that what they time is not slowed by
others.

Every job holds a lock in the database while it runs: most of them together, one that
times something by itself. A worker that dies lets go of it with its connection.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from django.db import connection

LOCK = 4_127_001  # any number, the same everywhere

# Kinds of jobs, with what tells by the arguments whether one is to be alone.
ALONE: dict[str, Callable[[dict[str, Any]], bool]] = {}


def to_be_alone(kind: str, arguments: dict[str, Any]) -> bool:
    """Whether a job waits for all others to end, and keeps others waiting."""
    return kind in ALONE and ALONE[kind](arguments)


@contextmanager
def machine(alone: bool) -> Iterator[None]:
    """Hold the machine, alone or with others.

    Who waits to be alone is served before those who come later.
    """
    how = "" if alone else "_shared"
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT pg_advisory_lock{how}(%s)", [LOCK])
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute(f"SELECT pg_advisory_unlock{how}(%s)", [LOCK])
