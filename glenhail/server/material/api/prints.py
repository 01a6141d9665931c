"""What a print of a picture takes."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.prints import print_plan, print_said
from glenhail.server.common.query import number
from glenhail.server.material.api.views import PrintOut

MOST = 1_000_000  # px a side
NUMBERS = {"width": 6000.0, "height": 4000.0, "ppi": 300.0, "longer_cm": 60.0, "distance_cm": 60.0}


class PrintPlanOut(serializers.Serializer[Any]):
    """A print at a resolution, what a wanted size takes, and what is seen of it."""

    size = PrintOut()
    longer_cm = serializers.FloatField()
    factor = serializers.FloatField()
    wanted_ppi = serializers.FloatField()
    distance_cm = serializers.FloatField()
    per_degree = serializers.FloatField()
    lost = serializers.FloatField()
    nearest_cm = serializers.FloatField()
    said = serializers.ListField(child=serializers.CharField())


class PrintView(APIView):
    """What a print of so many pixels takes: reckoned, of no picture in particular."""

    @extend_schema(
        operation_id="print_plan",
        parameters=[OpenApiParameter(name, float) for name in NUMBERS],
        responses=PrintPlanOut,
    )
    def get(self, request: Request) -> Response:
        told = {name: number(request, name, usual) for name, usual in NUMBERS.items()}
        width, height = (min(MOST, max(1, round(told.pop(k)))) for k in ("width", "height"))
        plan = print_plan(width, height, **told)
        return Response(PrintPlanOut({**asdict(plan), "said": print_said(plan)}).data)
