"""Tiles for the wall and the close look."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from glenhail.server.viewing.permissions import visible_pyramid
from glenhail.server.viewing.tiles import tile

FOR_EVER = "private, max-age=31536000, immutable"


class TileView(APIView):
    """One lossless tile. A picture's tiles never change, so the browser keeps them."""

    @extend_schema(operation_id="tile", responses={(200, "image/png"): OpenApiTypes.BINARY})
    def get(self, request: Request, picture_id: int, level: int, column: int, row: int) -> HttpResponse:
        data = tile(visible_pyramid(request.user, picture_id), level, column, row)
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": FOR_EVER})
