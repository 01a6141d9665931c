"""Filling and emptying the cell of one contender and one frame."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.material.actions.pictures import clean_name, take_in
from glenhail.server.material.models import Frame, Picture
from glenhail.server.outputs.models import Output
from glenhail.server.outputs.signals import output_changed
from glenhail.server.storage.files import Source
from glenhail.server.studies.models import Contender, Kind


def bring_in(
    actor: Actor,
    contender: Contender,
    frame: Frame,
    source: Source,
    name: str,
    made_with: dict[str, Any] | None = None,
) -> Output:
    """Bring in what a contender made of a frame; a file brought in before is replaced.

    `made_with` is told of one made here.
    """
    _check_cell(actor, contender, frame)
    picture = take_in(contender.study.bench, source, name, contender.study_id)
    return fill_cell(actor, contender, frame, picture, clean_name(name), made_with)


def fill_cell(
    actor: Actor,
    contender: Contender,
    frame: Frame,
    picture: Picture,
    file_name: str,
    made_with: dict[str, Any] | None = None,
) -> Output:
    """Put a picture that was taken in already into a cell."""
    _check_cell(actor, contender, frame)
    changes = {
        "picture": picture,
        "file_name": file_name,
        "absence": "",
        "made_with": made_with,
        **NO_PREVIEW,
    }
    return _fill(actor, contender, frame, changes, f"bring in {file_name}")


def put_back(actor: Actor, contender: Contender, frame: Frame, kept: dict[str, Any]) -> None:
    """Give a cell back what it held before; nothing where it was empty."""
    if kept:
        _fill(actor, contender, frame, kept, "put output back")
    else:
        empty_cell(actor, contender, frame)


def tell_absence(actor: Actor, contender: Contender, frame: Frame, absence: str) -> Output:
    """Say why a contender made nothing of a frame."""
    _check_cell(actor, contender, frame)
    absence = absence.strip()[:300]
    if not absence:
        raise ActionError("Say why there is no output: readers will ask.")
    return _fill(
        actor,
        contender,
        frame,
        {"picture": None, "file_name": "", "absence": absence, "made_with": None, **NO_PREVIEW},
        "tell absence",
    )


@transaction.atomic
def empty_cell(actor: Actor, contender: Contender, frame: Frame) -> None:
    """Take an output, or the reason for its absence, out again."""
    _check_cell(actor, contender, frame)
    Output.objects.filter(contender=contender, frame=frame).delete()
    record(actor, contender.study.bench, "take output out", f"{contender.letter} of {frame}")


# A preview belongs to the file that it was captured beside.
NO_PREVIEW: dict[str, Any] = {"preview": None, "preview_name": "", "preview_told": None}


@transaction.atomic
def _fill(
    actor: Actor, contender: Contender, frame: Frame, changes: dict[str, Any], done: str
) -> Output:
    output, _ = Output.objects.update_or_create(contender=contender, frame=frame, defaults=changes)
    record(actor, contender.study.bench, done[:60], output)
    output_changed.send(sender=Output, output=output)
    return output


def _check_cell(actor: Actor, contender: Contender, frame: Frame) -> None:
    require(actor, contender.study.bench, Role.EDITOR)
    if contender.kind == Kind.TRUTH:
        raise Conflict("The truth belongs to the frame. Set it there.")
    if contender.kind == Kind.UNPROCESSED:
        raise Conflict("The unprocessed column shows the frame itself; it needs no file.")
    if not contender.study.study_frames.filter(frame=frame).exists():
        raise Conflict(f"{frame} is not part of this study. Take it in first.")
