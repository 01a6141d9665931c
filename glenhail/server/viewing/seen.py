"""Outputs as they are seen in uses: made by a job when somebody first looks, kept with
what is told of them, and shown as tiles.
"""

from __future__ import annotations

import hashlib
import tempfile
import zipfile
from contextlib import suppress
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

import numpy as np
from django.conf import settings
from django.core.files.storage import storages

from glenhail.core.colour import srgb
from glenhail.core.files.pyramid import Codes, level_count, told_of, write_tiles
from glenhail.core.picture import Rect
from glenhail.core.uses.seen import as_seen
from glenhail.core.uses.table import Use
from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.actions.queue import bring_forward, enqueue
from glenhail.server.jobs.models import Job, State
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Picture
from glenhail.server.outputs.models import Output
from glenhail.server.storage.bounded import keep_under
from glenhail.server.storage.files import put_derived
from glenhail.server.viewing.crops import crop_codes

VERSION = "1"
FOLDER = f"seen/v{VERSION}"
JOB = "seen"
PLACES = 50  # to which the centre of a part is rounded, of each side


@dataclass(frozen=True)
class AsSeen:
    """An output as it is seen in a use.

    ``part`` is x, y, w, h of the output's pixels that are shown; ``key`` its address.
    """

    key: str
    width: int
    height: int
    levels: int
    part: list[float]
    size_bytes: int | None


def rounded(centre: tuple[float, float]) -> tuple[float, float]:
    """A place, so that looking about does not make a picture for every pixel."""
    x, y = (round(min(1.0, max(0.0, v)) * PLACES) / PLACES for v in centre)
    return x, y


def key_of(use: Use, centre: tuple[float, float]) -> str:
    """What a use makes at a place is kept by all that it depends on."""
    fixed = use.part == 1 and use.video_mbit is None
    made_by = asdict(use) | {"id": "", "name": "", "centre": None if fixed else rounded(centre)}
    return hashlib.sha256(repr(sorted(made_by.items())).encode()).hexdigest()[:20]


def path_of(picture: Picture, key: str) -> str:
    """Where it lies within the derived store."""
    return f"{FOLDER}/{picture.file_id[:2]}/{picture.file_id}-{key}.zip"


def seen_output(output: Output, use: Use, centre: tuple[float, float]) -> AsSeen | None:
    """An output as it is seen; None while it is being made, which this asks for.

    Raises
    ------
    Conflict
        If there is no picture of it, or it can not be made.
    """
    picture = output.picture
    if picture is None or not picture.width:
        raise Conflict(f"There is no picture of {output} yet.")
    key = key_of(use, centre)
    path = path_of(picture, key)
    try:
        with storages["derived"].open(path) as pack:
            told = told_of(pack)
    except FileNotFoundError:
        _ask_for(output, picture, use, centre, key)
        return None
    except (zipfile.BadZipFile, KeyError):
        storages["derived"].delete(path)
        _ask_for(output, picture, use, centre, key)
        return None
    size = told["width"], told["height"]
    return AsSeen(key, *size, level_count(*size), told["part"], told["size_bytes"])


def ask_for(output: Output, use: Use, centre: tuple[float, float]) -> None:
    """Have an output made as it is seen, where it is not; what failed stays failed."""
    with suppress(Conflict):
        seen_output(output, use, centre)


def _ask_for(
    output: Output, picture: Picture, use: Use, centre: tuple[float, float], key: str
) -> None:
    name = f"{JOB}:{picture.pk}:{key}"
    last = Job.objects.filter(key=name).first()
    if last is not None and last.state in (State.FAILED, State.CANCELLED):
        raise Conflict(f"{last.problem} It can be tried again in the queue.")
    study = output.contender.study
    arguments = {"picture": picture.pk, "use": asdict(use), "centre": rounded(centre), "key": key}
    enqueue(study.bench, JOB, name, f"{output} as {use.name}", arguments, study.pk)
    bring_forward([name])


@does(JOB)
def make_seen(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make and keep one."""
    picture = Picture.objects.select_related("file").filter(pk=arguments["picture"]).first()
    if picture is None:
        return
    x, y = arguments["centre"]
    progress.tell(0.1, "making it as it is seen")
    ensure_seen(picture, Use(**arguments["use"]), (x, y))


def ensure_seen(picture: Picture, use: Use, centre: tuple[float, float]) -> str:
    """A picture as it is seen in a use, made where it is not kept yet; where it lies
    within the derived store.

    Raises
    ------
    BadRequest
        If it can not be made here.
    """
    path = path_of(picture, key_of(use, centre))
    if storages["derived"].exists(path):
        return path
    found = as_seen(decoded(picture).pixels, use, rounded(centre))
    part = [found.part.x, found.part.y, found.part.w, found.part.h]
    light = srgb.decode(found.codes.astype(np.float32) / 255)
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        made = Path(folder) / "seen.zip"
        write_tiles(light, made, part=part, size_bytes=found.size_bytes)
        put_derived(path, made)
    keep_under(storages["derived"], FOLDER, settings.SEEN_BYTES)
    return path


def seen_part(picture: Picture, key: str, part: Rect) -> Codes:
    """Whole pixels of a picture as it is seen, shape (h, w, 3), uint8.

    Raises
    ------
    NoDisplay
        While it is being made.
    """
    return crop_codes(path_of(picture, key), part)
