"""Tables are emptied after a test that commits: those that have rows, and nothing else
is done. (Django's own truncates every table and then makes its content types and
permissions anew, a tenth of the time that all tests take.)
"""

from __future__ import annotations

from functools import cache

from django.db import connection, transaction

# Filled by migrations and by nobody else.
KEPT = ("django_migrations", "django_content_type", "auth_permission")

LAST = ("procrastinate_events", "procrastinate_jobs", "procrastinate_workers")


class Emptied:
    """Mixed into a TransactionTestCase, before it."""

    def _fixture_teardown(self) -> None:
        empty_tables()


def empty_tables() -> None:
    """Take every row out of the database, the queue's too."""
    with connection.cursor() as cursor:
        cursor.execute(_asked(tuple(_tables())))
        filled = [name for (name,) in cursor.fetchall()]
        # Django's own references are looked at when all of it is done, the queue's at once.
        with transaction.atomic():
            for name in sorted(filled, key=lambda n: LAST.index(n) if n in LAST else -1):
                cursor.execute(f'DELETE FROM "{name}"')  # noqa: S608


@cache
def _tables() -> list[str]:
    with connection.cursor() as cursor:
        cursor.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")
        return sorted(name for (name,) in cursor.fetchall() if name not in KEPT)


@cache
def _asked(tables: tuple[str, ...]) -> str:
    return " UNION ALL ".join(
        f"SELECT '{name}' WHERE EXISTS (SELECT 1 FROM \"{name}\")"  # noqa: S608
        for name in tables
    )
