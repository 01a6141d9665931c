"""Saying what was wrong in an edition."""

from __future__ import annotations

from dataclasses import dataclass

from django.db import transaction

from glenhail.core.articles.corrections import cell_of, place_words
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.jobs.models import ACTIVE, Job
from glenhail.server.publishing.blocks import BY_ID
from glenhail.server.publishing.corrections import patch_in, printed_document
from glenhail.server.publishing.models import Correction, Report
from glenhail.server.studies.models import Patch, Study


@dataclass(frozen=True)
class Place:
    """Where an edition was wrong: a block, a patch's figure, or one reading of that."""

    block: str = ""
    patch: int | None = None
    measure: str = ""
    letter: str = ""


@transaction.atomic
def correct(actor: Actor, study: Study, edition: int, place: Place, text: str) -> Correction:
    """Say what was wrong in a published edition; the next one has it, marked where it
    stood, and so have all after it.

    Raises
    ------
    ActionError
        If there is no such edition, place or reading in it, or nothing is said.
    """
    require(actor, study.bench, Role.EDITOR)
    report = Report.objects.filter(study=study).first()
    if report is None or not report.editions.filter(number=edition).exists():
        raise ActionError(f"There is no edition {edition} to correct.")
    if not text.strip():
        raise ActionError("Say what was wrong.")
    row = Correction(report=report, edition=edition, text=text.strip(), author_id=actor.pk)
    if place.patch is not None:
        _of_patch(row, study, place)
    else:
        _of_block(row, place)
    row.save()
    record(actor, study.bench, "correct edition", row)
    return row


def _of_block(row: Correction, place: Place) -> None:
    kind = BY_ID.get(place.block)
    if kind is None or kind.own:
        raise ActionError("Choose what was wrong: a part of the report, or a figure.")
    row.block = row.anchor = kind.id
    row.where = kind.title


def _of_patch(row: Correction, study: Study, place: Place) -> None:
    rows = Patch.objects.select_related("frame").filter(study=study)
    patch = rows.filter(pk=place.patch or 0).first()
    if patch is None:
        raise ActionError("There is no such patch in this study.")
    row.patch = patch
    document = printed_document(row.report, row.edition)
    there = document and patch_in(document, patch)
    if document is None or there is None:
        raise ActionError(f"Edition {row.edition} has no figure of {patch.name}, {patch.frame}.")
    row.anchor = f"figure-{there['figure']}" if there.get("figure") else ""
    name = ""
    if place.measure or place.letter:
        if cell_of(document, there["table"], place.measure, place.letter) is None:
            raise ActionError(
                f"Edition {row.edition} has no such reading of {patch.name}. Choose a measure and"
                " a contender that its table has, or neither."
            )
        name = MEASURES[place.measure].name if place.measure in MEASURES else place.measure
        row.measure, row.letter = place.measure, place.letter
    row.where = place_words(patch.name, patch.frame.name, name, place.letter)


@transaction.atomic
def drop_correction(actor: Actor, row: Correction) -> None:
    """Take back a correction that no edition has yet.

    Raises
    ------
    Conflict
        If one has it, or is being printed.
    """
    study = row.report.study
    require(actor, study.bench, Role.EDITOR)
    row = Correction.objects.select_for_update(of=("self",)).get(pk=row.pk)
    if row.corrected_in is not None:
        raise Conflict(f"Edition {row.corrected_in} has this correction; it stays.")
    if Job.objects.filter(study_id=study.pk, kind="publish", state__in=ACTIVE).exists():
        raise Conflict("An edition is being prepared, with this correction.")
    record(actor, study.bench, "remove correction", row)
    row.delete()
