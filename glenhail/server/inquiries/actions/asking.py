"""Asking something of a whole study."""

from __future__ import annotations

from django.db import transaction

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.inquiries.kinds import KINDS
from glenhail.server.inquiries.models import About
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.studies.models import Study


@transaction.atomic
def ask_of_study(actor: Actor, study: Study, about: About, subject: str = "") -> None:
    """Queue answering it; work that is current already ends at once.

    Raises
    ------
    ActionError
        If it can not be asked of this study.
    """
    require(actor, study.bench, Role.EDITOR)
    kind = KINDS[about]
    kind.check(study, subject)
    arguments = {"study": study.pk, "about": about.value, "subject": subject}
    label = f"{kind.title} of “{study.question}”"
    enqueue(study.bench, "inquiry", job_key(study, about, subject), label, arguments, study.pk)
    record(actor, study.bench, f"ask about {about.value}", study)


def job_key(study: Study, about: About, subject: str) -> str:
    """Of the work that answers."""
    return f"inquiry:{study.pk}:{about.value}:{subject}"
