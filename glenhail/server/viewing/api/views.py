"""Tiles for the wall and the close look, originals and exports, and previews of
degradations.
"""

from __future__ import annotations

from pathlib import PurePosixPath
from typing import Any

from django.core.files.storage import storages
from django.http import FileResponse, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.errors import BadRequest
from glenhail.core.files.encoding import png_bytes, webp_bytes
from glenhail.core.files.pyramid import level_count
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import ActionError, Conflict, Missing
from glenhail.server.material import exports
from glenhail.server.material.actions.degrading import read_recipes
from glenhail.server.material.models import PictureState
from glenhail.server.material.queries import find_frame
from glenhail.server.viewing.again import made_again
from glenhail.server.viewing.crops import crop_codes, thumb_codes
from glenhail.server.viewing.permissions import name_at, visible_copies, visible_picture
from glenhail.server.viewing.preview import preview_png
from glenhail.server.viewing.tiles import tile

FOR_EVER = "private, max-age=31536000, immutable"


class TileView(APIView):
    """One lossless tile. A picture's tiles never change, so the browser keeps them."""

    @extend_schema(operation_id="tile", responses={(200, "image/png"): OpenApiTypes.BINARY})
    def get(
        self, request: Request, picture_id: int, level: int, column: int, row: int
    ) -> HttpResponse:
        path = visible_copies(request.user, picture_id).pyramid
        with made_again(request.user, lambda: visible_picture(request.user, picture_id)):
            data = tile(path, level, column, row)
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": FOR_EVER})


class PartView(APIView):
    """A part of a picture at full size, lossless: a crop of a wall costs no more."""

    @extend_schema(operation_id="part", responses={(200, "image/png"): OpenApiTypes.BINARY})
    def get(
        self, request: Request, picture_id: int, x: int, y: int, w: int, h: int
    ) -> HttpResponse:
        copies = visible_copies(request.user, picture_id)
        rect = copies.part(x, y, w, h)
        with made_again(request.user, lambda: visible_picture(request.user, picture_id)):
            data = png_bytes(crop_codes(copies.pyramid, rect), 6)
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": FOR_EVER})


class ThumbView(APIView):
    """The whole picture small, for lists."""

    @extend_schema(operation_id="thumb", responses={(200, "image/webp"): OpenApiTypes.BINARY})
    def get(self, request: Request, picture_id: int) -> HttpResponse:
        copies = visible_copies(request.user, picture_id)
        if not copies.width:
            raise Missing("This picture is not taken in yet.")
        with made_again(request.user, lambda: visible_picture(request.user, picture_id)):
            codes = thumb_codes(copies.pyramid, level_count(copies.width, copies.height))
        return HttpResponse(
            webp_bytes(codes), content_type="image/webp", headers={"Cache-Control": FOR_EVER}
        )


class OriginalView(APIView):
    """A file as it came, for members of the bench; it is sent as a download and never
    shown by the browser.
    """

    @extend_schema(
        operation_id="original", responses={(200, "application/octet-stream"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request, picture_id: int) -> FileResponse:
        picture = visible_picture(request.user, picture_id)
        stream = storages["originals"].open(picture.file.path)
        return FileResponse(
            stream,
            as_attachment=True,
            filename=name_at(request.user, picture),
            content_type="application/octet-stream",
        )


class ExportOut(serializers.Serializer[Any]):
    """Whether the file can be had; where not, it is being made."""

    ready = serializers.BooleanField()


class ExportView(APIView):
    """A picture as 16-bit TIFF or PNG: what is measured, in a form that every tool
    takes.
    """

    @extend_schema(operation_id="export_ask", request=None, responses=ExportOut)
    def post(self, request: Request, picture_id: int, ending: str) -> Response:
        picture = visible_picture(request.user, picture_id)
        bench, name = membership(request.user).bench, name_at(request.user, picture)
        return Response(
            {"ready": exports.ask_for_export(request.user, bench, picture, name, ending)}
        )

    @extend_schema(
        operation_id="export_get",
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, picture_id: int, ending: str) -> FileResponse:
        picture = visible_picture(request.user, picture_id)
        path = exports.export_path(picture, ending)
        if not storages["derived"].exists(path):
            raise Missing("This picture was not made into that yet.")
        name = f"{PurePosixPath(name_at(request.user, picture)).stem}-16bit.{ending}"
        return FileResponse(
            storages["derived"].open(path),
            as_attachment=True,
            filename=name,
            content_type="application/octet-stream",
        )


class PreviewIn(serializers.Serializer[Any]):
    """A recipe, and a place of the frame in px."""

    recipe = serializers.JSONField()
    x = serializers.FloatField()
    y = serializers.FloatField()


class PreviewView(APIView):
    """What a recipe does around a place of a frame."""

    @extend_schema(
        operation_id="degrade_preview",
        request=PreviewIn,
        responses={(200, "image/png"): OpenApiTypes.BINARY},
    )
    def post(self, request: Request, frame_id: int) -> HttpResponse:
        given = PreviewIn(data=request.data)
        given.is_valid(raise_exception=True)
        frame = find_frame(request.user, frame_id)
        if frame.pristine.state != PictureState.READY:
            raise Conflict(f"{frame} is not ready yet.")
        recipe = read_recipes(given.validated_data["recipe"])[0]
        try:
            with made_again(request.user, lambda: frame.pristine):
                data = preview_png(
                    frame.pristine, recipe, given.validated_data["x"], given.validated_data["y"]
                )
        except BadRequest as error:
            raise ActionError(str(error)) from error
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": "no-store"})
