"""A picture in the form that every tool takes:

16-bit TIFF or PNG of what Glenhail measures, made once and kept.
"""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any

from django.conf import settings

from glenhail.core.files.encoding import write_png, write_tiff
from glenhail.server.accounts.models import Bench
from glenhail.server.accounts.permissions import Actor
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.jobs.actions.derived import ask_for_derived
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Picture, PictureState
from glenhail.server.storage.files import put_derived

VERSION = 1
FORMATS = ("tif", "png")


def export_path(picture: Picture, ending: str) -> str:
    """Where the file lies within the derived storage.

    Raises
    ------
    ActionError
        If there is no such format.
    """
    if ending not in FORMATS:
        raise ActionError(f"A picture can be had as {', '.join(FORMATS)}.")
    return f"exports/v{VERSION}/{picture.file_id[:2]}/{picture.file_id}.{ending}"


def ask_for_export(actor: Actor, bench: Bench, picture: Picture, name: str, ending: str) -> bool:
    """Whether the file is there; where it is not, its making is queued.

    `name` is what the bench knows the picture by.

    Raises
    ------
    Conflict
        If the picture was not taken in, or the making failed.
    """
    path = export_path(picture, ending)
    if picture.state != PictureState.READY:
        raise Conflict(f"{name} is not ready. Wait until it was taken in.")
    key = f"export:{ending}:{picture.file_id}"[:120]
    arguments = {"picture": picture.pk, "ending": ending}
    return ask_for_derived(
        actor, bench, path, "export", key, f"{name} as {ending.upper()}", arguments
    )


@does("export")
def export(progress: Progress, arguments: dict[str, Any]) -> None:
    """Write the file: linear light encoded by the sRGB curve, 16 bit, cut off at black
    and white.
    """
    picture = Picture.objects.select_related("file").get(pk=arguments["picture"])
    ending = arguments["ending"]
    progress.tell(0.1, "decoding")
    pixels = decoded(picture)
    progress.tell(0.5, "writing")
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        made = Path(folder) / f"made.{ending}"
        if ending == "tif":
            write_tiff(made, pixels.pixels, pixels.facts)
        else:
            write_png(made, pixels.pixels)
        put_derived(export_path(picture, ending), made)
