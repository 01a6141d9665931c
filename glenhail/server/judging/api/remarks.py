"""Remarks."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.looking.remark_kinds import RemarkKind
from glenhail.server.common.requests import valid
from glenhail.server.judging.actions import remarks
from glenhail.server.judging.models import Remark
from glenhail.server.judging.queries import find_remark, remarks_of
from glenhail.server.material.queries import find_frame
from glenhail.server.studies.queries import find_study

KINDS = [k.value for k in RemarkKind]


class RemarkSaidIn(serializers.Serializer[Any]):
    """What a remark says; no contender means all of them."""

    kind = serializers.ChoiceField(choices=KINDS)
    text = serializers.CharField(max_length=400, allow_blank=True, default="")
    contenders = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=2**31), max_length=40, default=list
    )


class RemarkIn(RemarkSaidIn):
    """Where it stands as well, frame px."""

    frame = serializers.IntegerField(min_value=1, max_value=2**31)
    x = serializers.FloatField()
    y = serializers.FloatField()


class RemarkOut(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    number = serializers.IntegerField()
    frame = serializers.IntegerField(source="frame_id")
    x = serializers.FloatField()
    y = serializers.FloatField()
    kind = serializers.ChoiceField(choices=KINDS)
    text = serializers.CharField()
    of_all = serializers.BooleanField()
    contenders = serializers.SerializerMethodField()
    author = serializers.SerializerMethodField()
    created = serializers.DateTimeField()

    def get_contenders(self, remark: Remark) -> list[int]:
        """Ids, in the study's order."""
        return [c.pk for c in remark.contenders.all()]

    def get_author(self, remark: Remark) -> str:
        """Who placed it; nothing of an account that is gone."""
        return remark.author.get_username() if remark.author else ""


def _said(given: dict[str, Any]) -> remarks.Said:
    return remarks.Said(RemarkKind(given["kind"]), given["text"], given["contenders"])


class RemarksView(APIView):
    """A study's remarks."""

    @extend_schema(operation_id="remarks_list", responses=RemarkOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        rows = remarks_of(find_study(request.user, study_id))
        return Response(RemarkOut(rows, many=True).data)

    @extend_schema(operation_id="remark_place", request=RemarkIn, responses={201: RemarkOut})
    def post(self, request: Request, study_id: int) -> Response:
        given = valid(RemarkIn, request)
        study = find_study(request.user, study_id)
        frame = find_frame(request.user, given["frame"])
        remark = remarks.place_remark(
            request.user, study, frame, given["x"], given["y"], _said(given)
        )
        return Response(RemarkOut(remark).data, status=201)


class RemarkView(APIView):
    """One remark."""

    @extend_schema(operation_id="remark_change", request=RemarkSaidIn, responses=RemarkOut)
    def put(self, request: Request, remark_id: int) -> Response:
        given = valid(RemarkSaidIn, request)
        remark = find_remark(request.user, remark_id)
        return Response(RemarkOut(remarks.change_remark(request.user, remark, _said(given))).data)

    @extend_schema(operation_id="remark_remove", responses={204: None})
    def delete(self, request: Request, remark_id: int) -> Response:
        remarks.remove_remark(request.user, find_remark(request.user, remark_id))
        return Response(status=204)
