"""Keeping originals and derived files through Django's storage interface."""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from django.conf import settings
from django.core.files import File
from django.core.files.storage import Storage, storages
from django.db import connection, transaction

from glenhail.server.common.errors import ActionError, NoRoom
from glenhail.server.storage import durable
from glenhail.server.storage.durable import CHUNK, Told
from glenhail.server.storage.models import StoredFile

# What is taken in: bytes on their way, or what is kept already.
Source = IO[bytes] | StoredFile


def kept(source: Source, name: str) -> StoredFile:
    """What is kept of a source: itself, where it is kept already."""
    return source if isinstance(source, StoredFile) else keep(source, name)


def keep(stream: IO[bytes], name: str, told: Told = lambda done: None) -> StoredFile:
    """Hash a stream and keep its bytes; the same bytes again give the same row.

    The bytes are whole, checked and on the disk before they get their name, and have it
    before the row exists: a crash leaves at worst an unused file. A file that has the
    name already is trusted only if it is as long; a shorter one is what a crash left of
    it, and is replaced.

    Parameters
    ----------
    told : callable, optional
        Hears how many bytes are done; what it raises breaks off.

    Raises
    ------
    ActionError
        If it is larger than the bench allows.
    NoRoom
        If the disk is full; nothing is left of what was written.
    """

    def within_limit(done: int) -> None:
        if done > settings.MAX_UPLOAD_BYTES:
            raise ActionError(
                f"{name}: larger than the {settings.MAX_UPLOAD_BYTES:,} bytes this bench takes."
                " Crop it."
            )
        told(done)

    stream.seek(0)
    try:
        return _put_original(stream, within_limit)
    except OSError as error:
        if durable.is_full(error):
            raise NoRoom(
                f"{name}: the disk of this bench is full. Free some room and send it again."
            ) from error
        raise


def _put_original(stream: IO[bytes], told: Told) -> StoredFile:
    originals = storages["originals"]
    with durable.aside(root_of(originals) or Path(settings.FILE_UPLOAD_TEMP_DIR)) as path:
        written = durable.write(stream, path, told)
        row = StoredFile(sha256=written.sha256, size=written.size)
        with transaction.atomic():
            lock_original(row.sha256)
            if size_in(originals, row.path) != row.size:
                put(originals, row.path, written.path)
            row = StoredFile.objects.get_or_create(sha256=row.sha256, defaults={"size": row.size})[
                0
            ]
            StoredFile.objects.filter(pk=row.pk).exclude(unused_since=None).update(
                unused_since=None
            )
    return row


def lock_original(sha256: str) -> None:
    """Until the transaction's end nobody else places or removes these bytes."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s)", [int(sha256[:15], 16)])


def root_of(store: Storage) -> Path | None:
    """Where a store's files lie on this machine; None where they lie elsewhere."""
    try:
        return Path(store.path(""))
    except NotImplementedError:
        return None


def size_in(store: Storage, name: str) -> int | None:
    """How many bytes a store has under a name; None where it has nothing."""
    try:
        return store.size(name)
    except FileNotFoundError:
        return None


@contextmanager
def local_copy(store: Storage, name: str) -> Iterator[Path]:
    """A path that programs can open: the file itself, or a copy of it where the store
    is on another machine.
    """
    root = root_of(store)
    if root is not None:
        yield Path(store.path(name))
        return
    with (
        tempfile.NamedTemporaryFile(dir=settings.FILE_UPLOAD_TEMP_DIR) as copy,
        store.open(name) as remote,
    ):
        shutil.copyfileobj(remote, copy, CHUNK)
        copy.flush()
        yield Path(copy.name)


@contextmanager
def original(file: StoredFile) -> Iterator[Path]:
    """An original's path."""
    with local_copy(storages["originals"], file.path) as path:
        yield path


def put_derived(name: str, made: Path) -> None:
    """Move a finished derived file into its place, replacing an older one."""
    put(storages["derived"], name, made)


def put(store: Storage, name: str, made: Path) -> None:
    """Move a finished file into a store: whole or not at all, and on the disk when this
    returns.

    Raises
    ------
    NoRoom
        If the disk is full; what had the name before is still there.
    """
    try:
        if root_of(store) is None:
            store.delete(name)
            with made.open("rb") as file:
                store.save(name, File(file))
            return
        durable.sync(made)
        durable.place(made, Path(store.path(name)))
    except OSError as error:
        if durable.is_full(error):
            raise NoRoom("The disk of this bench is full. Free some room and try again.") from error
        raise
