"""Tools by name, so that a reviewer need not type them twice."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.tools.models import Tool


class ToolOut(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    name = serializers.CharField()
    releases = serializers.SerializerMethodField()

    def get_releases(self, tool: Tool) -> list[str]:
        return [r.name for r in tool.releases.all()]


class StepOut(serializers.Serializer[Any]):
    """A step as its reviewer told it."""

    tool = serializers.CharField(source="release.tool.name", max_length=80)
    release = serializers.CharField(source="release.name", max_length=40, allow_blank=True)
    mode = serializers.CharField(max_length=80, allow_blank=True)
    settings = serializers.CharField(max_length=300, allow_blank=True)
    automatic = serializers.BooleanField()


class ToolsView(APIView):
    """All tools of the bench."""

    @extend_schema(operation_id="tools_list", responses=ToolOut(many=True))
    def get(self, request: Request) -> Response:
        tools = Tool.objects.filter(bench=membership(request.user).bench).prefetch_related("releases")
        return Response(ToolOut(tools, many=True).data)
