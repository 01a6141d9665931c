"""Verdicts."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.requests import valid
from glenhail.server.judging.actions.verdicts import write_verdicts
from glenhail.server.studies.queries import find_study


class VerdictShape(serializers.Serializer[Any]):
    use = serializers.CharField(max_length=80, allow_blank=True)
    text = serializers.CharField(max_length=400, allow_blank=True)


class VerdictsIn(serializers.Serializer[Any]):
    verdicts = VerdictShape(many=True)


class VerdictsView(APIView):
    """A study's verdicts by use."""

    @extend_schema(operation_id="verdicts_list", responses=VerdictShape(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        return Response(VerdictShape(find_study(request.user, study_id).verdicts.all(), many=True).data)

    @extend_schema(operation_id="verdicts_write", request=VerdictsIn, responses=VerdictShape(many=True))
    def put(self, request: Request, study_id: int) -> Response:
        lines = [(v["use"], v["text"]) for v in valid(VerdictsIn, request)["verdicts"]]
        rows = write_verdicts(request.user, find_study(request.user, study_id), lines)
        return Response(VerdictShape(rows, many=True).data)
