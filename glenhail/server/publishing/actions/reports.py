"""Writing the report and publishing editions of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Any

from django.db import transaction
from django.utils import timezone
from django.utils.text import slugify

from glenhail.core.articles.dates import minute
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.models import ACTIVE, Job
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.publishing import proofs
from glenhail.server.publishing.article import checked
from glenhail.server.publishing.blocks import CHART, FIGURE, TABLE, complete, with_taken
from glenhail.server.publishing.models import RESERVED, Report
from glenhail.server.publishing.own_figures import (
    checked_figure,
    on_page,
    proposed_caption,
)
from glenhail.server.publishing.own_tables import checked_table
from glenhail.server.publishing.said import values_told
from glenhail.server.publishing.versions import keep_version, texts_of
from glenhail.server.studies.models import Kind, Study
from glenhail.server.studies.uses import find_use


def report_of(study: Study) -> Report:
    """A study's report; its address is made from the question once and then stays."""
    found = Report.objects.filter(study=study).first()
    if found is not None:
        return found
    stem = slugify(study.question)[:60].strip("-") or "study"
    free = stem not in RESERVED and not Report.objects.filter(slug=stem).exists()
    slug = stem if free else f"{stem}-{study.pk}"
    return Report.objects.get_or_create(study=study, defaults={"slug": slug})[0]


@transaction.atomic
def write_report(
    actor: Actor,
    study: Study,
    summary: str,
    method: str,
    disclosure: str,
    blocks: Sequence[dict[str, Any]] | None = None,
    auto: bool = False,
) -> Report:
    """Change the article under work; published editions do not change with it, and what
    it was is kept as a version.

    Without `blocks` these stay as they are; with `auto` nobody asked for it, and what
    one person goes on with is one version.
    """
    require(actor, study.bench, Role.EDITOR)
    report = report_of(study)
    before = texts_of(report)
    report.summary, report.method, report.disclosure = (
        summary.strip(),
        method.strip(),
        disclosure.strip(),
    )
    if blocks is not None:
        report.blocks = checked(study, blocks, report.blocks)
    report.save()
    if keep_version(actor, report, before, auto) or not auto:
        record(actor, study.bench, "write report", study)
    return report


@transaction.atomic
def take_figure(
    actor: Actor, study: Study, view: dict[str, Any], trim: bool = False
) -> dict[str, Any]:
    """Take what is seen on the wall or in the close look into the report as a figure,
    with a caption that its author may change; returns its block.

    With `trim` it is what stands whole on a page at the view's magnification, else all
    of it, as large as it fits. What is `seen_as` a use of the bench keeps that use.
    """
    require(actor, study.bench, Role.EDITOR)
    seen_as = view.pop("seen_as", "")
    if seen_as:
        view = {**view, "use": asdict(find_use(study.bench, seen_as))}
    figure = checked_figure(study, on_page(study, view) if trim else view)
    block = {"kind": FIGURE, "text": proposed_caption(study, figure), "figure": figure}
    return _taken(actor, study, block)


@transaction.atomic
def take_table(actor: Actor, study: Study, kind: str, told: dict[str, Any]) -> dict[str, Any]:
    """Take readings that are seen among the numbers into the report as a table or a
    chart; returns its block.

    Raises
    ------
    ActionError
        If it is neither, or there is no number to show.
    """
    require(actor, study.bench, Role.EDITOR)
    if kind not in (TABLE, CHART):
        raise ActionError("Readings come into the report as a table or as a chart.")
    table = checked_table(study, told)
    if not (table["measures"] and table["places"] and table["letters"]):
        raise ActionError("There is no number in what is shown. Choose others.")
    return _taken(actor, study, {"kind": kind, "text": "", "table": table})


def _taken(actor: Actor, study: Study, block: dict[str, Any]) -> dict[str, Any]:
    """Put a block that is checked already into the report."""
    report = report_of(study)
    before, texts = complete(report.blocks), texts_of(report)
    report.blocks = checked(study, with_taken(before, block), [*before, block])
    report.save()
    keep_version(actor, report, texts)
    record(actor, study.bench, "write report", study)
    return block


@transaction.atomic
def publish(
    actor: Actor,
    study: Study,
    note: str,
    public_from: datetime | None = None,
    clips: str = "none",
    layers: bool = False,
) -> Job:
    """Fix what the next edition says, and queue its printing; until `public_from`
    nobody but the bench reads it. It comes with `clips` of none, the first, the
    author's own or all of its figures, and each frame's `layers` as one file.

    Raises
    ------
    ActionError
        If there is nothing to show, a further edition comes without a note on what
        changed, or before an earlier one is public.
    Conflict
        If readings are still being taken, or an edition is being printed.
    """
    require(actor, study.bench, Role.OWNER)
    report = Report.objects.select_for_update().get(pk=report_of(study).pk)
    number = (report.editions.order_by("-number").values_list("number", flat=True).first() or 0) + 1
    note = note.strip()[:400]
    missing = what_is_missing(study, values_told(study))
    if missing:
        raise ActionError(missing)
    if number > 1 and not note:
        raise ActionError(
            f"Edition {number} needs a note: say what changed since edition {number - 1}."
        )
    held = report.editions.filter(withdrawn=None, public_from__gt=public_from or timezone.now())
    for earlier in held:
        assert earlier.public_from is not None
        raise ActionError(
            f"Edition {earlier.number} is not public before {minute(earlier.public_from)}. Publish"
            " the next one from then on, or withdraw that one."
        )
    busy = Job.objects.filter(study_id=study.pk, state__in=ACTIVE).first()
    if busy is not None:
        raise Conflict(f"Work is still going on: {busy.label}. Publish when it is done.")
    proof = proofs.fix(actor, report, number, note, public_from, {"clips": clips, "layers": layers})
    record(actor, study.bench, "publish", f"{study}, edition {number}, {proof.sha256[:12]}")
    return enqueue(
        study.bench,
        "publish",
        f"publish:{report.pk}",
        f"Preparing edition {number}",
        {"proof": proof.pk},
        study.pk,
    )


def what_is_missing(study: Study, told: Sequence[dict[str, Any]]) -> str:
    """What keeps a study from being published, or an empty text; ``told`` are the
    readings that its texts ask for (`values_told`).
    """
    if not study.study_frames.exists():
        return "There is no frame yet. Add one under Set up."
    if not study.patches.exists():
        return "There is no patch yet. Draw at least one under Compare."
    rows = outputs_queries.outputs(study)
    lineups = measuring_queries.lineups(rows)
    if not any(
        o.contender.kind in (Kind.TREATMENT, Kind.BODY)
        and measuring_queries.output_state(o, lineups.get(o.pk))[0] == "ready"
        for o in rows
    ):
        return "No contender's output is ready. Bring one in first."
    states = (measuring_queries.output_state(o, lineups.get(o.pk)) for o in rows)
    trouble = next((problem for state, problem in states if state == "ready" and problem), "")
    if trouble:
        return f"Not everything was measured. {trouble} Retry that, or take the output out."
    return next((row["problem"] for row in told if row["problem"]), "")


def on_study_removing(sender: object, study: Study, **_: object) -> None:
    """A study goes with its unpublished report, and stays with what was published.

    Raises
    ------
    ActionError
        If there are editions.
    """
    report = Report.objects.filter(study=study).first()
    if report is None:
        return
    if report.editions.exists():
        raise ActionError(
            f"“{study}” has published editions, which never go away. It stays with them."
        )
    report.delete()
