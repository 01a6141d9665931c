"""Truths made here."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.material.actions import truths
from glenhail.server.material.queries import find_frame


class QueuedOut(serializers.Serializer[Any]):
    """How many jobs were queued."""

    jobs = serializers.IntegerField()


class TwinsIn(serializers.Serializer[Any]):
    """A base-ISO frame, and those it shall be the truth of."""

    base = serializers.IntegerField()
    frames = serializers.ListField(child=serializers.IntegerField(), min_length=1, max_length=200)


class BurstIn(serializers.Serializer[Any]):
    frames = serializers.ListField(child=serializers.IntegerField(), min_length=1, max_length=200)


class TwinsView(APIView):
    """A base-ISO frame as truth."""

    @extend_schema(operation_id="twins_make", request=TwinsIn, responses={202: QueuedOut})
    def post(self, request: Request) -> Response:
        given = TwinsIn(data=request.data)
        given.is_valid(raise_exception=True)
        base, *others = (
            find_frame(request.user, pk)
            for pk in (given.validated_data["base"], *given.validated_data["frames"])
        )
        return Response({"jobs": len(truths.ask_for_twins(request.user, base, others))}, status=202)


class BurstsView(APIView):
    """The mean of a burst as truth."""

    @extend_schema(operation_id="burst_make", request=BurstIn, responses={202: QueuedOut})
    def post(self, request: Request) -> Response:
        given = BurstIn(data=request.data)
        given.is_valid(raise_exception=True)
        chosen = [
            find_frame(request.user, pk) for pk in sorted(set(given.validated_data["frames"]))
        ]
        truths.ask_for_burst(request.user, chosen)
        return Response({"jobs": 1}, status=202)
