"""The corrections that an edition has, and what an earlier one said there."""

from __future__ import annotations

import json
from typing import Any

from django.core.files.storage import storages

from glenhail.core.articles.corrections import Wrong, cell_of, reading_words
from glenhail.server.publishing.models import Correction, Edition, Report
from glenhail.server.publishing.queries import corrections
from glenhail.server.studies.models import Patch

Document = dict[str, Any]


def printed_document(report: Report, number: int) -> Document | None:
    """What an edition says; None where it can not be read."""
    edition = Edition.objects.filter(report=report, number=number).first()
    if edition is None:
        return None
    try:
        with storages["editions"].open(f"{edition.folder}/edition.json") as file:
            return dict(json.load(file))
    except (OSError, ValueError, TypeError):
        return None


def patch_in(document: Document, patch: Patch) -> Document | None:
    """A patch as an edition has it: by its names, and where several have these by its
    place too.
    """
    names = patch.name, patch.frame.name
    named = [p for p in document["patches"] if (p["name"], p["frame"]) == names]
    rect = [patch.x, patch.y, patch.w, patch.h]
    return next((p for p in named if p["rect"] == rect), named[0] if named else None)


def wrongs_of(report: Report, number: int, patches: list[int]) -> list[Wrong]:
    """What edition `number` of a report puts right, or one before it did.

    ``patches`` are the ids of those that it shows, in their order.
    """
    made = []
    printed: dict[int, Document | None] = {}
    for row in corrections(report.study).select_related("patch__frame"):
        if row.edition not in printed:
            printed[row.edition] = printed_document(report, row.edition)
        shown = row.patch_id in patches
        made.append(
            Wrong(
                edition=row.edition,
                corrected_in=row.corrected_in or number,
                where=row.where,
                text=row.text,
                block=row.block,
                patch=patches.index(row.patch_id) if shown and row.patch_id else None,
                measure=row.measure,
                letter=row.letter,
                before=_before(row, printed[row.edition]),
            )
        )
    return made


def _before(row: Correction, document: Document | None) -> str:
    if document is None or row.patch is None or not row.measure:
        return ""
    patch = patch_in(document, row.patch)
    cell = patch and cell_of(document, patch["table"], row.measure, row.letter)
    return reading_words(cell) if cell else ""
