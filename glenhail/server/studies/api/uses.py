"""Uses: where pictures are seen."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.execution.video import why_no_video
from glenhail.core.uses.table import Use
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.requests import valid
from glenhail.server.studies.actions import uses as actions
from glenhail.server.studies.uses import OWN, find_own_use, use_of, uses_of


class OwnUseIn(serializers.Serializer[Any]):
    """A use of one's own; ``part`` is the share of the sides that is shown."""

    name = serializers.CharField(max_length=80)
    width = serializers.IntegerField()
    height = serializers.IntegerField()
    enlarge = serializers.BooleanField(default=False)
    jpeg = serializers.IntegerField(allow_null=True, default=None)
    ppi = serializers.FloatField()
    distance_cm = serializers.FloatField()
    part = serializers.FloatField(default=1.0)


class ViewingUse(OwnUseIn):
    """A use; ``row`` is what an own one is taken away by, ``why_not`` why it can not be
    had on this machine.
    """

    id = serializers.CharField()
    row = serializers.SerializerMethodField()
    video_mbit = serializers.FloatField(allow_null=True)
    pixels_per_degree = serializers.FloatField()
    why_not = serializers.SerializerMethodField()

    def get_row(self, use: Use) -> int | None:
        """The row's id."""
        return int(use.id.removeprefix(OWN)) if use.id.startswith(OWN) else None

    def get_why_not(self, use: Use) -> str:
        """A sentence with the remedy; nothing where it can be had."""
        return why_no_video() if use.video_mbit is not None else ""


class UsesView(APIView):
    """All that the bench chooses from."""

    @extend_schema(operation_id="uses_list", responses=ViewingUse(many=True))
    def get(self, request: Request) -> Response:
        return Response(ViewingUse(uses_of(membership(request.user).bench), many=True).data)

    @extend_schema(operation_id="use_add", request=OwnUseIn, responses={201: ViewingUse})
    def post(self, request: Request) -> Response:
        bench = membership(request.user).bench
        row = actions.add_use(request.user, bench, valid(OwnUseIn, request))
        return Response(ViewingUse(use_of(row)).data, status=201)


class UseView(APIView):
    """One of a bench's own."""

    @extend_schema(operation_id="use_remove", responses={204: None})
    def delete(self, request: Request, use_id: int) -> Response:
        actions.remove_use(request.user, find_own_use(request.user, use_id))
        return Response(status=204)
