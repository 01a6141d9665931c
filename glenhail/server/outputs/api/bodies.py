"""Other bodies with shots of a study’s scenes."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.requests import valid
from glenhail.server.outputs.actions import bodies
from glenhail.server.studies import queries
from glenhail.server.studies.api import shapes


class BodyAtHandOut(serializers.Serializer[Any]):
    """Another body with shots of the study's scenes, and of how many of its frames."""

    body = serializers.CharField()
    frames = serializers.IntegerField()


class EnterBodyIn(serializers.Serializer[Any]):
    body = serializers.CharField(max_length=80)


class StudyBodiesView(APIView):
    """Other bodies with shots of the study's scenes; entering one."""

    @extend_schema(operation_id="study_bodies", responses=BodyAtHandOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        found = bodies.bodies_at_hand(queries.find_study(request.user, study_id))
        return Response(
            BodyAtHandOut(
                [{"body": name, "frames": count} for name, count in found], many=True
            ).data
        )

    @extend_schema(
        operation_id="study_enter_body", request=EnterBodyIn, responses={201: shapes.ContenderOut}
    )
    def post(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        made = bodies.enter_body(request.user, study, valid(EnterBodyIn, request)["body"])
        return Response(shapes.ContenderOut(made).data, status=201)
