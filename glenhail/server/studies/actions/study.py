"""Asking a question, and taking frames into the study."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.material.actions.terms import set_terms
from glenhail.server.material.models import Frame
from glenhail.server.studies.actions.contenders import name_reference, under_next_letter
from glenhail.server.studies.models import (
    TRUTH_LETTER,
    UNPROCESSED_LETTER,
    Contender,
    Factor,
    Kind,
    Study,
    StudyFrame,
)
from glenhail.server.studies.queries import entered
from glenhail.server.studies.signals import frame_left, frame_taken, study_removing
from glenhail.server.tools.actions.treatments import write_treatment


def _checked(question: str, factor: str) -> str:
    question = " ".join(question.split())
    if not question:
        raise ActionError("A study starts with a question. Write it down first.")
    if factor not in Factor.values:
        raise ActionError(f"What varies is one of {', '.join(Factor.values)}.")
    return question


@transaction.atomic
def create_study(actor: Actor, bench: Bench, question: str, factor: str) -> Study:
    """Begin a study; truth and unprocessed have their columns from the start."""
    require(actor, bench, Role.EDITOR)
    question = _checked(question, factor)
    study = Study.objects.create(bench=bench, question=question, factor=factor, author_id=actor.pk)
    Contender.objects.create(study=study, letter=TRUTH_LETTER, kind=Kind.TRUTH, order=-2)
    Contender.objects.create(
        study=study, letter=UNPROCESSED_LETTER, kind=Kind.UNPROCESSED, order=-1
    )
    record(actor, bench, "create study", study)
    return study


@transaction.atomic
def change_study(actor: Actor, study: Study, question: str, factor: str) -> Study:
    """Put the question in other words, or say that something else varies."""
    require(actor, study.bench, Role.EDITOR)
    study.question, study.factor = _checked(question, factor), factor
    study.save(update_fields=["question", "factor"])
    record(actor, study.bench, "change study", study)
    return study


@transaction.atomic
def archive_study(actor: Actor, study: Study, archived: bool) -> Study:
    """Put a study out of the list of current ones, or back; nothing else about it
    changes.
    """
    require(actor, study.bench, Role.EDITOR)
    study.archived = timezone.now() if archived else None
    study.save(update_fields=["archived"])
    record(actor, study.bench, "archive study" if archived else "restore study", study)
    return study


@transaction.atomic
def duplicate_study(actor: Actor, study: Study) -> Study:
    """Begin another study with the same question, frames, contenders and patches, and
    no output.

    Contenders get letters from A on, in their order.
    """
    copy = create_study(actor, study.bench, f"{study.question[:190]} (copy)", study.factor)
    held = study.contenders.get(kind=Kind.UNPROCESSED).body
    if held:
        name_reference(copy, held)
    for row in study.study_frames.select_related("frame"):
        take_frame(actor, copy, row.frame)
    for contender in entered(study):
        if contender.kind == Kind.BODY:
            under_next_letter(copy, kind=Kind.BODY, body=contender.body)
        elif contender.treatment is not None:
            told = contender.treatment.told
            made = under_next_letter(copy, treatment=write_treatment(study.bench, told))
            set_terms(made, contender.terms)
    for patch in study.patches.all():
        patch.pk, patch.study = None, copy
        patch.save(force_insert=True)
    record(actor, study.bench, "duplicate study", copy)
    return copy


@transaction.atomic
def remove_study(actor: Actor, study: Study) -> None:
    """Remove a study that nothing was published from; frames and files stay."""
    require(actor, study.bench, Role.OWNER)
    study_removing.send(sender=Study, actor=actor, study=study)
    record(actor, study.bench, "remove study", study)
    study.delete()


@transaction.atomic
def take_frame(actor: Actor, study: Study, frame: Frame) -> StudyFrame:
    """Take a frame of the same bench into a study."""
    require(actor, study.bench, Role.EDITOR)
    if frame.bench_id != study.bench_id:
        raise Missing("There is no such frame, or it was removed.")
    row, made = StudyFrame.objects.get_or_create(
        study=study, frame=frame, defaults={"order": study.study_frames.count()}
    )
    if made:
        record(actor, study.bench, "take frame", row)
        frame_taken.send(sender=Study, study=study, frame=frame)
    return row


@transaction.atomic
def leave_frame(actor: Actor, study: Study, frame: Frame) -> None:
    """Take a frame out of a study, with its outputs and patches there; the files stay."""
    require(actor, study.bench, Role.EDITOR)
    frame_left.send(sender=Study, study=study, frame=frame)
    study.patches.filter(frame=frame).delete()
    study.study_frames.filter(frame=frame).delete()
    record(actor, study.bench, "leave frame", f"{frame} of {study}")
