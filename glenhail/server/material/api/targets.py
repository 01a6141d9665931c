"""Target sheets."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.errors import BadRequest
from glenhail.core.targets.fields import KINDS
from glenhail.core.targets.layout import sheet_of
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import ActionError
from glenhail.server.material.actions import targets
from glenhail.server.material.actions.frames import ask_for_target
from glenhail.server.material.api.parameters import StepKindOut, kind_out
from glenhail.server.material.api.truths import QueuedOut
from glenhail.server.material.api.views import PictureOut
from glenhail.server.material.models import Target
from glenhail.server.material.queries import find_frame, find_target, targets_of
from glenhail.server.material.sheets import preview_png


class TargetIn(serializers.Serializer[Any]):
    """A name, and the sheet: width, height, blur and fields."""

    name = serializers.CharField(max_length=100)
    sheet = serializers.JSONField()


class TargetOut(serializers.ModelSerializer[Target]):
    frame = serializers.IntegerField(source="frame_id", allow_null=True)
    picture = PictureOut(source="frame.picture", allow_null=True, default=None)
    words = serializers.SerializerMethodField()
    found = serializers.IntegerField(read_only=True, default=0)

    class Meta:
        model = Target
        fields = ["id", "name", "sheet", "number", "words", "frame", "picture", "found", "created"]
        read_only_fields = fields

    def get_words(self, target: Target) -> list[str]:
        try:
            return [f.words() for f in sheet_of(target.sheet).fields]
        except BadRequest as error:  # bounds changed since it was made; it stays what it is
            return [str(error)]


class SheetPreviewIn(serializers.Serializer[Any]):
    sheet = serializers.JSONField()


class FieldKindsView(APIView):
    """All kinds of fields."""

    @extend_schema(operation_id="target_fields", responses=StepKindOut(many=True))
    def get(self, request: Request) -> Response:
        membership(request.user)
        return Response(StepKindOut([kind_out(k) for k in KINDS.values()], many=True).data)


class TargetsView(APIView):
    """All targets of the bench."""

    @extend_schema(operation_id="targets_list", responses=TargetOut(many=True))
    def get(self, request: Request) -> Response:
        return Response(TargetOut(targets_of(membership(request.user).bench), many=True).data)

    @extend_schema(operation_id="target_make", request=TargetIn, responses={201: TargetOut})
    def post(self, request: Request) -> Response:
        given = TargetIn(data=request.data)
        given.is_valid(raise_exception=True)
        sheet = targets.read_sheet_of(given.validated_data["sheet"])
        target = targets.make_target(
            request.user, membership(request.user).bench, given.validated_data["name"], sheet
        )
        return Response(TargetOut(target).data, status=201)


class TargetView(APIView):
    """One target."""

    @extend_schema(operation_id="target_remove", responses={204: None})
    def delete(self, request: Request, target_id: int) -> Response:
        targets.remove_target(request.user, find_target(request.user, target_id))
        return Response(status=204)


class SheetPreviewView(APIView):
    """What a sheet would look like, reduced."""

    @extend_schema(
        operation_id="target_preview",
        request=SheetPreviewIn,
        responses={(200, "image/png"): OpenApiTypes.BINARY},
    )
    def post(self, request: Request) -> HttpResponse:
        membership(request.user)
        given = SheetPreviewIn(data=request.data)
        given.is_valid(raise_exception=True)
        try:
            data = preview_png(targets.read_sheet_of(given.validated_data["sheet"]))
        except BadRequest as error:
            raise ActionError(str(error)) from error
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": "no-store"})


class LookView(APIView):
    """Looking for targets in every frame without one."""

    @extend_schema(operation_id="targets_look", request=None, responses={202: QueuedOut})
    def post(self, request: Request) -> Response:
        return Response(
            {"jobs": targets.look_everywhere(request.user, membership(request.user).bench)},
            status=202,
        )


class FrameLookView(APIView):
    """Looking for a target in one frame, again."""

    @extend_schema(operation_id="target_look", request=None, responses={202: QueuedOut})
    def post(self, request: Request, frame_id: int) -> Response:
        ask_for_target(request.user, find_frame(request.user, frame_id))
        return Response({"jobs": 1}, status=202)
