"""Tiles out of display pyramids: a seek and a read, no decoding."""

from __future__ import annotations

import zipfile
from functools import lru_cache
from threading import Lock
from typing import IO

from django.core.files.storage import storages

from glenhail.core.files.pyramid import tile_name
from glenhail.server.common.errors import Missing

LOCAL_HEADER = 30  # fixed part of a ZIP member's header (APPNOTE 4.3.7)
_lock = Lock()


def tile(pyramid: str, level: int, column: int, row: int) -> bytes:
    """One tile's PNG.

    Raises
    ------
    Missing
        If the pyramid or the tile is not there.
    """
    index = _index(pyramid)
    place = index.get(tile_name(level, column, row))
    if place is None:
        raise Missing("There is no such tile.")
    start, size = place
    with storages["derived"].open(pyramid) as pack:
        pack.seek(start + 26)
        name, extra = (int.from_bytes(pack.read(2), "little") for _ in range(2))
        pack.seek(start + LOCAL_HEADER + name + extra)
        return bytes(pack.read(size))


def _index(pyramid: str) -> dict[str, tuple[int, int]]:
    with _lock:
        return _read_index(pyramid)


@lru_cache(maxsize=256)
def _read_index(pyramid: str) -> dict[str, tuple[int, int]]:
    """Where each tile lies; kept, for the pack never changes."""
    try:
        pack: IO[bytes] = storages["derived"].open(pyramid)
    except FileNotFoundError as error:
        raise Missing("This picture's display copy is not there yet.") from error
    with pack, zipfile.ZipFile(pack) as names:
        return {i.filename: (i.header_offset, i.file_size) for i in names.infolist()}
