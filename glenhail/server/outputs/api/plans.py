"""Plans: a study from one, and a study's method as one."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.common.uploads import FileForm, uploaded
from glenhail.server.outputs.actions import plans
from glenhail.server.outputs.methods import method_of
from glenhail.server.outputs.models import StudyPlan
from glenhail.server.outputs.queries import find_plan, is_looking, plan_by
from glenhail.server.studies.queries import find_study

TOML = "application/toml"


class StudyPlanOut(serializers.ModelSerializer[StudyPlan]):
    """The plan by which a study was begun: whether its frames are being looked for,
    which of them the bench had not when it last looked (null: not yet), which have
    another truth, and measures of other versions by id.
    """

    missing = serializers.ListField(child=serializers.CharField())
    other_truth = serializers.ListField(child=serializers.CharField())
    other_measures = serializers.SerializerMethodField()
    looking = serializers.SerializerMethodField()

    class Meta:
        model = StudyPlan
        fields = ["study", "name", "missing", "other_truth", "other_measures", "looked", "looking"]
        read_only_fields = ["study", "name", "looked"]

    def get_other_measures(self, row: StudyPlan) -> list[str]:
        return plans.other_measures(row)

    def get_looking(self, row: StudyPlan) -> bool:
        return is_looking(row)


class BegunOut(serializers.Serializer[Any]):
    """``plan`` is null where a study was not begun by one."""

    plan = StudyPlanOut(allow_null=True)


class PlansView(APIView):
    """Studies from plans."""

    @extend_schema(
        operation_id="plan_take",
        request={"multipart/form-data": FileForm},
        responses={201: StudyPlanOut},
    )
    def post(self, request: Request) -> Response:
        file, name = uploaded(request)
        data, bench = file.read(plans.MOST_BYTES + 1), membership(request.user).bench
        row = plans.begin_plan(request.user, bench, data, name)
        return Response(StudyPlanOut(row).data, status=201)


class StudyPlanView(APIView):
    """The plan by which a study was begun."""

    @extend_schema(operation_id="plan_read", responses=BegunOut)
    def get(self, request: Request, study_id: int) -> Response:
        row = plan_by(find_study(request.user, study_id))
        return Response(BegunOut({"plan": row}).data)

    @extend_schema(operation_id="plan_look", request=None, responses={202: StudyPlanOut})
    def post(self, request: Request, study_id: int) -> Response:
        row = find_plan(find_study(request.user, study_id))
        plans.look_for_frames(request.user, row)
        return Response(StudyPlanOut(row).data, status=202)


class MethodView(APIView):
    """A study's method: a plan without frames."""

    @extend_schema(operation_id="method_read", responses={(200, TOML): OpenApiTypes.BINARY})
    def get(self, request: Request, study_id: int) -> HttpResponse:
        study = find_study(request.user, study_id)
        headers = {"Content-Disposition": 'attachment; filename="method.toml"'}
        return HttpResponse(method_of(study), content_type=TOML, headers=headers)
