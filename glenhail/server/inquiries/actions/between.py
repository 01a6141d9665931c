"""Entering what lies between the steps of orders, so that it is made, kept and shown."""

from __future__ import annotations

from django.db import transaction

from glenhail.core.answers.orders import prefixes
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError
from glenhail.server.inquiries.answering.order import contenders_by_letter, groups_of
from glenhail.server.outputs.actions.runs import ask_for_runs, why_by_hand
from glenhail.server.studies.actions.contenders import enter_family
from glenhail.server.studies.models import Contender, Study


@transaction.atomic
def enter_between(actor: Actor, study: Study) -> list[Contender]:
    """Enter the first steps of every order as contenders; those whose tools run here
    are made.

    Raises
    ------
    ActionError
        If there are no orders, or what lies between is entered already.
    """
    require(actor, study.bench, Role.EDITOR)
    entered = contenders_by_letter(study)
    letters = [letter for group in groups_of(study) for letter, _ in group.members]
    told = [c.treatment.told for c in (entered[k] for k in letters) if c.treatment]
    made = enter_family(actor, study, prefixes(told))
    if not made:
        raise ActionError("Everything that lies between the steps is entered already.")
    cells = [
        (c.pk, frame)
        for c in made
        if not why_by_hand(c)
        for frame in study.study_frames.values_list("frame_id", flat=True)
    ]
    if cells:
        ask_for_runs(actor, study, "cells", cells)
    record(actor, study.bench, "enter what lies between", study)
    return made
