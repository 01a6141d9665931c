"""Known degradations."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema, inline_serializer
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.degrade.steps import STEPS
from glenhail.server.accounts.permissions import membership
from glenhail.server.material.actions import degrading
from glenhail.server.material.api.parameters import StepKindOut, kind_out
from glenhail.server.material.queries import find_frame


class SweepIn(serializers.Serializer[Any]):
    step = serializers.IntegerField(min_value=0)
    parameter = serializers.CharField()
    values = serializers.ListField(child=serializers.FloatField(), min_length=1)


class DegradeIn(serializers.Serializer[Any]):
    """A recipe, and where wanted the values that one of its numbers runs through."""

    recipe = serializers.JSONField()
    sweep = SweepIn(required=False, allow_null=True)


class StepKindsView(APIView):
    """All kinds of steps."""

    @extend_schema(operation_id="degradation_steps", responses=StepKindOut(many=True))
    def get(self, request: Request) -> Response:
        membership(request.user)
        return Response(StepKindOut([kind_out(k) for k in STEPS.values()], many=True).data)


class DegradeView(APIView):
    """Frames made from a clean one."""

    @extend_schema(
        operation_id="frame_degrade",
        request=DegradeIn,
        responses={
            202: inline_serializer(
                "DegradeOut", {"jobs": serializers.IntegerField(), "words": serializers.CharField()}
            )
        },
    )
    def post(self, request: Request, frame_id: int) -> Response:
        given = DegradeIn(data=request.data)
        given.is_valid(raise_exception=True)
        recipes = degrading.read_recipes(
            given.validated_data["recipe"], given.validated_data.get("sweep")
        )
        jobs = degrading.ask_for(request.user, find_frame(request.user, frame_id), recipes)
        return Response({"jobs": len(jobs), "words": recipes[0].words()}, status=202)
