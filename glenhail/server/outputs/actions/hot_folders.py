"""Hot folders: inputs for a tool that a person runs by hand, and the picking up of what
it writes.
"""

from __future__ import annotations

import re
from pathlib import Path

from django.conf import settings
from django.db import transaction

from glenhail.core.treatments.step import ORIGINAL
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import Conflict, Missing
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.material.actions.pictures import clean_name
from glenhail.server.material.models import Frame
from glenhail.server.outputs.models import HotFolder
from glenhail.server.studies.models import Contender, Kind


def home_of(contender: Contender) -> Path:
    """Where a contender's hot folder lies; its inputs are in "in", outputs belong into
    "out".
    """
    safe = re.sub(r"[^A-Za-z0-9.]+", "-", contender.title).strip("-")[:60]
    return Path(settings.HOT_DIR) / f"study-{contender.study_id}" / f"{contender.letter}-{safe}"


def input_name(contender: Contender, frame: Frame) -> str:
    """A frame's name in such a folder: with a number by which the tool's output is
    known again.
    """
    name = clean_name(frame.file_name)
    ending = (
        Path(name).suffix
        if contender.treatment and contender.treatment.told.feed == ORIGINAL
        else ".tif"
    )
    return f"{frame.pk:05d}-{Path(name).stem}{ending}"


@transaction.atomic
def open_hot_folder(actor: Actor, contender: Contender) -> HotFolder:
    """Have the inputs of all frames written, and pick up what is put beside them from
    now on.
    """
    require(actor, contender.study.bench, Role.EDITOR)
    if contender.kind != Kind.TREATMENT:
        raise Conflict("Only a treatment has something to be run by hand.")
    if not contender.study.study_frames.exists():
        raise Conflict("The study has no frames yet. Take some in first.")
    folder, _ = HotFolder.objects.update_or_create(
        contender=contender, defaults={"open": True, "note": "", "actor_id": actor.pk or 0}
    )
    label = f"Writing inputs for {contender.letter}, {contender.title}"
    enqueue(
        contender.study.bench,
        "write inputs",
        f"hot:{contender.pk}",
        label,
        {"contender": contender.pk},
        contender.study_id,
    )
    record(actor, contender.study.bench, "open hot folder", contender)
    return folder


@transaction.atomic
def close_hot_folder(actor: Actor, contender: Contender) -> None:
    """Pick nothing up any more; the files stay where they are."""
    require(actor, contender.study.bench, Role.EDITOR)
    if not HotFolder.objects.filter(contender=contender, open=True).update(open=False):
        raise Missing("This contender has no open hot folder.")
    record(actor, contender.study.bench, "close hot folder", contender)
