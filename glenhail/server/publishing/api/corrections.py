"""Corrections of published editions."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.requests import valid
from glenhail.server.publishing.actions.corrections import Place, correct, drop_correction
from glenhail.server.publishing.models import Correction
from glenhail.server.publishing.queries import corrections, find_correction, measures_read
from glenhail.server.studies.queries import find_study


class CorrectionIn(serializers.Serializer[Any]):
    """About a ``block``, or a ``patch`` and, if it is one number, its measure and
    letter.
    """

    edition = serializers.IntegerField(min_value=1, max_value=1_000_000)
    block = serializers.CharField(max_length=20, allow_blank=True, default="")
    patch = serializers.IntegerField(allow_null=True, default=None, max_value=2**31 - 1)
    measure = serializers.CharField(max_length=40, allow_blank=True, default="")
    letter = serializers.CharField(max_length=1, allow_blank=True, default="")
    text = serializers.CharField(max_length=2000)


class CorrectionOut(serializers.ModelSerializer[Correction]):
    author = serializers.CharField(source="author.username", default="", read_only=True)

    class Meta:
        model = Correction
        fields = ["id", "edition", "where", "text", "corrected_in", "author", "created"]
        read_only_fields = fields


class PrintedMeasureOut(serializers.Serializer[Any]):
    id = serializers.CharField()
    name = serializers.CharField()


class CorrectionsOut(serializers.Serializer[Any]):
    """``measures`` are those that a single wrong number may be of."""

    corrections = CorrectionOut(many=True)
    measures = PrintedMeasureOut(many=True)


class CorrectionsView(APIView):
    """A report's corrections."""

    @extend_schema(operation_id="corrections_list", responses=CorrectionsOut)
    def get(self, request: Request, study_id: int) -> Response:
        study = find_study(request.user, study_id)
        whole = {"corrections": corrections(study), "measures": measures_read(study)}
        return Response(CorrectionsOut(whole).data)

    @extend_schema(
        operation_id="correction_add", request=CorrectionIn, responses={201: CorrectionOut}
    )
    def post(self, request: Request, study_id: int) -> Response:
        study, told = find_study(request.user, study_id), valid(CorrectionIn, request)
        edition, text = told.pop("edition"), told.pop("text")
        made = correct(request.user, study, edition, Place(**told), text)
        return Response(CorrectionOut(made).data, status=201)


class CorrectionView(APIView):
    """One correction."""

    @extend_schema(operation_id="correction_remove", responses={204: None})
    def delete(self, request: Request, study_id: int, number: int) -> Response:
        study = find_study(request.user, study_id)
        drop_correction(request.user, find_correction(study, number))
        return Response(status=204)
