"""From rows to the shapes of `shapes`: plain dictionaries, no rules."""

from __future__ import annotations

from typing import Any

from glenhail.core.answers.ranking import RULE
from glenhail.core.measures.catalogue import MEASURES, concerns
from glenhail.server.accounts.permissions import Actor, membership
from glenhail.server.material.models import PictureState
from glenhail.server.studies import queries
from glenhail.server.studies.api import shapes
from glenhail.server.studies.audit import tones_of
from glenhail.server.studies.models import Kind, LineUp, Output, Study


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
    outputs = queries.outputs(study)
    lineups, tones = queries.lineups(outputs), tones_of(outputs)
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
        "readings_there": queries.current_readings(study).count(),
        "readings_wanted": queries.expected_readings(study),
        "matched": study.matched,
    }
    return shapes.StudyOut(whole).data


def _output(output: Output, lineup: LineUp | None, tone: dict[str, Any] | None) -> dict[str, Any]:
    state, problem = queries.output_state(output, lineup)
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


def readings(study: Study) -> Any:
    """All current readings, with the table of measures they belong to."""
    rows = [_reading(r) for r in queries.ranked_readings(study)]
    # Thousands of rows that are in `shapes.ReadingOut`'s form already: going through it took half
    # of the answer's time.
    return {
        "there": len(rows),
        "wanted": queries.expected_readings(study),
        "rule_of_ranks": RULE,
        "measures": shapes.MeasureOut(list(MEASURES.values()), many=True).data,
        "readings": rows,
    }


def _reading(ranked: queries.Ranked) -> dict[str, Any]:
    r, place = ranked.reading, ranked.place
    return {
        "id": r.pk,
        "contender": r.output.contender_id,
        "frame": r.output.frame_id,
        "patch": r.patch_id,
        "measure": r.measure,
        "basis": r.basis or "as made",
        "value": r.value,
        "low": r.low,
        "high": r.high,
        "unit": r.unit,
        "version": r.version,
        "grid": r.grid,
        "reason": r.reason,
        "concerns": concerns(r.reason),
        "rank": place.rank if place else None,
        "tied": bool(place and place.tied),
        "unsure": bool(place and place.unsure),
    }
