"""Bytes that are on the disk for good before their name says so: written aside,
checked, and only then put into their place.
"""

from __future__ import annotations

import contextlib
import errno
import hashlib
import os
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import IO

CHUNK = 1 << 20
# folder beside what it is for, on the same file system, so that a rename is all that is left
ASIDE = ".arriving"
FULL = (errno.ENOSPC, errno.EDQUOT, errno.EFBIG)

Told = Callable[[int], None]


@dataclass(frozen=True)
class Written:
    """A file that lies aside: where, what its bytes hash to, and how many they are."""

    path: Path
    sha256: str
    size: int


def is_full(error: OSError) -> bool:
    """Whether there was no room for it: the disk, or what is allowed of it, is full."""
    return error.errno in FULL


@contextmanager
def aside(root: Path) -> Iterator[Path]:
    """A name for a file under way beneath a store's root; whatever is left of it at the
    end goes.
    """
    folder = root / ASIDE
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / uuid.uuid4().hex
    try:
        yield path
    finally:
        with contextlib.suppress(OSError):
            path.unlink(missing_ok=True)


def write(stream: IO[bytes], path: Path, told: Told = lambda done: None) -> Written:
    """Copy a stream to a new file, hash it on the way, and hold on until the disk has
    it.

    `told` hears how many bytes are done and may raise.

    Raises
    ------
    OSError
        If it can not be written; or if fewer bytes lie there than were written.
    """
    digest, size = hashlib.sha256(), 0
    with path.open("xb") as file:
        while chunk := stream.read(CHUNK):
            digest.update(chunk)
            file.write(chunk)
            size += len(chunk)
            told(size)
        file.flush()
        os.fsync(file.fileno())
    lies = path.stat().st_size
    if lies != size:
        raise OSError(errno.EIO, f"{lies:,} of {size:,} bytes were written", str(path))
    return Written(path, digest.hexdigest(), size)


def place(made: Path, target: Path) -> None:
    """Give a finished file its name, replacing what had it; the name is on the disk
    when this returns.
    """
    new = _make_folders(target.parent)
    try:
        made.replace(target)
    except OSError as error:
        if error.errno != errno.EXDEV:
            raise
        # From another file system it is copied beside its place first.
        with made.open("rb") as stream, aside(target.parent) as path:
            write(stream, path).path.replace(target)
        made.unlink()
    for folder in (target.parent, *new):
        sync_folder(folder)


def _make_folders(folder: Path) -> list[Path]:
    """Make a folder and those above it; returns the folders that got a new entry."""
    missing = [f for f in (folder, *folder.parents) if not f.exists()]
    folder.mkdir(parents=True, exist_ok=True)
    return [f.parent for f in missing]


def sync(path: Path) -> None:
    """Hold on until the disk has a file's bytes."""
    with path.open("rb") as file:
        os.fsync(file.fileno())


def sync_folder(folder: Path) -> None:
    """Hold on until the disk has a folder's entries."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def sha256_of(path: Path, told: Told = lambda done: None) -> str:
    """What a file's bytes hash to."""
    digest, done = hashlib.sha256(), 0
    with path.open("rb") as file:
        while chunk := file.read(CHUNK):
            digest.update(chunk)
            done += len(chunk)
            told(done)
    return digest.hexdigest()
