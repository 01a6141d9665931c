"""A frame's outputs as layers of one file."""

from __future__ import annotations

from pathlib import PurePosixPath
from typing import Any

from django.core.files.storage import storages
from django.http import FileResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.files.layers import MEDIA_TYPE
from glenhail.server.common.errors import Missing
from glenhail.server.material.queries import find_frame
from glenhail.server.studies import queries
from glenhail.server.viewing import layers

GRID = OpenApiParameter(
    "grid",
    enum=layers.GRIDS,
    default="frame",
    description="size of the layers: the frame's, or the largest output's",
)


class LayersOut(serializers.Serializer[Any]):
    """Whether the file can be had; where not, it is being put together."""

    ready = serializers.BooleanField()


class LayersView(APIView):
    """A frame's outputs as one OpenRaster file, a named layer for each."""

    @extend_schema(operation_id="layers_ask", parameters=[GRID], request=None, responses=LayersOut)
    def post(self, request: Request, study_id: int, frame_id: int) -> Response:
        study, frame = (
            queries.find_study(request.user, study_id),
            find_frame(request.user, frame_id),
        )
        ready = layers.ask_for_layers(
            request.user, study, frame, request.query_params.get("grid", "frame")
        )
        return Response({"ready": ready})

    @extend_schema(
        operation_id="layers_get",
        parameters=[GRID],
        responses={(200, MEDIA_TYPE): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, study_id: int, frame_id: int) -> FileResponse:
        study, frame = (
            queries.find_study(request.user, study_id),
            find_frame(request.user, frame_id),
        )
        path = layers.layers_path(study, frame, request.query_params.get("grid", "frame"))
        if not storages["derived"].exists(path):
            raise Missing(f"The layers of {frame} are not put together yet.")
        name = f"{PurePosixPath(frame.file_name).stem}-layers.ora"
        return FileResponse(
            storages["derived"].open(path),
            as_attachment=True,
            filename=name,
            content_type=MEDIA_TYPE,
        )
