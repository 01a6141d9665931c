"""Readings with ranks, as JSON and as CSV, and what stands behind one."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.answers.ranking import RULE
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring import tables
from glenhail.server.measuring.api import shapes as measuring_shapes
from glenhail.server.outputs.queries import outputs
from glenhail.server.studies import queries
from glenhail.server.studies.models import Study


def readings(study: Study) -> Any:
    """All current readings, with the table of measures they belong to."""
    rows = [_reading(r) for r in measuring_queries.ranked_readings(study)]
    made = outputs(study)
    # Thousands of rows that are in `ReadingOut`'s form already: going through it took half
    # of the answer's time.
    return {
        "there": len(rows),
        "wanted": measuring_queries.expected_readings(study, made, measuring_queries.lineups(made)),
        "rule_of_ranks": RULE,
        "measures": measuring_shapes.MeasureOut(list(MEASURES.values()), many=True).data,
        "readings": rows,
    }


def _reading(ranked: measuring_queries.Ranked) -> dict[str, Any]:
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
        "concerns": r.concerns,
        "rank": place.rank if place else None,
        "tied": bool(place and place.tied),
        "unsure": bool(place and place.unsure),
    }


class ReadingsView(APIView):
    """A study's readings with ranks."""

    @extend_schema(operation_id="readings_list", responses=measuring_shapes.ReadingsOut)
    def get(self, request: Request, study_id: int) -> Response:
        return Response(readings(queries.find_study(request.user, study_id)))


class ReadingsCsvView(APIView):
    """The same as CSV."""

    @extend_schema(operation_id="readings_csv", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, study_id: int) -> HttpResponse:
        text = tables.readings_csv(
            measuring_queries.ranked_readings(queries.find_study(request.user, study_id))
        )
        headers = {"Content-Disposition": f'attachment; filename="study-{study_id}-readings.csv"'}
        return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


class ReadingView(APIView):
    """One reading with what stands behind it."""

    @extend_schema(operation_id="reading_read", responses=measuring_shapes.ReadingDetail)
    def get(self, request: Request, reading_id: int) -> Response:
        row = measuring_queries.find_reading(request.user, reading_id)
        return Response(measuring_shapes.ReadingDetail(row).data)
