"""Tiles for the wall and the close look, and one picture's local statistics."""

from __future__ import annotations

from django.db.models import Q
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import Missing
from glenhail.server.material.models import Picture
from glenhail.server.viewing.tiles import tile

FOR_EVER = "private, max-age=31536000, immutable"


class TileView(APIView):
    """One lossless tile. A picture's tiles never change, so the browser keeps them."""

    @extend_schema(operation_id="tile", responses={(200, "image/png"): OpenApiTypes.BINARY})
    def get(self, request: Request, picture_id: int, level: int, column: int, row: int) -> HttpResponse:
        bench = membership(request.user).bench
        mine = Q(frames__bench=bench) | Q(truth_of__bench=bench) | Q(outputs__frame__bench=bench)
        picture = Picture.objects.filter(mine, pk=picture_id).first()
        if picture is None:
            raise Missing("There is no such picture.")
        data = tile(picture.pyramid, level, column, row)
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": FOR_EVER})
