"""What readers would ask of a study's report as it stands now."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db.models import Min
from django.utils import timezone

from glenhail.core.articles.questions import Draft, Question, questions
from glenhail.server.audit.study_audit import study_audit
from glenhail.server.judging.evidence import StudyEvidence
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.publishing.inquiries import old_inquiries
from glenhail.server.publishing.queries import comments_of, report_of
from glenhail.server.publishing.series import out_of_date
from glenhail.server.studies import queries
from glenhail.server.studies.models import Study
from glenhail.server.tools.models import Tool

Document = dict[str, Any]


def asked_of(study: Study, told: Sequence[Document]) -> list[Question]:
    """What a reader would ask, with where it is answered; ``told`` are the readings
    that its texts ask for (`values_told`).
    """
    report = report_of(study)
    tools = Tool.objects.filter(releases__steps__treatment__contenders__study=study)
    priced = tools.annotate(oldest=Min("prices__checked")).filter(oldest__isnull=False)
    draft = Draft(
        today=timezone.now().date(),
        open_findings=len(study_audit(study).open),
        summary=report.summary,
        method=report.method,
        disclosure=report.disclosure,
        verdicts=tuple((v.use, v.text) for v in study.verdicts.all()),
        letters=frozenset(
            o.contender.letter for o in outputs_queries.outputs(study) if o.picture is not None
        ),
        unlicensed=_unlicensed(study),
        open_comments=comments_of(study).filter(settled=None).count(),
        otherwise=tuple(row["warning"] for row in told if row["warning"]),
        against_evidence=_against_evidence(study),
        old_series=out_of_date(study),
        old_answers=old_inquiries(study),
        prices=tuple((t.name, t.oldest) for t in priced.order_by("name").distinct()),
    )
    return questions(draft)


def _against_evidence(study: Study) -> tuple[tuple[str, str], ...]:
    marked = [v for v in study.verdicts.all() if v.marks]
    found = StudyEvidence(study).asked(marked) if marked else []
    return tuple((v.use, text) for v, asked in zip(marked, found, strict=True) for text in asked)


def _unlicensed(study: Study) -> tuple[str, ...]:
    frames = [sf.frame for sf in queries.study_frames(study)]
    own = [c for c in study.contenders.all() if c.terms.told and not c.terms.complete]
    return (
        *(f.name for f in frames if not f.terms.complete),
        *(f"the outputs of {c.letter}" for c in own),
    )
