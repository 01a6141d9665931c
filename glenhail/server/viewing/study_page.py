"""A study as its list and its page show it."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, F, Max, OuterRef, QuerySet, Subquery
from django.db.models.functions import Coalesce

from glenhail.server.accounts.models import Bench
from glenhail.server.accounts.permissions import Actor, membership
from glenhail.server.material.models import PictureState
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.models import LineUp
from glenhail.server.measuring.queries import tones_of
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.models import Output
from glenhail.server.studies import queries
from glenhail.server.studies.models import Kind, Patch, Study
from glenhail.server.viewing.api import shapes as page_shapes

ENTERED = (Kind.TREATMENT, Kind.BODY)


def rows(bench: Bench) -> list[dict[str, Any]]:
    """A bench's studies for their list, the newest first; a fixed number of queries
    whatever their count.
    """
    outputs = Output.objects.filter(
        contender__study=OuterRef("pk"), contender__kind__in=ENTERED
    ).order_by()
    patches = Patch.objects.filter(study=OuterRef("pk")).order_by()
    found = queries.studies_of(bench).annotate(
        outputs_there=_count(outputs, "contender__study"),
        patch_count=_count(patches, "study"),
        edition=Max("report__editions__number"),
        slug=F("report__slug"),
    )
    return [_row(study) for study in found]


def _count(of: QuerySet[Any], by: str) -> Any:
    return Coalesce(Subquery(of.values(by).annotate(n=Count("pk")).values("n")), 0)


def _row(study: Any) -> dict[str, Any]:
    frames = [sf.frame for sf in study.study_frames.all()]
    treatments = [c for c in study.contenders.all() if c.kind in ENTERED]
    return {
        "id": study.pk,
        "question": study.question,
        "factor": study.factor,
        "created": study.created,
        "archived": study.archived is not None,
        "contenders": list(study.contenders.all()),
        "frames": len(frames),
        "patches": study.patch_count,
        "outputs_there": study.outputs_there,
        "outputs_wanted": len(treatments) * len(frames),
        "edition": study.edition,
        "slug": study.slug or "",
        "cover": next((f.picture for f in frames if f.picture.state == PictureState.READY), None),
    }


def study_page(study: Study, actor: Actor) -> Any:
    """A study's page."""
    outputs = outputs_queries.outputs(study)
    lineups, tones = measuring_queries.lineups(outputs), tones_of(outputs)
    report = getattr(study, "report", None)
    whole = {
        "id": study.pk,
        "question": study.question,
        "factor": study.factor,
        "role": membership(actor).role,
        "frames": [sf.frame for sf in queries.study_frames(study)],
        "contenders": list(queries.contenders().filter(study=study)),
        "outputs": [_output(o, lineups.get(o.pk), tones.get(o.pk)) for o in outputs],
        "patches": study.patches.all(),
        "verdicts": study.verdicts.count(),
        "editions": report.editions.count() if report else 0,
        "readings_there": measuring_queries.current_readings(study).count(),
        "readings_wanted": measuring_queries.expected_readings(study, outputs, lineups),
        "matched": study.matched,
    }
    return page_shapes.StudyOut(whole).data


def _output(output: Output, lineup: LineUp | None, tone: dict[str, Any] | None) -> dict[str, Any]:
    state, problem = measuring_queries.output_state(output, lineup)
    return {
        "id": output.pk,
        "contender_id": output.contender_id,
        "frame_id": output.frame_id,
        "state": state,
        "file_name": output.file_name,
        "problem": problem,
        "picture": output.picture,
        "made_here": output.made_with is not None,
        "preview": output.preview,
        "preview_told": output.preview_told,
        "lineup": lineup if lineup and not lineup.refused else None,
        "tone": tone,
    }
