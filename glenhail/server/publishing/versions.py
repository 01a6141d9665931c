"""Earlier states of the article under work."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.utils import timezone

from glenhail.server.accounts.permissions import Actor
from glenhail.server.publishing.blocks import complete
from glenhail.server.publishing.models import Report, ReportVersion

Document = dict[str, Any]
# What one person's page saves by itself within this is one version.
SPAN = timedelta(minutes=10)
MOST_VERSIONS = 200


def texts_of(report: Report) -> Document:
    """What of a report is written."""
    return {
        "summary": report.summary,
        "method": report.method,
        "disclosure": report.disclosure,
        "blocks": complete(report.blocks),
    }


def keep_version(actor: Actor, report: Report, before: Document, auto: bool = False) -> bool:
    """Keep a report as it stands now, beside what it was `before` where nobody kept
    that; whether that made a version of its own.
    """
    texts, now = texts_of(report), timezone.now()
    last = report.versions.first()
    if last is None and before != texts and any(before[k] for k in ("summary", "method")):
        last = report.versions.create(texts=before)
    if last is not None and last.texts == texts:
        return False
    if last is not None and auto and _goes_on(last, actor):
        last.texts, last.saved = texts, now
        last.save()
        return False
    report.versions.create(texts=texts, author_id=actor.pk, auto=auto)
    for old in report.versions.all()[MOST_VERSIONS:]:
        old.delete()
    return True


def _goes_on(last: ReportVersion, actor: Actor) -> bool:
    return last.auto and last.author_id == actor.pk and timezone.now() - last.created < SPAN
