"""A backup of one moment: the database as it was, and every file that it speaks of.

The database is written down first. Originals and editions are never altered, and are in
their place before a row speaks of them, so that every file of that moment can still be
copied afterwards, while people go on working. Files lie in the backup by their hash,
once for all backups of one folder.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.core.files.storage import storages
from django.core.management.base import CommandError
from django.db import connection

from glenhail.server.operations import database
from glenhail.server.operations.verify import Expected, expected_files
from glenhail.server.storage import durable
from glenhail.server.storage.files import local_copy, put

FORMAT = 1
TOLD_EVERY = 100  # files
DUMP, LIST, POOL = "database.dump", "list.json", "files"
Tell = Callable[[str], None]


@dataclass(frozen=True)
class Backup:
    """One backup: its folder, and what its list says."""

    folder: Path
    told: dict[str, Any]

    @property
    def files(self) -> list[dict[str, Any]]:
        """Store, name, SHA-256 and size of each file."""
        return list(self.told["files"])


def back_up(home: Path, tell: Tell) -> Backup:
    """Write a backup into a folder of its own below `home`, and read it back.

    Raises
    ------
    CommandError
        If a file is missing or damaged, here or in the backup; what is left is named
        `unfinished-...`.
    """
    # Two backups of one second are two backups.
    stamp = datetime.now(UTC).strftime("%Y-%m-%dT%H%M%S.%fZ")
    unfinished = home / f"unfinished-{stamp}"
    unfinished.mkdir(parents=True)
    with database.nothing_cleared():
        database.run(
            "pg_dump",
            "--format=custom",
            "--no-owner",
            "--no-privileges",
            f"--file={unfinished / DUMP}",
        )
        # Those of the dump, and perhaps some that came since.
        expected = list(expected_files())
        tell(f"database written; {len(expected)} files")
        for done, file in enumerate(expected, 1):
            _copy(file, _pooled(home, file.sha256))
            if done % TOLD_EVERY == 0:
                tell(f"{done} of {len(expected)} files")
    dump = unfinished / DUMP
    durable.sync(dump)
    told = {
        "format": FORMAT,
        "made": stamp,
        "database": {"sha256": durable.sha256_of(dump), "size": dump.stat().st_size},
        "files": [
            {"store": f.store, "name": f.name, "sha256": f.sha256, "size": f.size} for f in expected
        ],
    }
    (unfinished / LIST).write_text(json.dumps(told, indent=1))
    durable.sync(unfinished / LIST)
    faults = list(faults_of(Backup(unfinished, told)))
    if faults:
        raise CommandError("The backup does not read back as written: " + "; ".join(faults[:5]))
    folder = home / stamp
    unfinished.rename(folder)
    durable.sync_folder(home)
    return Backup(folder, told)


def _pooled(home: Path, sha256: str) -> Path:
    return home / POOL / sha256[:2] / sha256


def _copy(file: Expected, target: Path) -> None:
    if target.exists() and target.stat().st_size == file.size:
        return
    try:
        with (
            local_copy(storages[file.store], file.name) as path,
            path.open("rb") as stream,
            durable.aside(target.parent) as new,
        ):
            written = durable.write(stream, new)
            if written.sha256 != file.sha256:
                raise CommandError(
                    f"{file.store}/{file.name} is damaged on this bench. {file.remedy()}"
                )
            durable.place(new, target)
    except FileNotFoundError as error:
        raise CommandError(
            f"{file.store}/{file.name} is gone from this bench. {file.remedy()}"
        ) from error


def read_backup(folder: Path) -> Backup:
    """A backup by its own folder, or the newest one in a folder of backups.

    Raises
    ------
    CommandError
        If there is none, or it was written by a later version.
    """
    if not (folder / LIST).exists():
        kept = sorted(p.parent for p in folder.glob(f"[0-9]*/{LIST}"))
        if not kept:
            raise CommandError(f"{folder} holds no finished backup.")
        folder = kept[-1]
    told = json.loads((folder / LIST).read_text())
    if told["format"] > FORMAT:
        raise CommandError(
            f"{folder} was written by a later version of Glenhail. Install that one."
        )
    return Backup(folder, told)


def faults_of(backup: Backup) -> Iterator[str]:
    """What does not read back as it was written."""
    dump = backup.folder / DUMP
    if not dump.exists() or durable.sha256_of(dump) != backup.told["database"]["sha256"]:
        yield f"{dump} is damaged"
    else:
        database.run("pg_restore", "--list", str(dump))
    checked: set[str] = set()
    for file in backup.files:
        if file["sha256"] in checked:
            continue
        checked.add(file["sha256"])
        path = _pooled(backup.folder.parent, file["sha256"])
        if not path.exists():
            yield f"{file['name']} is missing"
        elif durable.sha256_of(path) != file["sha256"]:
            yield f"{file['name']} is damaged"


def restore(backup: Backup, tell: Tell) -> None:
    """Put a bench back to a backup's moment.

    Derived files are not part of it: they are made again when they are asked for.

    Raises
    ------
    CommandError
        If the backup is damaged, or somebody is connected to the database.
    """
    faults = list(faults_of(backup))
    if faults:
        raise CommandError(
            "This backup is damaged, so nothing was changed: " + "; ".join(faults[:5])
        )
    if database.others():
        raise CommandError(
            "The server or a worker still uses the database. Stop them; PostgreSQL itself has to"
            " run."
        )
    tell("the backup is whole; bringing its files back")
    for file in backup.files:
        _bring_back(backup, file)
    tell("files are back; bringing the database back")
    database.run(
        "pg_restore",
        "--clean",
        "--if-exists",
        "--no-owner",
        "--no-privileges",
        "--single-transaction",
        "--exit-on-error",
        f"--dbname={connection.settings_dict['NAME']}",
        str(backup.folder / DUMP),
    )


def _bring_back(backup: Backup, file: dict[str, Any]) -> None:
    store = storages[file["store"]]
    if store.exists(file["name"]):
        with local_copy(store, file["name"]) as path:
            if path.stat().st_size == file["size"] and durable.sha256_of(path) == file["sha256"]:
                return
    with (
        _pooled(backup.folder.parent, file["sha256"]).open("rb") as stream,
        durable.aside(Path(store.path(""))) as new,
    ):
        put(store, file["name"], durable.write(stream, new).path)
