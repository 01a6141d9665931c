"""Entering what a slider makes of a contender as a contender of its own."""

from __future__ import annotations

from dataclasses import replace

from django.db import transaction

from glenhail.core.level.told import slider_step
from glenhail.core.level.way import Way
from glenhail.core.level.ways import MEANS
from glenhail.core.treatments.step import Step, Treatment
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import ActionError
from glenhail.server.inquiries.answering.level import subject_of
from glenhail.server.inquiries.models import About
from glenhail.server.inquiries.queries import find_inquiry
from glenhail.server.outputs.actions.runs import ask_for_runs
from glenhail.server.outputs.actions.treated import ask_to_treat
from glenhail.server.studies.actions.contenders import enter_contender
from glenhail.server.studies.models import Contender, Kind, Study


@transaction.atomic
def enter_levelled(
    actor: Actor, study: Study, one: Contender, other: Contender, way: Way
) -> Contender:
    """Enter one contender, brought to the level that another was found to have.

    Raises
    ------
    ActionError
        If that was not asked yet, or nothing has to be done.
    """
    require(actor, study.bench, Role.EDITOR)
    kept = find_inquiry(study, About.LEVEL, subject_of(one, other, way))
    step = slider_step(kept.found["cells"]) if kept and kept.found else None
    if step is None:
        raise ActionError(
            f"Nothing is known that would bring {one.letter} to {other.letter}'s level in"
            f" {MEANS[way].level}. Ask first whether a slider could do it."
        )
    word = f"{MEANS[way].done} {other.letter}".replace(" ", "-")
    return enter_treated(actor, study, one, step, word)


def enter_treated(actor: Actor, study: Study, one: Contender, step: Step, word: str) -> Contender:
    """Enter a contender with one step more, made from its outputs as they are; of the
    frames as they are, the step alone, run like any other. One that is there already is
    returned.

    Raises
    ------
    ActionError
        If a step can not be added to it: the truth, or another body's shots.
    """
    require(actor, study.bench, Role.EDITOR)
    if one.kind == Kind.UNPROCESSED and not one.body:
        told = Treatment((step,))
    elif one.treatment is not None:
        told = replace(one.treatment.told, steps=(*one.treatment.told.steps, step))
    else:
        raise ActionError(f"{one.letter} is no treatment, to which a step could be added.")
    made = next(
        (
            c
            for c in study.contenders.filter(kind=Kind.TREATMENT).select_related("treatment")
            if c.treatment and c.treatment.told.words == told.words
        ),
        None,
    ) or enter_contender(actor, study, told)
    if one.treatment is None:
        frames = study.study_frames.values_list("frame_id", flat=True)
        ask_for_runs(actor, study, "cells", [(made.pk, frame) for frame in frames])
        return made
    ask_to_treat(actor, made, one, word)
    return made
