"""Answering what is asked of whole studies."""

from __future__ import annotations

from typing import Any

from glenhail.core.errors import CoreError
from glenhail.server.common.errors import ActionError
from glenhail.server.inquiries.answering import level, order, releases, strength, visibility
from glenhail.server.inquiries.kinds import KINDS
from glenhail.server.inquiries.models import About, Inquiry
from glenhail.server.inquiries.queries import find_inquiry
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.studies.models import Study

KINDS[About.VISIBILITY] = visibility.KIND
KINDS[About.STRENGTH] = strength.KIND
KINDS[About.LEVEL] = level.KIND
KINDS[About.ORDER] = order.KIND
KINDS[About.RELEASES] = releases.KIND


def not_answered(arguments: dict[str, Any], problem: str) -> None:
    """What could not be answered says why; what was found before stays."""
    if Study.objects.filter(pk=arguments["study"]).exists():
        _keep(arguments, {"problem": problem})


@does("inquiry", settle=not_answered)
def answer_inquiry(progress: Progress, arguments: dict[str, Any]) -> None:
    """Answer, unless what is kept is current."""
    study = Study.objects.select_related("bench").filter(pk=arguments["study"]).first()
    if study is None:
        return
    about, subject = About(arguments["about"]), arguments["subject"]
    kind, kept = KINDS[about], find_inquiry(study, about, subject)
    key = kind.key(study, subject)
    if kept is not None and kept.key == key and kept.found and not kept.problem:
        return
    try:
        kind.check(study, subject)
        found = kind.answer(progress, study, subject, kept.found if kept else None)
        told = {"key": key, "problem": "", "found": found}
    except (CoreError, ActionError) as error:
        # What was found before keeps its key: it is not of now.
        told = {"problem": str(error)}
    with progress.settling():
        _keep(arguments, told)


def _keep(arguments: dict[str, Any], told: dict[str, Any]) -> None:
    where = {k: arguments[k] for k in ("about", "subject")}
    Inquiry.objects.update_or_create(study_id=arguments["study"], **where, defaults=told)
