"""Keeping originals and derived files through Django's storage interface."""

from __future__ import annotations

import errno
import hashlib
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from django.conf import settings
from django.core.files import File
from django.core.files.storage import Storage, storages

from glenhail.server.common.errors import ActionError, NoRoom
from glenhail.server.storage.models import StoredFile

CHUNK = 1 << 20


def keep(stream: IO[bytes], name: str) -> StoredFile:
    """Hash a stream and keep its bytes; the same bytes again give the same row.

    The bytes are in place before the row exists, so that a crash leaves at worst an unused file.

    Raises
    ------
    ActionError
        If it is larger than the bench allows.
    NoRoom
        If the disk is full.
    """
    try:
        sha256, size = _digest(stream, name)
        row = StoredFile(sha256=sha256, size=size)
        originals = storages["originals"]
        if not originals.exists(row.path):
            stream.seek(0)
            originals.save(row.path, File(stream))
    except OSError as error:
        if error.errno == errno.ENOSPC:
            raise NoRoom(f"{name}: the disk is full. Free some room and upload it again.") from error
        raise
    return StoredFile.objects.get_or_create(sha256=sha256, defaults={"size": size})[0]


def _digest(stream: IO[bytes], name: str) -> tuple[str, int]:
    digest, size = hashlib.sha256(), 0
    stream.seek(0)
    while chunk := stream.read(CHUNK):
        digest.update(chunk)
        size += len(chunk)
        if size > settings.MAX_UPLOAD_BYTES:
            raise ActionError(f"{name}: larger than the {settings.MAX_UPLOAD_BYTES:,} bytes this bench takes. Crop it.")
    return digest.hexdigest(), size


@contextmanager
def local_path(storage: Storage, name: str) -> Iterator[Path]:
    """A path the decoders can open: the file itself, or a copy when the store is elsewhere."""
    try:
        path = Path(storage.path(name))
    except NotImplementedError:
        with tempfile.NamedTemporaryFile(dir=settings.FILE_UPLOAD_TEMP_DIR) as copy, storage.open(name) as remote:
            shutil.copyfileobj(remote, copy, CHUNK)
            copy.flush()
            yield Path(copy.name)
        return
    yield path


@contextmanager
def original(file: StoredFile) -> Iterator[Path]:
    """An original's path."""
    with local_path(storages["originals"], file.path) as path:
        yield path


def put_derived(name: str, made: Path) -> None:
    """Move a finished derived file into its place, replacing an older one."""
    put(storages["derived"], name, made)


def put(store: Storage, name: str, made: Path) -> None:
    """Move a finished file into a store: whole or not at all."""
    try:
        target = Path(store.path(name))
    except NotImplementedError:
        store.delete(name)
        with made.open("rb") as file:
            store.save(name, File(file))
        return
    target.parent.mkdir(parents=True, exist_ok=True)
    made.replace(target)
