"""How an output lies on its frame, what examining it found, and points placed by hand."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.requests import valid
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.actions import points
from glenhail.server.measuring.lining import Points, examined_key, points_of
from glenhail.server.outputs.models import Output
from glenhail.server.outputs.queries import find_output


class PointPairShape(serializers.Serializer[Any]):
    """The same place in the frame (x, y) and in the output (u, v), each in its own
    pixels.
    """

    x = serializers.FloatField()
    y = serializers.FloatField()
    u = serializers.FloatField()
    v = serializers.FloatField()


class PointsIn(serializers.Serializer[Any]):
    pairs = serializers.ListField(child=PointPairShape(), max_length=3)


class CellOut(serializers.Serializer[Any]):
    """Where a line-up was measured: the place, what is left over there, and how alike
    the two are; frame px.
    """

    x = serializers.FloatField()
    y = serializers.FloatField()
    dx = serializers.FloatField()
    dy = serializers.FloatField()
    alike = serializers.FloatField()


class RegionOut(serializers.Serializer[Any]):
    """One of 6 x 4 parts of the frame: mean colours in 8-bit codes, EV, and CIEDE2000
    at equal brightness.
    """

    column = serializers.IntegerField()
    row = serializers.IntegerField()
    frame = serializers.ListField(child=serializers.IntegerField())
    output = serializers.ListField(child=serializers.IntegerField())
    stops = serializers.FloatField()
    de00 = serializers.FloatField()
    hue = serializers.CharField()


class HueOut(serializers.Serializer[Any]):
    hue = serializers.CharField()
    areas = serializers.IntegerField()
    chroma = serializers.FloatField()
    turned = serializers.FloatField()
    de00 = serializers.FloatField()


class ValueOut(serializers.Serializer[Any]):
    name = serializers.CharField()
    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class EvidenceOut(serializers.Serializer[Any]):
    """Columns of numbers; the first one is the abscissa."""

    name = serializers.CharField()
    columns = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))


class ExaminationOut(serializers.Serializer[Any]):
    """How an output lies on its frame and what examining it found;

    ``ready`` is false until it was examined.
    """

    output = serializers.IntegerField()
    refused = serializers.CharField()
    ready = serializers.BooleanField()
    turn = serializers.FloatField()
    doubts = serializers.ListField(child=serializers.CharField())
    cells = CellOut(many=True)
    points = PointPairShape(many=True)
    values = ValueOut(many=True)
    curves = EvidenceOut(many=True)
    regions = RegionOut(many=True)
    hues = HueOut(many=True)
    reasons = serializers.DictField(child=serializers.CharField())


class ExaminationView(APIView):
    """What an output's line-up and examination found."""

    @extend_schema(operation_id="examination_read", responses=ExaminationOut)
    def get(self, request: Request, output_id: int) -> Response:
        return Response(ExaminationOut(_examination(find_output(request.user, output_id))).data)


class PointsView(APIView):
    """Points placed by hand, for a line-up to begin from; none take them away."""

    @extend_schema(operation_id="points_place", request=PointsIn, responses={204: None})
    def put(self, request: Request, output_id: int) -> Response:
        points.place_points(
            request.user, find_output(request.user, output_id), valid(PointsIn, request)["pairs"]
        )
        return Response(status=204)


def _examination(output: Output) -> dict[str, Any]:
    row = measuring_queries.lineups([output]).get(output.pk)
    points: Points = []
    told: dict[str, Any] = {}
    if output.picture is not None:
        points = points_of(output.contender.study.bench_id, output.frame.picture, output.picture)
        told = measuring_queries.examination_told(
            examined_key(output.frame.picture, output.picture, points)
        )
    return {
        "output": output.pk,
        "refused": row.refused if row else "",
        "ready": bool(told),
        "turn": row.turn if row else 0.0,
        "doubts": row.doubts if row else [],
        "cells": [
            dict(zip(("x", "y", "dx", "dy", "alike"), c, strict=True))
            for c in (row.cells if row else [])
        ],
        "points": points,
        "values": [
            {"name": n, "value": v[0], "low": v[1], "high": v[2]}
            for n, v in told.get("values", {}).items()
        ],
        "curves": [{"name": n, "columns": c} for n, c in told.get("curves", {}).items()],
        "regions": told.get("regions", []),
        "hues": told.get("hues", []),
        "reasons": told.get("reasons", {}),
    }
