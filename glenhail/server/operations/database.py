"""PostgreSQL's own programs, told which database this is."""

from __future__ import annotations

import os
import shutil
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.core.management.base import CommandError
from django.db import connection

CLEARING = 4_127_002  # any number, the same everywhere


def program(name: str) -> str:
    """Where a program of the server's release lies.

    Raises
    ------
    CommandError
        If it is not installed.
    """
    found = sorted(
        Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=lambda p: int(p.parts[-3])
    )
    path = str(found[-1]) if found else shutil.which(name)
    if path is None:
        raise CommandError(f"{name} is not installed: apt-get install postgresql-client.")
    return path


def run(name: str, *arguments: str) -> str:
    """Run it on this bench's database; returns what it said.

    Raises
    ------
    CommandError
        With its own words, if it fails.
    """
    settings = connection.settings_dict
    where = {
        "PGHOST": settings["HOST"],
        "PGPORT": settings["PORT"],
        "PGUSER": settings["USER"],
        "PGPASSWORD": settings["PASSWORD"],
    }
    told = {key: str(value) for key, value in where.items() if value}
    done = subprocess.run(
        [program(name), *arguments],
        env={**os.environ, **told, "PGDATABASE": str(settings["NAME"])},
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode:
        raise CommandError(f"{name} failed: {done.stderr.strip()[-2000:]}")
    return done.stdout


def others() -> int:
    """How many other connections the database has: a server, workers."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND pid <>"
            " pg_backend_pid() AND backend_type = 'client backend'"
        )
        return int(cursor.fetchone()[0])


@contextmanager
def nothing_cleared() -> Iterator[None]:
    """While a backup is written, `purge` leaves everything as it is."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_lock_shared(%s)", [CLEARING])
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_unlock_shared(%s)", [CLEARING])


@contextmanager
def clearing() -> Iterator[bool]:
    """Whether things may be cleared away now: not while a backup is written, nor while
    somebody else does so.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_try_advisory_lock(%s)", [CLEARING])
        may = bool(cursor.fetchone()[0])
    try:
        yield may
    finally:
        if may:
            with connection.cursor() as cursor:
                cursor.execute("SELECT pg_advisory_unlock(%s)", [CLEARING])
