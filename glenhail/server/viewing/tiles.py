"""Tiles out of display pyramids: a seek and a read, no decoding."""

from __future__ import annotations

import contextlib
import zipfile
from functools import lru_cache
from threading import Lock
from typing import IO

from django.core.files.storage import storages

from glenhail.core.files.pyramid import tile_name
from glenhail.server.common.errors import Missing, NotYet

LOCAL_HEADER = 30  # fixed part of a ZIP member's header (APPNOTE 4.3.7)
PNG = b"\x89PNG\r\n\x1a\n"
_lock = Lock()


class NoDisplay(NotYet):
    """A display pyramid that has to be made again."""


def tile(pyramid: str, level: int, column: int, row: int) -> bytes:
    """One tile's PNG.

    Raises
    ------
    Missing
        If there is no such tile.
    NoDisplay
        If the pyramid is gone, or damaged.
    """
    try:
        place = _index(pyramid).get(tile_name(level, column, row))
        if place is None:
            raise Missing("There is no such tile.")
        start, size = place
        with storages["derived"].open(pyramid) as pack:
            pack.seek(start + 26)
            name, extra = (int.from_bytes(pack.read(2), "little") for _ in range(2))
            pack.seek(start + LOCAL_HEADER + name + extra)
            data = bytes(pack.read(size))
    except (FileNotFoundError, zipfile.BadZipFile) as error:
        raise _lost(pyramid) from error
    if len(data) != size or not data.startswith(PNG):
        raise _lost(pyramid)
    return data


def _lost(pyramid: str) -> NoDisplay:
    """What was known of it is forgotten; a damaged one goes, so that it is made again."""
    with _lock:
        _read_index.cache_clear()
    with contextlib.suppress(OSError):
        storages["derived"].delete(pyramid)
    return NoDisplay("This picture's display copy is gone; it is being made again.")


def _index(pyramid: str) -> dict[str, tuple[int, int]]:
    with _lock:
        return _read_index(pyramid)


@lru_cache(maxsize=256)
def _read_index(pyramid: str) -> dict[str, tuple[int, int]]:
    """Where each tile lies; kept, for the pack never changes."""
    pack: IO[bytes] = storages["derived"].open(pyramid)
    with pack, zipfile.ZipFile(pack) as names:
        return {i.filename: (i.header_offset, i.file_size) for i in names.infolist()}
