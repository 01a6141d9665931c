"""Verdicts."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.locks import locked
from glenhail.server.common.requests import valid
from glenhail.server.common.versions import require_current, tagged
from glenhail.server.judging.actions.verdicts import write_verdicts
from glenhail.server.studies.models import Study
from glenhail.server.studies.queries import find_study


class VerdictShape(serializers.Serializer[Any]):
    use = serializers.CharField(max_length=80, allow_blank=True)
    text = serializers.CharField(max_length=400, allow_blank=True)


class VerdictsIn(serializers.Serializer[Any]):
    verdicts = VerdictShape(many=True)


def _told(study: Study) -> list[dict[str, str]]:
    return [{"use": v.use, "text": v.text} for v in study.verdicts.all()]


class VerdictsView(APIView):
    """A study's verdicts by use."""

    @extend_schema(operation_id="verdicts_list", responses=VerdictShape(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        told = _told(find_study(request.user, study_id))
        return Response(told, headers=tagged(told))

    @extend_schema(
        operation_id="verdicts_write", request=VerdictsIn, responses=VerdictShape(many=True)
    )
    def put(self, request: Request, study_id: int) -> Response:
        lines = [(v["use"], v["text"]) for v in valid(VerdictsIn, request)["verdicts"]]
        study = find_study(request.user, study_id)
        with transaction.atomic():
            locked(study)
            require_current(request, _told(study))
            write_verdicts(request.user, study, lines)
        told = _told(study)
        return Response(told, headers=tagged(told))
