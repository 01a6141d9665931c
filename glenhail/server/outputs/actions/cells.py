"""Filling and emptying the cell of one contender and one frame."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import Q

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.material.actions.pictures import clean_name, take_in
from glenhail.server.material.models import Frame, Picture
from glenhail.server.outputs.models import Output
from glenhail.server.outputs.signals import outputs_changed
from glenhail.server.storage.files import Source
from glenhail.server.studies.models import Contender, Kind, Study


def bring_in(
    actor: Actor,
    contender: Contender,
    frame: Frame,
    source: Source,
    name: str,
    made_with: dict[str, Any] | None = None,
    made_from: dict[str, Any] | None = None,
) -> Output:
    """Bring in what a contender made of a frame; a file brought in before is replaced.

    `made_with` is told of one made here, `made_from` of one made of another's output.
    """
    _check_cell(actor, contender, frame)
    picture = take_in(contender.study.bench, source, name, contender.study_id)
    return fill_cell(actor, contender, frame, picture, clean_name(name), made_with, made_from)


def fill_cell(
    actor: Actor,
    contender: Contender,
    frame: Frame,
    picture: Picture,
    file_name: str,
    made_with: dict[str, Any] | None = None,
    made_from: dict[str, Any] | None = None,
) -> Output:
    """Put a picture that was taken in already into a cell."""
    _check_cell(actor, contender, frame)
    changes = _holding(picture, file_name, made_with, made_from)
    return _fill(actor, contender, frame, changes, f"bring in {file_name}")


@dataclass(frozen=True)
class Filling:
    """A picture, taken in already, and the cell it belongs in."""

    contender: Contender
    frame: Frame
    picture: Picture
    file_name: str


@transaction.atomic
def fill_cells(actor: Actor, study: Study, fillings: Sequence[Filling]) -> list[dict[str, Any]]:
    """Fill many cells of a study in a fixed number of statements; returns what each
    held before, as `put_back` takes it.
    """
    require(actor, study.bench, Role.EDITOR)
    frames = set(study.study_frames.values_list("frame_id", flat=True))
    for filling in fillings:
        _check_kind(filling.contender)
        if filling.frame.pk not in frames:
            raise Conflict(f"{filling.frame} is not part of this study. Take it in first.")
    rows = Output.objects.select_for_update().filter(contender__study=study)
    there = {(o.contender_id, o.frame_id): o for o in rows}
    before = [kept_of(there.get((f.contender.pk, f.frame.pk))) for f in fillings]
    _write(
        Output(contender=f.contender, frame=f.frame, **_holding(f.picture, f.file_name))
        for f in fillings
    )
    return before


def _write(outputs: Iterable[Output]) -> None:
    """Make cells hold what these rows say, in one statement."""
    rows = list(outputs)
    Output.objects.bulk_create(
        rows, update_conflicts=True, unique_fields=["contender", "frame"], update_fields=HELD
    )
    outputs_changed.send(sender=Output, outputs=rows)


def kept_of(output: Output | None) -> dict[str, Any]:
    """What a cell holds, for `put_back`; empty where it holds nothing."""
    if output is None:
        return {}
    return {name: getattr(output, name) for name in KEPT}


def _holding(
    picture: Picture,
    file_name: str,
    made_with: dict[str, Any] | None = None,
    made_from: dict[str, Any] | None = None,
) -> dict[str, Any]:
    told = {"file_name": file_name, "made_with": made_with, "made_from": made_from}
    return {**EMPTY, "picture": picture, **told}


@dataclass(frozen=True)
class Held:
    """A cell and what it held, as `kept_of` told it."""

    contender: Contender
    frame: Frame
    kept: dict[str, Any]


@transaction.atomic
def put_back(actor: Actor, study: Study, cells: Sequence[Held]) -> None:
    """Give cells back what they held before; those that held nothing are empty again."""
    require(actor, study.bench, Role.EDITOR)
    empty = Q()
    for cell in cells:
        if not cell.kept:
            empty |= Q(contender=cell.contender, frame=cell.frame)
    if empty:
        Output.objects.filter(empty).delete()
    _write(Output(contender=c.contender, frame=c.frame, **c.kept) for c in cells if c.kept)


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
        {**EMPTY, "absence": absence},
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
EMPTY: dict[str, Any] = {
    "picture": None,
    "file_name": "",
    "absence": "",
    "made_with": None,
    "made_from": None,
    **NO_PREVIEW,
}
# What a cell holds, as fields and as what is kept of them.
HELD = [*EMPTY]
KEPT = [f"{name}_id" if name in ("picture", "preview") else name for name in HELD]


@transaction.atomic
def _fill(
    actor: Actor, contender: Contender, frame: Frame, changes: dict[str, Any], done: str
) -> Output:
    output, _ = Output.objects.update_or_create(contender=contender, frame=frame, defaults=changes)
    record(actor, contender.study.bench, done[:60], output)
    outputs_changed.send(sender=Output, outputs=[output])
    return output


def _check_cell(actor: Actor, contender: Contender, frame: Frame) -> None:
    require(actor, contender.study.bench, Role.EDITOR)
    _check_kind(contender)
    if not contender.study.study_frames.filter(frame=frame).exists():
        raise Conflict(f"{frame} is not part of this study. Take it in first.")


def _check_kind(contender: Contender) -> None:
    if contender.kind == Kind.TRUTH:
        raise Conflict("The truth belongs to the frame. Set it there.")
    if contender.kind == Kind.UNPROCESSED:
        raise Conflict("The unprocessed column shows the frame itself; it needs no file.")
