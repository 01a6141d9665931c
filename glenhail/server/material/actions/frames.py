"""Adding, naming and removing frames, and giving them a truth."""

from __future__ import annotations

from pathlib import PurePosixPath
from typing import Any

from django.db import models, transaction

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.material.actions.pictures import clean_name, take_in
from glenhail.server.material.models import Frame, FrameKind, Picture, PictureState
from glenhail.server.material.signals import frame_told, truth_changed
from glenhail.server.storage.files import Source


def add_frame(actor: Actor, bench: Bench, source: Source, name: str) -> tuple[Frame, bool]:
    """Add a frame from an upload, and tell whether it is new; the same file again gives
    the frame that is there.
    """
    require(actor, bench, Role.EDITOR)
    picture = take_in(bench, source, name)
    with transaction.atomic():
        frame, made = Frame.objects.get_or_create(
            bench=bench,
            picture=picture,
            defaults={
                "name": PurePosixPath(clean_name(name)).stem[:120],
                "file_name": clean_name(name),
            },
        )
        if made:
            record(actor, bench, "add frame", frame)
            look_for_target(frame)
    return frame, made


def set_truth(actor: Actor, frame: Frame, source: Source, name: str) -> Frame:
    """Give a frame its known-good original."""
    require(actor, frame.bench, Role.EDITOR)
    picture = take_in(frame.bench, source, name)
    if picture.pk == frame.picture_id:
        raise Conflict(
            f"{clean_name(name)} is the frame itself. A truth is another file: a clean original or"
            " a base-ISO twin."
        )
    return _change_truth(actor, frame, picture.pk, clean_name(name))


def drop_truth(actor: Actor, frame: Frame) -> Frame:
    """Take a frame's truth away; the file stays."""
    require(actor, frame.bench, Role.EDITOR)
    return _change_truth(actor, frame, None, "")


def give_made_truth(
    actor: Actor, frame: Frame, picture: Picture, name: str, made: dict[str, Any]
) -> Frame:
    """Give a frame a truth that was made here; ``made`` says how."""
    return _change_truth(actor, frame, picture.pk, name, made)


@transaction.atomic
def _change_truth(
    actor: Actor,
    frame: Frame,
    picture_id: int | None,
    name: str,
    made: dict[str, Any] | None = None,
) -> Frame:
    frame.truth_id, frame.truth_name, frame.truth_made = picture_id, name, made
    frame.save(update_fields=["truth", "truth_name", "truth_made"])
    record(actor, frame.bench, "set truth" if picture_id else "drop truth", frame)
    truth_changed.send(Frame, frame=frame)
    return frame


@transaction.atomic
def rename_frame(actor: Actor, frame: Frame, name: str) -> Frame:
    """Give a frame another name."""
    require(actor, frame.bench, Role.EDITOR)
    frame.name = name.strip()[:120] or frame.name
    frame.save(update_fields=["name"])
    return frame


@transaction.atomic
def tell_kind(actor: Actor, frame: Frame, kind: str) -> Frame:
    """Say what a frame shows: a scene, evenly lit ground, or nothing.

    Raises
    ------
    ActionError
        If it is none of these.
    Conflict
        If it is a frame of a study and would show no scene any more.
    """
    require(actor, frame.bench, Role.EDITOR)
    if kind not in FrameKind.values:
        raise ActionError(f"A frame shows one of {', '.join(FrameKind.values)}.")
    if kind != FrameKind.SCENE and frame.study_frames.exists():
        raise Conflict(f"{frame} is part of a study, so that it shows a scene.")
    frame.kind = kind
    frame.save(update_fields=["kind"])
    record(actor, frame.bench, "tell kind of frame", frame)
    frame_told.send(sender=Frame, frame=frame)
    return frame


@transaction.atomic
def remove_frame(actor: Actor, frame: Frame) -> None:
    """Remove a frame that no study uses."""
    require(actor, frame.bench, Role.EDITOR)
    label = str(frame)
    made = frame.degraded.count()
    if made:
        raise Conflict(f"{label} is the clean original of {made} made frames. Remove those first.")
    if hasattr(frame, "target"):
        raise Conflict(f"{label} is a painted target. Remove it on the targets page.")
    try:
        frame.delete()
    except models.ProtectedError as error:
        raise Conflict(f"{label} is used by a study. Take it out of its studies first.") from error
    record(actor, frame.bench, "remove frame", label)


@transaction.atomic
def look_for_target(frame: Frame) -> None:
    """Queue a look for a target in a frame, where the bench has any and the frame is
    decoded.

    Decoding asks for the same when it ends. It writes the row that is locked here, so
    that one of the two sees the other.
    """
    if not frame.bench.targets.exists():
        return
    if Picture.objects.select_for_update().get(pk=frame.picture_id).state == PictureState.READY:
        enqueue(
            frame.bench,
            "find target",
            f"find-target:{frame.pk}",
            f"Looking for a target in “{frame.name}”",
            {"frame": frame.pk},
        )


def ask_for_target(actor: Actor, frame: Frame) -> None:
    """Look for a target in a frame again, as an editor asks."""
    require(actor, frame.bench, Role.EDITOR)
    look_for_target(frame)
