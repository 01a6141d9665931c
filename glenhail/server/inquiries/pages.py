"""Inquiries as their pages show them."""

from __future__ import annotations

from typing import Any

from glenhail.server.inquiries import queries
from glenhail.server.inquiries.actions.asking import job_key
from glenhail.server.inquiries.kinds import KINDS
from glenhail.server.inquiries.models import About
from glenhail.server.sensors.pages import state_of
from glenhail.server.studies.models import Study


def inquiry_page(study: Study, about: About, subject: str = "") -> dict[str, Any]:
    """What is known of one, and how current that is."""
    kept = queries.find_inquiry(study, about, subject)
    key = KINDS[about].key(study, subject) if kept else ""
    state = state_of(kept, key, job_key(study, about, subject))
    return state | {"found": kept.found if kept else None}


def answers_page(study: Study) -> list[dict[str, Any]]:
    """What was answered, in words; what is of before is said to be so."""
    return [
        {
            "about": row.about,
            "subject": row.subject,
            "said": (row.found or {}).get("said", []),
            "current": row.key == KINDS[About(row.about)].key(study, row.subject),
        }
        for row in queries.inquiries_of(study)
    ]
