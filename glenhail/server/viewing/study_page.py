"""A study as its list and its page show it."""

from __future__ import annotations

from typing import Any

from glenhail.server.accounts.permissions import Actor, membership
from glenhail.server.material.models import PictureState
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.models import LineUp
from glenhail.server.measuring.queries import tones_of
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.models import Output
from glenhail.server.studies import queries
from glenhail.server.studies.models import Kind, Study
from glenhail.server.viewing.api import shapes as page_shapes


def row(study: Study) -> Any:
    """A study for the list."""
    rows = list(study.contenders.all())
    frames = [sf.frame for sf in study.study_frames.all()]
    treatments = [c for c in rows if c.kind in (Kind.TREATMENT, Kind.BODY)]
    there = Output.objects.filter(contender__in=treatments).count()
    report = getattr(study, "report", None)
    newest = report.editions.order_by("-number").first() if report else None
    cover = next((f.picture for f in frames if f.picture.state == PictureState.READY), None)
    return {
        "id": study.pk,
        "question": study.question,
        "factor": study.factor,
        "contenders": rows,
        "frames": len(frames),
        "patches": len(study.patches.all()),
        "outputs_there": there,
        "outputs_wanted": len(treatments) * len(frames),
        "edition": newest.number if newest else None,
        "slug": report.slug if report else "",
        "cover": cover,
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
        "readings_wanted": measuring_queries.expected_readings(study),
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
