"""Reading reports and their editions."""

from __future__ import annotations

from django.conf import settings
from django.db.models import QuerySet

from glenhail.server.accounts.models import Bench
from glenhail.server.publishing.models import Edition, Report
from glenhail.server.studies.models import Study


def report_of(study: Study) -> Report:
    """A study's report under work; a blank one, not kept yet, where there is none."""
    return Report.objects.filter(study=study).first() or Report(study=study)


def published(bench: Bench) -> QuerySet[Report]:
    """A bench's reports with an edition, the newest first."""
    rows = Report.objects.filter(study__bench=bench, editions__isnull=False).distinct()
    return rows.select_related("study").prefetch_related("editions").order_by("-pk")


def newest_edition(slug: str) -> Edition | None:
    """The edition that a report's address leads to."""
    return Edition.objects.filter(report__slug=slug).order_by("-number").first()


def edition_sizes() -> list[int]:
    """The bytes of every file of every edition."""
    told = Edition.objects.values_list("files", flat=True)
    return [part["size"] for files in told for part in files]


def address_of(report: Report, number: int) -> str:
    """An edition's whole address for readers; none where nobody told the site's."""
    return f"{settings.ADDRESS}/reports/{report.slug}/{number}/" if settings.ADDRESS else ""
