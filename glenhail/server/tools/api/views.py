"""Tools, their releases, the built-in methods, and treatments kept for reuse."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.conf import settings
from django.db import transaction
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.errors import BadRequest
from glenhail.core.execution.command import allowed
from glenhail.core.execution.fence import why_open
from glenhail.core.methods.catalogue import METHODS
from glenhail.core.treatments.step import Treatment as Told
from glenhail.core.treatments.step import treatment_of
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import ActionError
from glenhail.server.common.locks import locked
from glenhail.server.common.requests import valid
from glenhail.server.common.versions import require_current, tagged
from glenhail.server.tools import comparison
from glenhail.server.tools.actions import tools as actions
from glenhail.server.tools.actions import treatments
from glenhail.server.tools.api import shapes
from glenhail.server.tools.models import Tool
from glenhail.server.tools.queries import find_release, find_tool, saved_treatments, tools_of

WHICH = OpenApiParameter(
    "tools",
    OpenApiTypes.STR,
    description="The tools' ids with commas between them; all where none is told.",
)


def told_treatment(given: dict[str, Any]) -> Told:
    """A treatment out of a request's body."""
    try:
        return treatment_of(given)
    except BadRequest as error:
        raise ActionError(str(error)) from error


class ToolsView(APIView):
    """All tools of the bench."""

    @extend_schema(operation_id="tools_list", responses=shapes.ToolOut(many=True))
    def get(self, request: Request) -> Response:
        return Response(shapes.ToolOut(tools_of(membership(request.user).bench), many=True).data)

    @extend_schema(
        operation_id="tool_write", request=shapes.ToolIn, responses={201: shapes.ToolOut}
    )
    def post(self, request: Request) -> Response:
        facts = valid(shapes.ToolIn, request)
        tool = actions.save_tool(
            request.user, membership(request.user).bench, facts, facts.pop("prices")
        )
        return Response(shapes.ToolOut(tool).data, status=201)


class ToolView(APIView):
    """One tool."""

    @extend_schema(operation_id="tool_read", responses=shapes.ToolOut)
    def get(self, request: Request, tool_id: int) -> Response:
        tool = find_tool(request.user, tool_id)
        return Response(shapes.ToolOut(tool).data, headers=tagged(shapes.tool_facts(tool)))

    @extend_schema(operation_id="tool_change", request=shapes.ToolIn, responses=shapes.ToolOut)
    def put(self, request: Request, tool_id: int) -> Response:
        facts, tool = valid(shapes.ToolIn, request), find_tool(request.user, tool_id)
        with transaction.atomic():
            locked(tool)
            require_current(request, shapes.tool_facts(find_tool(request.user, tool_id)))
            tool = actions.save_tool(request.user, tool.bench, facts, facts.pop("prices"), tool)
        return Response(shapes.ToolOut(tool).data, headers=tagged(shapes.tool_facts(tool)))

    @extend_schema(operation_id="tool_remove", responses={204: None})
    def delete(self, request: Request, tool_id: int) -> Response:
        actions.remove_tool(request.user, find_tool(request.user, tool_id))
        return Response(status=204)


class ReleasesView(APIView):
    """Releases of a tool."""

    @extend_schema(
        operation_id="release_write", request=shapes.ReleaseIn, responses={201: shapes.ReleaseOut}
    )
    def post(self, request: Request, tool_id: int) -> Response:
        tool = find_tool(request.user, tool_id)
        return Response(
            shapes.ReleaseOut(
                actions.save_release(request.user, tool, valid(shapes.ReleaseIn, request))
            ).data,
            status=201,
        )


class ReleaseView(APIView):
    """One release."""

    @extend_schema(
        operation_id="release_change", request=shapes.ReleaseIn, responses=shapes.ReleaseOut
    )
    def put(self, request: Request, release_id: int) -> Response:
        told = valid(shapes.ReleaseIn, request)
        with transaction.atomic():
            locked(find_release(request.user, release_id))
            release = find_release(request.user, release_id)
            require_current(request, shapes.release_facts(release))
            made = actions.save_release(request.user, release.tool, told, release)
        return Response(shapes.ReleaseOut(made).data)

    @extend_schema(operation_id="release_remove", responses={204: None})
    def delete(self, request: Request, release_id: int) -> Response:
        actions.remove_release(request.user, find_release(request.user, release_id))
        return Response(status=204)


class CommandView(APIView):
    """By which allowed program a release is run."""

    @extend_schema(
        operation_id="command_set", request=shapes.CommandShape, responses=shapes.ReleaseOut
    )
    def put(self, request: Request, release_id: int) -> Response:
        release = find_release(request.user, release_id)
        return Response(
            shapes.ReleaseOut(
                actions.set_command(request.user, release, valid(shapes.CommandShape, request))
            ).data
        )

    @extend_schema(operation_id="command_take_away", responses={204: None})
    def delete(self, request: Request, release_id: int) -> Response:
        actions.set_command(request.user, find_release(request.user, release_id), None)
        return Response(status=204)


class ProgramsOut(serializers.Serializer[Any]):
    """`open` says why programs are not shut in on this machine; empty where they are."""

    open = serializers.CharField()
    directory = serializers.CharField()
    programs = serializers.ListField(child=serializers.CharField())


class ProgramsView(APIView):
    """The programs that a release may be run by."""

    @extend_schema(operation_id="programs_list", responses=ProgramsOut)
    def get(self, request: Request) -> Response:
        role = membership(request.user).role
        # Where things lie on the server is for those who put them there.
        directory = str(settings.TOOLS_DIR) if role == Role.OWNER else ""
        told = {"open": why_open(), "directory": directory, "programs": allowed(settings.TOOLS_DIR)}
        return Response(ProgramsOut(told).data)


class MethodsView(APIView):
    """The built-in methods."""

    @extend_schema(operation_id="methods_list", responses=shapes.MethodOut(many=True))
    def get(self, request: Request) -> Response:
        return Response(shapes.MethodOut(list(METHODS.values()), many=True).data)


def _chosen(request: Request) -> Sequence[Tool]:
    """The tools asked for, in the order asked for."""
    told = [
        int(n)
        for n in str(request.query_params.get("tools", "")).split(",")
        if n.strip().isascii() and n.strip().isdecimal()
    ]
    tools = {t.pk: t for t in tools_of(membership(request.user).bench)}
    return [tools[n] for n in told if n in tools] if told else list(tools.values())


class ComparisonView(APIView):
    """Any set of tools by their facts."""

    @extend_schema(operation_id="tools_compare", parameters=[WHICH], responses=shapes.ComparisonOut)
    def get(self, request: Request) -> Response:
        tools = _chosen(request)
        return Response(
            shapes.ComparisonOut(
                {"tools": [t.name for t in tools], "rows": comparison.compared(tools)}
            ).data
        )


class ComparisonCsvView(APIView):
    """The same as CSV."""

    @extend_schema(
        operation_id="tools_compare_csv",
        parameters=[WHICH],
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request) -> HttpResponse:
        headers = {"Content-Disposition": 'attachment; filename="tools.csv"'}
        return HttpResponse(
            comparison.compared_csv(_chosen(request)),
            content_type="text/csv; charset=utf-8",
            headers=headers,
        )


class TreatmentsView(APIView):
    """Treatments kept for reuse."""

    @extend_schema(operation_id="treatments_list", responses=shapes.SavedOut(many=True))
    def get(self, request: Request) -> Response:
        return Response(shapes.SavedOut(saved_treatments(request.user), many=True).data)

    @extend_schema(
        operation_id="treatment_keep", request=shapes.SavedIn, responses={201: shapes.SavedOut}
    )
    def post(self, request: Request) -> Response:
        given = valid(shapes.SavedIn, request)
        bench = membership(request.user).bench
        kept = treatments.save_for_reuse(
            request.user, bench, given["name"], told_treatment(given["treatment"])
        )
        return Response(shapes.SavedOut(kept).data, status=201)


class TreatmentView(APIView):
    """One of them."""

    @extend_schema(operation_id="treatment_forget", responses={204: None})
    def delete(self, request: Request, treatment_id: int) -> Response:
        treatments.forget_saved(request.user, membership(request.user).bench, treatment_id)
        return Response(status=204)
