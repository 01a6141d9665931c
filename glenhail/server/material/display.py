"""Copies of pictures for the eye: display pyramids, made when a file is taken in, and
full-depth copies, made when somebody first looks deeper. Both are made again whenever
one is gone, for derived files may be deleted.
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import storages

from glenhail.core.files.full_depth import write_full_depth
from glenhail.core.files.pyramid import write_pyramid
from glenhail.core.picture import Picture as Pixels
from glenhail.server.accounts.models import Bench
from glenhail.server.jobs.actions.queue import bring_forward, enqueue
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import FULL_DEPTH_FOLDER, Picture, PictureState
from glenhail.server.storage.bounded import keep_under
from glenhail.server.storage.files import put_derived


@dataclass(frozen=True)
class DisplayCopy:
    """One kind of copy: the job that makes it, in words what that does, where a
    picture's lies within the derived store, and how one is written.
    """

    job: str
    words: str
    path: Callable[[Picture], str]
    write: Callable[[Pixels, Path], None]


PYRAMID = DisplayCopy(
    "display",
    "Making a picture ready to be shown again",
    lambda picture: picture.pyramid,
    write_pyramid,
)
FULL_DEPTH = DisplayCopy(
    "full depth",
    "Making a picture ready to be looked at in full depth",
    lambda picture: picture.full_depth,
    write_full_depth,
)


def is_there(picture: Picture, copy: DisplayCopy = PYRAMID) -> bool:
    """Whether a picture's copy lies in its place."""
    return storages["derived"].exists(copy.path(picture))


def make(picture: Picture, pixels: Pixels, copy: DisplayCopy = PYRAMID) -> None:
    """Make and keep it."""
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        made = Path(folder) / "copy"
        copy.write(pixels, made)
        put_derived(copy.path(picture), made)


def ensure(picture: Picture, copy: DisplayCopy = PYRAMID) -> None:
    """Make it if it is gone; for jobs that need it, since that takes seconds."""
    if not is_there(picture, copy):
        make(picture, decoded(picture), copy)


def ask_for(
    bench: Bench, picture: Picture, at_once: bool = True, copy: DisplayCopy = PYRAMID
) -> bool:
    """Have it made if it is not there, before other work where somebody waits for it;
    whether it was not there.
    """
    if picture.state != PictureState.READY or is_there(picture, copy):
        return False
    key = f"{copy.job}:{picture.file_id}"
    # Without a name: another bench may know the same bytes by another.
    enqueue(bench, copy.job, key, copy.words, {"picture": picture.pk})
    if at_once:
        bring_forward([key])
    return True


def _made(progress: Progress, arguments: dict[str, Any], copy: DisplayCopy) -> None:
    picture = Picture.objects.select_related("file").filter(pk=arguments["picture"]).first()
    if picture is not None and picture.state == PictureState.READY:
        progress.tell(0.1, "making the copy")
        ensure(picture, copy)


@does(PYRAMID.job)
def display(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make a display pyramid that was lost."""
    _made(progress, arguments, PYRAMID)


@does(FULL_DEPTH.job)
def deepen(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make a full-depth copy; the ones longest unused make room for it."""
    _made(progress, arguments, FULL_DEPTH)
    keep_under(storages["derived"], FULL_DEPTH_FOLDER, settings.FULL_DEPTH_BYTES)
