"""Folders of a store that hold no more than so much: what was used longest ago goes."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator

from django.core.files.storage import Storage


def keep_under(store: Storage, folder: str, most: int) -> list[str]:
    """Remove files of a folder, those used longest ago first, until it holds at most
    `most` bytes; the one used last stays.

    Returns
    -------
    list of str
        What was removed.
    """
    files = sorted(_files(store, folder), reverse=True)
    removed, held = [], 0
    for at, (_, size, name) in enumerate(files):
        held += size
        if at and held > most:
            store.delete(name)
            removed.append(name)
    return removed


def _files(store: Storage, folder: str) -> Iterator[tuple[float, int, str]]:
    try:
        folders, names = store.listdir(folder)
    except FileNotFoundError:
        return
    for name in folders:
        yield from _files(store, f"{folder}/{name}")
    for name in names:
        path = f"{folder}/{name}"
        # Somebody else may remove it meanwhile.
        with contextlib.suppress(FileNotFoundError):
            yield _used(store, path), store.size(path), path


def _used(store: Storage, path: str) -> float:
    """When it was last read or written, as far as the store tells: many disks note a
    reading once a day.
    """
    written = store.get_modified_time(path)
    try:
        return max(written, store.get_accessed_time(path)).timestamp()
    except NotImplementedError:
        return written.timestamp()
