"""Earlier states of a report under work."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.publishing.api.views import ReportIn
from glenhail.server.publishing.models import ReportVersion
from glenhail.server.publishing.queries import find_version, versions_of
from glenhail.server.studies.queries import find_study


class VersionOut(serializers.ModelSerializer[ReportVersion]):
    """``auto`` where the page saved by itself, from ``created`` to ``saved``."""

    author = serializers.CharField(source="author.username", default="", read_only=True)

    class Meta:
        model = ReportVersion
        fields = ["id", "author", "auto", "created", "saved"]
        read_only_fields = fields


class VersionsView(APIView):
    """All of them, the newest first."""

    @extend_schema(operation_id="report_versions", responses=VersionOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        study = find_study(request.user, study_id)
        return Response(VersionOut(versions_of(study), many=True).data)


class VersionView(APIView):
    """What one of them says."""

    @extend_schema(operation_id="report_version", responses=ReportIn)
    def get(self, request: Request, study_id: int, version_id: int) -> Response:
        version = find_version(find_study(request.user, study_id), version_id)
        return Response(ReportIn(version.texts).data)
