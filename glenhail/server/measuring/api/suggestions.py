"""Patches that a frame suggests by itself."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import require
from glenhail.server.common.query import whole_number
from glenhail.server.material.queries import find_frame
from glenhail.server.measuring import answers
from glenhail.server.measuring.actions.suggestions import ask_suggestions
from glenhail.server.measuring.queries import suggested_of
from glenhail.server.studies import queries


class SuggestionOut(serializers.Serializer[Any]):
    role = serializers.CharField()
    x = serializers.FloatField()
    y = serializers.FloatField()
    w = serializers.FloatField()
    h = serializers.FloatField()
    reason = serializers.CharField()
    not_in = serializers.ListField(child=serializers.CharField(), default=list)


class SuggestionsOut(serializers.Serializer[Any]):
    """``ready`` once the frame was looked through;

    ``not_in`` are contenders of the study whose outputs do not show a place.
    """

    ready = serializers.BooleanField()
    suggestions = SuggestionOut(many=True)


OF_STUDY = OpenApiParameter(
    "study", int, description="Say which of its contenders do not show a place."
)


class SuggestionsView(APIView):
    """Patches that a frame suggests by itself."""

    @extend_schema(operation_id="suggestions_read", parameters=[OF_STUDY], responses=SuggestionsOut)
    def get(self, request: Request, frame_id: int) -> Response:
        frame = find_frame(request.user, frame_id)
        row = suggested_of(frame)
        told = whole_number(request, "study")
        study = None if told is None else queries.find_study(request.user, told)
        made = (
            answers.shown_in(study, frame, row.made) if study and row else (row.made if row else [])
        )
        return Response(SuggestionsOut({"ready": row is not None, "suggestions": made}).data)

    @extend_schema(operation_id="suggestions_ask", request=None, responses={204: None})
    def post(self, request: Request, frame_id: int) -> Response:
        frame = find_frame(request.user, frame_id)
        require(request.user, frame.bench, Role.EDITOR)
        ask_suggestions(frame)
        return Response(status=204)
