"""What an edition says of the one before it."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from django.core.files.storage import storages

from glenhail.core.articles.changes import changes
from glenhail.server.publishing.models import Report

Document = dict[str, Any]


def changes_since(report: Report, document: Document) -> Document | None:
    """What changed since the newest edition there is; None for the first one, and where
    the earlier one's data can not be read.
    """
    last = report.editions.order_by("-number").first() if report.pk else None
    if last is None:
        return None
    try:
        with storages["editions"].open(f"{last.folder}/edition.json") as file:
            found = changes(json.load(file), document)
    except (OSError, ValueError, KeyError, TypeError):
        return None
    return {"since": last.number, **asdict(found)}
