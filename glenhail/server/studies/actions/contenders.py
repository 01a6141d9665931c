"""Entering treatments, and bringing in what they made."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from glenhail.core.articles.licences import Terms
from glenhail.core.treatments import step as core
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import Conflict
from glenhail.server.material.actions.terms import set_terms
from glenhail.server.studies.models import LETTERS, Contender, Kind, Study
from glenhail.server.studies.queries import _with_steps
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
    letter, order = _give_letter(study)
    return Contender.objects.create(study=study, letter=letter, order=order, **what)


@transaction.atomic
def name_reference(study: Study, body: str) -> None:
    """Let a study's frames be a body's: one among bodies, with a letter as they have.

    Where others are entered already it keeps the letter that it is known by.
    """
    reference = study.contenders.get(kind=Kind.UNPROCESSED)
    if not reference.body and study.letters_given == 0:
        reference.letter, _ = _give_letter(study)
    reference.body = body
    reference.save(update_fields=["letter", "body"])


def _give_letter(study: Study) -> tuple[str, int]:
    """A letter, and how many were given with it."""
    locked = Study.objects.select_for_update().get(pk=study.pk)
    letter = _next_letter(locked)
    locked.letters_given += 1
    locked.save(update_fields=["letters_given"])
    study.letters_given = locked.letters_given
    return letter, locked.letters_given


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
def tell_terms(actor: Actor, contender: Contender, terms: Terms) -> Contender:
    """Say under which terms a contender's outputs are passed on, beside those of their
    frames.
    """
    require(actor, contender.study.bench, Role.EDITOR)
    _check_entered(contender)
    set_terms(contender, terms)
    record(actor, contender.study.bench, "tell licence", contender)
    return contender


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
