"""Known degradations."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema, inline_serializer
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.degrade.steps import STEPS, StepKind
from glenhail.core.parameters import Choice, Number
from glenhail.server.accounts.permissions import membership
from glenhail.server.material.actions import degrading, frames


class ParameterOut(serializers.Serializer[Any]):
    """A number within bounds, or one of several words."""

    name = serializers.CharField()
    title = serializers.CharField()
    unit = serializers.CharField()
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    whole = serializers.BooleanField()
    among = serializers.ListField(child=serializers.CharField())
    usual = serializers.JSONField()


class StepKindOut(serializers.Serializer[Any]):
    """A kind of step: what it does and what it asks for."""

    id = serializers.CharField()
    title = serializers.CharField()
    does = serializers.CharField()
    parameters = ParameterOut(many=True)


class SweepIn(serializers.Serializer[Any]):
    step = serializers.IntegerField(min_value=0)
    parameter = serializers.CharField()
    values = serializers.ListField(child=serializers.FloatField(), min_length=1)


class DegradeIn(serializers.Serializer[Any]):
    """A recipe, and where wanted the values that one of its numbers runs through."""

    recipe = serializers.JSONField()
    sweep = SweepIn(required=False, allow_null=True)


def _parameter(p: Number | Choice) -> dict[str, Any]:
    told: dict[str, Any] = {"name": p.name, "title": p.title, "usual": p.usual}
    if isinstance(p, Number):
        return told | {"unit": p.unit, "low": p.low, "high": p.high, "whole": p.whole, "among": []}
    return told | {"unit": "", "low": None, "high": None, "whole": False, "among": list(p.among)}


def _kind(kind: StepKind) -> dict[str, Any]:
    parameters = [_parameter(p) for p in kind.parameters]
    return {"id": kind.id, "title": kind.title, "does": kind.does, "parameters": parameters}


class StepKindsView(APIView):
    """All kinds of steps."""

    @extend_schema(operation_id="degradation_steps", responses=StepKindOut(many=True))
    def get(self, request: Request) -> Response:
        membership(request.user)
        return Response(StepKindOut([_kind(k) for k in STEPS.values()], many=True).data)


class DegradeView(APIView):
    """Frames made from a clean one."""

    @extend_schema(
        operation_id="frame_degrade",
        request=DegradeIn,
        responses={202: inline_serializer("DegradeOut", {"jobs": serializers.IntegerField(), "words": serializers.CharField()})},
    )
    def post(self, request: Request, frame_id: int) -> Response:
        given = DegradeIn(data=request.data)
        given.is_valid(raise_exception=True)
        recipes = degrading.read_recipes(given.validated_data["recipe"], given.validated_data.get("sweep"))
        jobs = degrading.ask_for(request.user, frames.find_frame(request.user, frame_id), recipes)
        return Response({"jobs": len(jobs), "words": recipes[0].words()}, status=202)
