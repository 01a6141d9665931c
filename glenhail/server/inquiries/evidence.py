"""Pictures behind an answer: kept under what they were made of, bounded like all that
can be made again.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

from django.conf import settings
from django.core.files.storage import storages

from glenhail.core.files.encoding import png_bytes
from glenhail.core.files.pyramid import Codes
from glenhail.server.common.errors import Missing
from glenhail.server.storage.bounded import keep_under
from glenhail.server.storage.files import put_derived

FOLDER = "evidence"


def keep_picture(key: str, name: str, codes: Codes) -> None:
    """Keep one of them, as PNG."""
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        made = Path(folder) / "evidence.png"
        made.write_bytes(png_bytes(codes))
        put_derived(_path(key, name), made)


def is_kept(key: str, name: str) -> bool:
    """Whether it is still there."""
    return storages["derived"].exists(_path(key, name))


def picture_bytes(key: str, name: str) -> bytes:
    """A picture's PNG.

    Raises
    ------
    Missing
        If it was cleared away, or never was.
    """
    try:
        with storages["derived"].open(_path(key, name)) as file:
            return bytes(file.read())
    except FileNotFoundError:
        raise Missing("This picture was cleared away. Ask again, and it is made anew.") from None


def bound_pictures() -> None:
    """Let those go that were looked at longest ago, where there are too many."""
    keep_under(storages["derived"], FOLDER, settings.EVIDENCE_BYTES)


def _path(key: str, name: str) -> str:
    return f"{FOLDER}/{key[:2]}/{key}-{name}.png"
