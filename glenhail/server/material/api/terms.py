"""Licence, source and credit of frames."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.articles.licences import LICENCES, Terms
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.requests import valid
from glenhail.server.material.actions.terms import tell_terms


class TermsShape(serializers.Serializer[Any]):
    """Licence (the id of one that is listed), source and credit; empty: not told."""

    licence = serializers.CharField(max_length=40, allow_blank=True)
    source = serializers.CharField(max_length=400, allow_blank=True)  # type: ignore[assignment]
    credit = serializers.CharField(max_length=200, allow_blank=True)


def told_terms(given: dict[str, Any]) -> Terms:
    """Terms as a request tells them."""
    return Terms(given["licence"], given["source"], given["credit"])


class FrameTermsIn(TermsShape):
    frames = serializers.ListField(child=serializers.IntegerField(), min_length=1, max_length=500)


class LicenceOut(serializers.Serializer[Any]):
    """``passed_on`` and ``changed``: whether others may get the file, and what was made
    from it.
    """

    id = serializers.CharField()
    title = serializers.CharField()
    address = serializers.CharField()
    passed_on = serializers.BooleanField()
    changed = serializers.BooleanField()


class LicencesView(APIView):
    """All licences."""

    @extend_schema(operation_id="licences_list", responses=LicenceOut(many=True))
    def get(self, request: Request) -> Response:
        membership(request.user)
        return Response(LicenceOut(LICENCES.values(), many=True).data)


class FrameTermsView(APIView):
    """The terms of several frames."""

    @extend_schema(operation_id="frames_terms", request=FrameTermsIn, responses={204: None})
    def post(self, request: Request) -> Response:
        given = valid(FrameTermsIn, request)
        tell_terms(request.user, given["frames"], told_terms(given))
        return Response(status=204)
