"""The cell of one contender and one frame."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.requests import valid
from glenhail.server.common.uploads import uploaded
from glenhail.server.material.api.views import MULTIPART
from glenhail.server.material.queries import find_frame
from glenhail.server.outputs.actions import cells
from glenhail.server.studies import queries


class AbsenceIn(serializers.Serializer[Any]):
    absence = serializers.CharField(max_length=300)


class OutputView(APIView):
    """The cell of one contender and one frame."""

    @extend_schema(operation_id="output_bring_in", request=MULTIPART, responses={204: None})
    def post(self, request: Request, contender_id: int, frame_id: int) -> Response:
        stream, name = uploaded(request)
        contender, frame = (
            queries.find_contender(request.user, contender_id),
            find_frame(request.user, frame_id),
        )
        cells.bring_in(request.user, contender, frame, stream, name)
        return Response(status=204)

    @extend_schema(operation_id="output_tell_absence", request=AbsenceIn, responses={204: None})
    def put(self, request: Request, contender_id: int, frame_id: int) -> Response:
        contender, frame = (
            queries.find_contender(request.user, contender_id),
            find_frame(request.user, frame_id),
        )
        cells.tell_absence(request.user, contender, frame, valid(AbsenceIn, request)["absence"])
        return Response(status=204)

    @extend_schema(operation_id="output_take_out", responses={204: None})
    def delete(self, request: Request, contender_id: int, frame_id: int) -> Response:
        contender, frame = (
            queries.find_contender(request.user, contender_id),
            find_frame(request.user, frame_id),
        )
        cells.empty_cell(request.user, contender, frame)
        return Response(status=204)
