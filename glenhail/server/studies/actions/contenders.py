"""Entering treatments, and bringing in what they made."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction
from django.db.models import QuerySet

from glenhail.core.treatments import step as core
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict, Missing
from glenhail.server.material.actions.pictures import clean_name, take_in
from glenhail.server.material.models import Frame, Picture
from glenhail.server.storage.files import Source
from glenhail.server.studies.actions.measuring import queue_output
from glenhail.server.studies.models import LETTERS, Contender, Kind, Output, Study
from glenhail.server.tools.actions.treatments import fit_treatment, write_treatment


@transaction.atomic
def enter_contender(actor: Actor, study: Study, told: core.Treatment) -> Contender:
    """Enter a treatment under the next letter."""
    require(actor, study.bench, Role.EDITOR)
    contender = under_next_letter(study, treatment=write_treatment(study.bench, told))
    record(actor, study.bench, "enter contender", contender)
    return contender


@transaction.atomic
def under_next_letter(study: Study, **what: Any) -> Contender:
    """A new contender.

    A letter once given is not given again before all others are, and never once it was
    published.
    """
    locked = Study.objects.select_for_update().get(pk=study.pk)
    letter = _next_letter(locked)
    locked.letters_given += 1
    locked.save(update_fields=["letters_given"])
    return Contender.objects.create(study=locked, letter=letter, order=locked.letters_given, **what)


def _next_letter(study: Study) -> str:
    if study.letters_given < len(LETTERS):
        return LETTERS[study.letters_given]
    taken = {*study.contenders.values_list("letter", flat=True), *study.letters_published}
    free = next((letter for letter in LETTERS if letter not in taken), None)
    if free is None:
        raise Conflict(
            "All letters of this study are given. Start another study for more contenders."
        )
    return free


@transaction.atomic
def enter_family(actor: Actor, study: Study, family: Sequence[core.Treatment]) -> list[Contender]:
    """Enter several treatments in one go; those that the study has already are left
    out.
    """
    require(actor, study.bench, Role.EDITOR)
    entered = study.contenders.filter(kind=Kind.TREATMENT).prefetch_related(
        "treatment__steps__release__tool"
    )
    known = {c.treatment.told.words for c in entered if c.treatment}
    fitted = [fit_treatment(study.bench, told) for told in family]
    return [enter_contender(actor, study, told) for told in fitted if told.words not in known]


@transaction.atomic
def change_contender(actor: Actor, contender: Contender, told: core.Treatment) -> Contender:
    """Correct what a treatment says; its letter and outputs stay.

    Those made here are then told to be made with something else.
    """
    require(actor, contender.study.bench, Role.EDITOR)
    if contender.kind != Kind.TREATMENT:
        raise Conflict(f"{contender.title} is not a treatment; it can not be changed.")
    write_treatment(contender.study.bench, told, contender.treatment)
    record(actor, contender.study.bench, "change contender", contender)
    return _with_steps().get(pk=contender.pk)


@transaction.atomic
def withdraw_contender(actor: Actor, contender: Contender) -> None:
    """Take a contender out, with its outputs; the files stay."""
    require(actor, contender.study.bench, Role.EDITOR)
    _check_entered(contender)
    record(actor, contender.study.bench, "withdraw contender", contender)
    contender.delete()


def _check_entered(contender: Contender) -> None:
    if contender.kind not in (Kind.TREATMENT, Kind.BODY):
        raise Conflict(
            f"{contender.title.capitalize()} stands beside every contender; it can not be changed"
            " or taken out."
        )


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
    output.readings.all().delete()
    record(actor, contender.study.bench, done[:60], output)
    queue_output(output)
    return output


def _check_cell(actor: Actor, contender: Contender, frame: Frame) -> None:
    require(actor, contender.study.bench, Role.EDITOR)
    if contender.kind == Kind.TRUTH:
        raise Conflict("The truth belongs to the frame. Set it there.")
    if contender.kind == Kind.UNPROCESSED:
        raise Conflict("The unprocessed column shows the frame itself; it needs no file.")
    if not contender.study.study_frames.filter(frame=frame).exists():
        raise Conflict(f"{frame} is not part of this study. Take it in first.")


def find_contender(actor: Actor, contender_id: int) -> Contender:
    """A contender of a study the actor may see."""
    contender = _with_steps().filter(pk=contender_id).first()
    if contender is None:
        raise Missing("There is no such contender, or it was withdrawn.")
    require(actor, contender.study.bench, Role.VIEWER)
    return contender


def _with_steps() -> QuerySet[Contender]:
    rows = Contender.objects.select_related("study__bench", "treatment")
    return rows.prefetch_related("treatment__steps__release__tool")
