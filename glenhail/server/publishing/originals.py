"""Originals as they are published: what describes their pixels, and nothing else."""

from __future__ import annotations

import io
import tempfile
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings

from glenhail.core.articles.names import file_parts
from glenhail.core.errors import BadFile
from glenhail.core.files.apart import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.files.pixels import pixels_hash
from glenhail.core.files.privacy import cleaned
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Picture
from glenhail.server.outputs.models import Output
from glenhail.server.storage.files import keep, original
from glenhail.server.storage.models import StoredFile


def original_names(study_id: int) -> dict[int, str]:
    """Under which name each of a study's outputs lies in an edition's download."""
    rows = list(
        Output.objects.filter(contender__study_id=study_id)
        .select_related("frame", "contender")
        .order_by("frame_id", "contender__order")
    )
    frames = {row.frame_id: row.frame.name for row in rows}
    folders = dict(zip(frames, file_parts(frames.values()), strict=True))
    return {
        row.pk: f"{folders[row.frame_id]}/{row.contender.letter}_{row.file_name}" for row in rows
    }


@dataclass(frozen=True)
class Published:
    """What readers get of an original: the original itself or a kept copy, and the hash
    of the pixels of both.
    """

    file: StoredFile
    pixels: str


def published_copy(picture: Picture) -> Published | None:
    """The original itself where nothing had to be taken out, else a kept copy that
    decodes to the same pixels; None where there can be no such copy, and the original
    must stay here.
    """
    with original(picture.file) as path:
        result = cleaned(path.read_bytes(), str(picture.facts.get("format", "")))
    if result is None:
        return None
    own = pixels_hash(decoded(picture).pixels)
    if not result.changed:
        return Published(picture.file, own)
    copy = keep(io.BytesIO(result.data), picture.name)
    with original(copy) as path:
        try:
            same = pixels_hash(read_picture(path, picture.name).pixels) == own
        except BadFile:
            same = False
    return Published(copy, own) if same else None


def rendering(picture: Picture) -> StoredFile:
    """What is measured of a picture as a 16-bit TIFF, for readers who can not have the
    original.
    """
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        path = Path(folder) / "rendering.tif"
        write_tiff(path, decoded(picture).pixels)
        with path.open("rb") as stream:
            return keep(stream, f"{picture.name} as TIFF")
