"""Display pyramids: made when a file is taken in, and made again whenever one is gone,
for derived files may be deleted.
"""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import storages

from glenhail.core.files.pyramid import write_pyramid
from glenhail.core.picture import Picture as Pixels
from glenhail.server.accounts.models import Bench
from glenhail.server.jobs.actions.queue import bring_forward, enqueue
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Picture, PictureState
from glenhail.server.storage.files import put_derived


def is_there(picture: Picture) -> bool:
    """Whether a picture's display copy lies in its place."""
    return storages["derived"].exists(picture.pyramid)


def make(picture: Picture, pixels: Pixels) -> None:
    """Make and keep it."""
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        made = Path(folder) / "pyramid.zip"
        write_pyramid(pixels, made)
        put_derived(picture.pyramid, made)


def ensure(picture: Picture) -> None:
    """Make it if it is gone; for jobs that need it, since that takes seconds."""
    if not is_there(picture):
        make(picture, decoded(picture))


def ask_for(bench: Bench, picture: Picture, at_once: bool = True) -> bool:
    """Have it made again if it is gone, before other work where somebody waits for it;
    whether it was gone.
    """
    if picture.state != PictureState.READY or is_there(picture):
        return False
    key = f"display:{picture.file_id}"
    # Without a name: another bench may know the same bytes by another.
    enqueue(
        bench, "display", key, "Making a picture ready to be shown again", {"picture": picture.pk}
    )
    if at_once:
        bring_forward([key])
    return True


@does("display")
def display(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make a display copy that was lost."""
    picture = Picture.objects.select_related("file").filter(pk=arguments["picture"]).first()
    if picture is not None and picture.state == PictureState.READY:
        progress.tell(0.1, "making the display copy")
        ensure(picture)
