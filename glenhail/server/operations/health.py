"""Whether the bench can do its work: database, storage, workers, room."""

from __future__ import annotations

import shutil
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from django.core.files.storage import storages
from django.db import connection

from glenhail.core.execution.fence import why_open
from glenhail.server.storage.durable import ASIDE
from glenhail.server.storage.files import root_of

LEAST_FREE = 1_000_000_000  # bytes under which the next large file may not fit
SILENT_AFTER = 60.0  # seconds without a sign of life after which a worker counts as gone


@dataclass(frozen=True)
class Check:
    """One thing that was looked at, whether it is well, and in words how it is."""

    name: str
    well: bool
    words: str


def _database() -> str:
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
    return "answers"


def _storage() -> str:
    root = root_of(storages["originals"])
    if root is None:
        return "lies on another machine"
    trial = root / ASIDE / f"health-{uuid.uuid4().hex}"
    trial.parent.mkdir(parents=True, exist_ok=True)
    try:
        trial.write_bytes(b"well")
    finally:
        trial.unlink(missing_ok=True)
    return "can be written"


def _workers() -> str:
    alive = (
        "SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() -"
        " make_interval(secs => %s)"
    )
    with connection.cursor() as cursor:
        cursor.execute(alive, [SILENT_AFTER])
        count = int(cursor.fetchone()[0])
    if not count:
        raise RuntimeError("none is alive: work waits")
    return f"{count} alive"


def _room() -> str:
    root = root_of(storages["originals"])
    if root is None:
        return "lies on another machine"
    room = shutil.disk_usage(root if root.exists() else Path("/"))
    if room.free < LEAST_FREE:
        raise RuntimeError(f"{room.free / 1e9:.1f} GB left: free some")
    return f"{room.free / 1e9:.0f} GB free of {room.total / 1e9:.0f}"


def _programs() -> str:
    why = why_open()
    return f"not shut in, so they can read the bench's files: {why}" if why else "shut in"


CHECKS: dict[str, Callable[[], str]] = {
    "database": _database,
    "storage": _storage,
    "workers": _workers,
    "disk": _room,
    "programs": _programs,
}


def look() -> list[Check]:
    """Look at everything; nothing raises."""
    found = []
    for name, check in CHECKS.items():
        try:
            found.append(Check(name, True, check()))
        except RuntimeError as why:
            found.append(Check(name, False, str(why)))
        except (
            Exception
        ) as error:  # whatever is wrong is what is asked for; its innards are not told
            found.append(Check(name, False, f"does not answer ({type(error).__name__})"))
    return found
