"""Originals as they are published: without position, owner and serial numbers."""

from __future__ import annotations

import io

from glenhail.core.files.privacy import cleaned
from glenhail.server.material.models import Picture
from glenhail.server.storage.files import keep, original
from glenhail.server.storage.models import StoredFile


def published_copy(picture: Picture) -> StoredFile | None:
    """The original itself where nothing had to be taken out, else a kept copy; None where it must stay here."""
    with original(picture.file) as path:
        result = cleaned(path.read_bytes(), str(picture.facts.get("format", "")))
    if result is None:
        return None
    return keep(io.BytesIO(result.data), picture.name) if result.changed else picture.file
