"""Reading reports and their editions."""

from __future__ import annotations

from datetime import datetime

from django.conf import settings
from django.db.models import Q, QuerySet
from django.utils import timezone

from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.accounts.models import Bench
from glenhail.server.common.errors import Missing
from glenhail.server.measuring.models import Reading
from glenhail.server.publishing.models import Comment, Correction, Edition, Report, ReportVersion
from glenhail.server.storage.models import StoredFile
from glenhail.server.studies.models import Study
from glenhail.server.tools.models import Release


def report_of(study: Study) -> Report:
    """A study's report under work; a blank one, not kept yet, where there is none."""
    return Report.objects.filter(study=study).first() or Report(study=study)


def editions_of(report: Report) -> list[Edition]:
    """A report's editions, the newest first; one that is not kept yet has none."""
    return list(report.editions.all()) if report.pk else []


def find_edition(study: Study, number: int) -> Edition:
    """One edition of a study's report.

    Raises
    ------
    Missing
        If there is none of that number.
    """
    found = Edition.objects.filter(report__study=study, number=number).first()
    if found is None:
        raise Missing("There is no such edition.")
    return found


def versions_of(study: Study) -> QuerySet[ReportVersion]:
    """Earlier states of a study's report, the newest first, without their texts."""
    rows = ReportVersion.objects.filter(report__study=study).select_related("author")
    return rows.defer("texts")


def find_version(study: Study, pk: int) -> ReportVersion:
    """One earlier state of a study's report.

    Raises
    ------
    Missing
        If there is none.
    """
    found = ReportVersion.objects.filter(report__study=study, pk=pk).first()
    if found is None:
        raise Missing("There is no such version.")
    return found


def comments_of(study: Study) -> QuerySet[Comment]:
    """What editors say about a study's report, in that order."""
    rows = Comment.objects.filter(report__study=study)
    return rows.select_related("author", "settled_by")


def find_comment(study: Study, pk: int) -> Comment:
    """One comment on a study's report.

    Raises
    ------
    Missing
        If there is none.
    """
    found = comments_of(study).select_related("report__study__bench").filter(pk=pk).first()
    if found is None:
        raise Missing("There is no such comment, or it was deleted.")
    return found


def corrections(study: Study) -> QuerySet[Correction]:
    """What was said to be wrong in a study's editions, in that order."""
    return Correction.objects.filter(report__study=study).select_related("author")


def measures_read(study: Study) -> list[dict[str, str]]:
    """Measures that the study has a number of."""
    rows = Reading.objects.filter(output__contender__study=study, value__isnull=False)
    there = set(rows.values_list("measure", flat=True).distinct())
    return [{"id": m.id, "name": m.name} for m in MEASURES.values() if m.id in there]


def find_correction(study: Study, pk: int) -> Correction:
    """One correction of a study's report.

    Raises
    ------
    Missing
        If there is none.
    """
    rows = Correction.objects.select_related("report__study__bench")
    found = rows.filter(report__study=study, pk=pk).first()
    if found is None:
        raise Missing("There is no such correction.")
    return found


def published(bench: Bench) -> QuerySet[Report]:
    """A bench's reports with an edition, the newest first."""
    rows = Report.objects.filter(study__bench=bench, editions__isnull=False).distinct()
    return rows.select_related("study").prefetch_related("editions").order_by("-pk")


def public_editions() -> QuerySet[Edition]:
    """What anybody may read now, the newest first."""
    rows = Edition.objects.select_related("report").filter(withdrawn=None)
    return rows.filter(_out_of_embargo()).order_by("-published", "-pk")


def _out_of_embargo() -> Q:
    return Q(public_from=None) | Q(public_from__lte=timezone.now())


def benches_with_ended_embargo(since: datetime | None) -> QuerySet[Bench]:
    """Those of which an edition became public by itself since some time, or ever."""
    now = timezone.now()
    ended = Edition.objects.filter(public_from__lte=now, withdrawn=None)
    late = ended.filter(public_from__gte=since) if since else ended
    return Bench.objects.filter(pk__in=late.values("report__study__bench"))


def withdrawn_editions() -> QuerySet[Edition]:
    """Those whose addresses say that they were withdrawn."""
    return Edition.objects.select_related("report").exclude(withdrawn=None)


def newest_of_each() -> list[Edition]:
    """The newest public edition of every report, the newest first."""
    first: dict[int, Edition] = {}
    for edition in public_editions():
        found = first.get(edition.report_id)
        if found is None or edition.number > found.number:
            first[edition.report_id] = edition
    return sorted(first.values(), key=lambda e: (e.published, e.pk), reverse=True)


def newest_edition(slug: str) -> Edition | None:
    """The public edition that a report's address leads to."""
    return public_editions().filter(report__slug=slug).order_by("-number").first()


def corrections_list(report: Report, number: int) -> list[dict[str, object]]:
    """What is known by now to be wrong in an edition, where it was put right."""
    later = public_editions().filter(report=report).values("number")
    rows = report.corrections.filter(edition=number, corrected_in__in=later)
    return [
        {
            "where": c.where,
            "text": c.text,
            "anchor": c.anchor,
            "corrected_in": c.corrected_in,
        }
        for c in rows
    ]


def edition_at(slug: str, number: int) -> Edition | None:
    """An edition by its address, public or not."""
    rows = Edition.objects.select_related("report__study__bench")
    return rows.filter(report__slug=slug, number=number).first()


def original_of(edition: Edition, name: str) -> StoredFile | None:
    """One original of an edition by its name in the download; None where it offers
    none of that name.
    """
    entry = next((e for e in edition.manifest if e["name"] == name and "sha256" in e), None)
    return StoredFile.objects.filter(pk=entry["sha256"]).first() if entry else None


def editions_list(report: Report) -> list[dict[str, object]]:
    """A report's public editions as readers' pages ask for them, the newest first."""
    return [
        {
            "number": e.number,
            "note": e.note,
            "published": e.published.isoformat(),
            "address": e.address,
        }
        for e in public_editions().filter(report=report).order_by("-number")
    ]


def edition_sizes() -> list[int]:
    """The bytes of every file of every edition."""
    told = Edition.objects.values_list("files", flat=True)
    return [part["size"] for files in told for part in files]


def later_than(edition: Edition) -> dict[str, object]:
    """What an edition's page asks for: the one thing beside it that grows."""
    return {
        "editions": editions_list(edition.report),
        "corrections": corrections_list(edition.report, edition.number),
    }


def address_of(report: Report, number: int) -> str:
    """An edition's whole address for readers; none where nobody told the site's."""
    return f"{settings.ADDRESS}/reports/{report.slug}/{number}/" if settings.ADDRESS else ""


def commands_of(study: Study) -> list[str]:
    """The releases whose commands an edition of this study publishes, by tool and name."""
    used = Release.objects.filter(steps__treatment__contenders__study=study)
    told = used.filter(command__isnull=False).select_related("tool")
    return sorted({f"{r.tool.name} {r.name}" for r in told if r.command})
