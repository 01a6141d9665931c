"""Inquiries as their pages show them."""

from __future__ import annotations

from typing import Any

from glenhail.server.common.errors import Missing
from glenhail.server.inquiries import queries
from glenhail.server.inquiries.actions.asking import job_key
from glenhail.server.inquiries.answering import releases
from glenhail.server.inquiries.kinds import KINDS
from glenhail.server.inquiries.models import About
from glenhail.server.sensors.pages import state_of
from glenhail.server.studies.models import Contender, Study


def inquiry_page(study: Study, about: About, subject: str = "") -> dict[str, Any]:
    """What is known of one, and how current that is."""
    kept = queries.find_inquiry(study, about, subject)
    key = (key_now(study, about, subject) or "") if kept else ""
    state = state_of(kept, key, job_key(study, about, subject))
    found = kept.found if kept else None
    if found and found.get("version") != KINDS[about].version:
        # What another version found can not be shown as this one's; it is asked for anew.
        found = None
        state |= {"state": "none"} if state["state"] == "old" else {}
    return state | {"found": found}


def releases_page(study: Study, chosen: list[Contender]) -> dict[str, Any]:
    """One release against the one before it: of those chosen, earlier and later; else
    of the first pair that there is.
    """
    pairs = releases.pairs_of(study)
    if len(chosen) < 2 and pairs:
        entered = {c.letter: c for c in study.contenders.all()}
        chosen = [entered[letter] for letter in pairs[0]]
    told = {"pairs": [{"earlier": one, "later": two} for one, two in pairs]}
    if len(chosen) < 2:
        nothing = {"state": "none", "problem": "", "taken": None, "found": None}
        return {**told, "earlier": "", "later": "", **nothing}
    earlier, later = chosen
    page = inquiry_page(study, About.RELEASES, releases.subject_of(earlier, later))
    return {**told, "earlier": earlier.letter, "later": later.letter, **page}


def answers_page(study: Study) -> list[dict[str, Any]]:
    """What was answered, in words; what is of before is said to be so, and what is
    about something that is gone is left out.
    """
    rows = queries.inquiries_of(study)
    keyed = [(row, key_now(study, About(row.about), row.subject)) for row in rows]
    return [
        {
            "about": row.about,
            "subject": row.subject,
            "said": (row.found or {}).get("said", []),
            "current": row.key == key,
        }
        for row, key in keyed
        if key is not None
    ]


def key_now(study: Study, about: About, subject: str) -> str | None:
    """What an answer of now is known by; None where what it is about is gone: a
    contender that was taken out, a use that was taken away.
    """
    try:
        return KINDS[about].key(study, subject)
    except Missing:
        return None
