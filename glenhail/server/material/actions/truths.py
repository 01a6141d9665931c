"""Truths made here: from a base-ISO twin, or as the mean of a burst."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path, PurePosixPath
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from glenhail.core.truth.burst import LEAST, MOST
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.models import Job
from glenhail.server.material.actions.frames import give_made_truth
from glenhail.server.material.actions.pictures import take_in
from glenhail.server.material.models import Frame, PictureState


@transaction.atomic
def ask_for_twins(actor: Actor, base: Frame, frames: Iterable[Frame]) -> list[Job]:
    """Queue making one frame the truth of others of the same scene, each by itself.

    Raises
    ------
    ActionError
        If no frame is named.
    Conflict
        If one is not ready, is the base frame itself, comes from another body, or was
        not shot at a higher ISO.
    """
    require(actor, base.bench, Role.EDITOR)
    frames = list(frames)
    if not frames:
        raise ActionError("Name the frames that it shall be the truth of.")
    for frame in frames:
        _check_pair(frame, base)
    record(actor, base.bench, "make twins", f"{base}, of {len(frames)}")
    return [
        enqueue(
            base.bench,
            "twin",
            f"twin:{frame.pk}",
            f"Making “{base.name}” the truth of “{frame.name}”",
            {"frame": frame.pk, "base": base.pk, "actor": actor.pk},
        )
        for frame in frames
    ]


def _check_pair(frame: Frame, base: Frame) -> None:
    _check_ready(frame)
    _check_ready(base)
    if frame.pk == base.pk:
        raise Conflict(f"{frame} can not be its own truth. Choose another frame as its twin.")
    mine, its = frame.picture.facts, base.picture.facts
    if mine.get("camera") and its.get("camera") and mine["camera"] != its["camera"]:
        raise Conflict(
            f"{base} was shot with {its['camera']}, {frame} with {mine['camera']}. A twin comes"
            " from the same body."
        )
    if mine.get("iso") and its.get("iso") and its["iso"] >= mine["iso"]:
        raise Conflict(
            f"{base} has ISO {its['iso']:,g}, {frame} ISO {mine['iso']:,g}. The truth is the one"
            " with the lower ISO."
        )


def _check_ready(frame: Frame) -> None:
    if frame.picture.state != PictureState.READY:
        raise Conflict(f"{frame} is not ready. Wait until it was taken in, or leave it out.")


@transaction.atomic
def ask_for_burst(actor: Actor, frames: Iterable[Frame]) -> Job:
    """Queue making the mean of some frames the truth of each of them.

    Raises
    ------
    ActionError
        If they are too few or too many.
    Conflict
        If one is not ready.
    """
    frames = sorted(frames, key=lambda f: f.pk)
    for frame in frames:
        require(actor, frame.bench, Role.EDITOR)
    if not LEAST <= len(frames) <= MOST:
        raise ActionError(f"A burst has {LEAST} to {MOST} frames; {len(frames)} were chosen.")
    for frame in frames:
        _check_ready(frame)
    bench, pks = frames[0].bench, [f.pk for f in frames]
    record(actor, bench, "make burst", f"{len(frames)} frames from {frames[0]} on")
    label = f"Mean of {len(frames)} frames, {frames[0].name} and on"
    return enqueue(
        bench,
        "burst",
        f"burst:{pks[0]}:{pks[-1]}:{len(pks)}",
        label,
        {"frames": pks, "actor": actor.pk},
    )


def keep_truth(frames: list[Frame], made: Path, told: dict[str, Any], actor_id: int) -> None:
    """Take a made truth in and give it to its frames; ``told["kind"]`` names the file."""
    name = f"{PurePosixPath(frames[0].file_name).stem[:80]}-{told['kind']}.tif"
    with made.open("rb") as stream:
        picture = take_in(frames[0].bench, stream, name)
    actor = User.objects.get(pk=actor_id)
    for frame in frames:
        give_made_truth(actor, frame, picture, name, told)
