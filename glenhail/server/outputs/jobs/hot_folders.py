"""Filling hot folders and looking into them, every few seconds while one is open."""

from __future__ import annotations

import logging
import shutil
import time
from pathlib import Path
from typing import Any

from asgiref.sync import sync_to_async
from django.core.files.storage import storages
from procrastinate.contrib.django import app

from glenhail.core.errors import CoreError
from glenhail.core.files.apart import read_facts
from glenhail.core.treatments.step import ORIGINAL
from glenhail.server.common.errors import ActionError
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.models import Frame
from glenhail.server.outputs.actions.cells import bring_in
from glenhail.server.outputs.actions.hot_folders import home_of, input_name
from glenhail.server.outputs.jobs.running import rendered
from glenhail.server.outputs.models import HotFolder
from glenhail.server.storage.files import local_copy, original
from glenhail.server.studies.models import Contender

log = logging.getLogger(__name__)


# A file that did not change for this long is taken to be finished, s.
SETTLED = 3.0


IN, OUT, TAKEN = "in", "out", "taken"


@does("write inputs")
def write_inputs(progress: Progress, arguments: dict[str, Any]) -> None:
    """Write what a contender's tool is to be handed, for every frame."""
    folder = (
        HotFolder.objects.select_related("contender__study", "contender__treatment")
        .filter(contender_id=arguments["contender"])
        .first()
    )
    if folder is None:
        return
    contender = folder.contender
    home = home_of(contender)
    for name in (IN, OUT, TAKEN):
        (home / name).mkdir(parents=True, exist_ok=True)
    frames = [
        row.frame for row in contender.study.study_frames.select_related("frame__picture__file")
    ]
    for i, frame in enumerate(frames):
        progress.tell(i / len(frames), f"writing {frame.name}")
        _write_input(contender, frame, home / IN / input_name(contender, frame))
    HotFolder.objects.filter(pk=folder.pk).update(inputs=[input_name(contender, f) for f in frames])


def _write_input(contender: Contender, frame: Frame, target: Path) -> None:
    if target.exists():
        return
    unfinished = target.with_name(f".{target.name}")
    if contender.treatment and contender.treatment.told.feed == ORIGINAL:
        with original(frame.picture.file) as path:
            shutil.copyfile(path, unfinished)
    else:
        with local_copy(storages["derived"], rendered(frame)) as path:
            shutil.copyfile(path, unfinished)
    unfinished.replace(target)


def look_into(folder: HotFolder) -> int:
    """Pick up every finished output; returns how many.

    What can not be placed is noted, and left where it is.
    """
    contender = folder.contender
    home, notes, taken = home_of(contender), [], 0
    frames = {
        f"{f.pk:05d}": f
        for f in Frame.objects.filter(study_frames__study=contender.study).select_related(
            "picture__file"
        )
    }
    for path in sorted((home / OUT).glob("*")) if (home / OUT).is_dir() else ():
        if (
            path.name.startswith(".")
            or not path.is_file()
            or time.time() - path.stat().st_mtime < SETTLED
        ):
            continue
        frame = next((f for key, f in frames.items() if key in path.name), None)
        try:
            if frame is None:
                raise ActionError(
                    f"{path.name}: its name holds none of the inputs' numbers. Keep the input's"
                    " name in it."
                )
            read_facts(path)
            with path.open("rb") as stream:
                bring_in(folder.actor, contender, frame, stream, path.name)
            path.replace(home / TAKEN / path.name)
            taken += 1
        except (CoreError, ActionError, OSError) as error:
            notes.append(str(error))
    if "\n".join(notes) != folder.note:
        HotFolder.objects.filter(pk=folder.pk).update(note="\n".join(notes))
    return taken


def look_into_all() -> int:
    """Look into every open hot folder."""
    taken = 0
    for folder in HotFolder.objects.filter(open=True).select_related(
        "contender__study__bench", "contender__treatment", "actor"
    ):
        try:
            taken += look_into(folder)
        except OSError:
            log.exception("the hot folder of contender %s can not be read", folder.contender_id)
    return taken


@app.periodic(cron="* * * * * */7")
@app.task(name="glenhail.look_into_hot_folders", queue="work", queueing_lock="hot folders")
async def look_into_hot_folders(timestamp: int) -> None:
    """Every few seconds; nothing is done where no hot folder is open."""
    await sync_to_async(look_into_all)()
