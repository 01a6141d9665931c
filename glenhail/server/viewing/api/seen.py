"""Outputs as they are seen in uses."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.outputs.queries import find_output
from glenhail.server.studies.uses import find_use
from glenhail.server.viewing.api.views import FOR_EVER
from glenhail.server.viewing.seen import path_of, seen_output
from glenhail.server.viewing.tiles import tile

USE = OpenApiParameter("use", str, required=True)
CENTRE = [
    OpenApiParameter(
        name, float, default=0.5, description="of the part that a use shows, a share of the side"
    )
    for name in ("x", "y")
]


class AsSeenOut(serializers.Serializer[Any]):
    """How large it is, px, and which part of the output's pixels it shows: x, y, w, h."""

    key = serializers.CharField()
    width = serializers.IntegerField()
    height = serializers.IntegerField()
    levels = serializers.IntegerField()
    part = serializers.ListField(child=serializers.FloatField(), min_length=4, max_length=4)
    size_bytes = serializers.IntegerField(allow_null=True)


class SeenOut(serializers.Serializer[Any]):
    """What there is to be seen; nothing while it is being made."""

    seen = AsSeenOut(allow_null=True)


class SeenView(APIView):
    """An output as it is seen in a use; asking has it made."""

    @extend_schema(operation_id="seen_read", parameters=[USE, *CENTRE], responses=SeenOut)
    def get(self, request: Request, output_id: int) -> Response:
        output = find_output(request.user, output_id)
        use = find_use(output.contender.study.bench, request.query_params.get("use", ""))
        centre = _share(request, "x"), _share(request, "y")
        return Response(SeenOut({"seen": seen_output(output, use, centre)}).data)


class SeenTileView(APIView):
    """One lossless tile of it."""

    @extend_schema(operation_id="seen_tile", responses={(200, "image/png"): OpenApiTypes.BINARY})
    def get(
        self, request: Request, output_id: int, key: str, level: int, column: int, row: int
    ) -> HttpResponse:
        picture = find_output(request.user, output_id).picture
        if picture is None:
            raise Missing("There is no picture of this output.")
        data = tile(path_of(picture, key), level, column, row)
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": FOR_EVER})


def _share(request: Request, name: str) -> float:
    told = request.query_params.get(name, "0.5")
    try:
        share = float(told)
    except ValueError:
        share = -1.0
    if not 0 <= share <= 1:
        raise ActionError(f"“{name}” is a share of the side, from 0 to 1; not {told}.")
    return share
