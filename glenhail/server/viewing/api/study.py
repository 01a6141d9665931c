"""All studies of a bench, and one with everything that its stages show."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.common.requests import valid
from glenhail.server.studies import queries
from glenhail.server.studies.actions import study as study_actions
from glenhail.server.studies.api import shapes
from glenhail.server.viewing import study_page
from glenhail.server.viewing.api import shapes as page_shapes


class StudiesView(APIView):
    """All studies of the bench."""

    @extend_schema(operation_id="studies_list", responses=page_shapes.StudyRow(many=True))
    def get(self, request: Request) -> Response:
        rows = study_page.rows(membership(request.user).bench)
        return Response(page_shapes.StudyRow(rows, many=True).data)

    @extend_schema(
        operation_id="study_create", request=shapes.StudyIn, responses={201: shapes.StudyNew}
    )
    def post(self, request: Request) -> Response:
        given = valid(shapes.StudyIn, request)
        study = study_actions.create_study(request.user, membership(request.user).bench, **given)
        return Response(shapes.StudyNew(study).data, status=201)


class StudyView(APIView):
    """One study."""

    @extend_schema(operation_id="study_read", responses=page_shapes.StudyOut)
    def get(self, request: Request, study_id: int) -> Response:
        return Response(
            study_page.study_page(queries.find_study(request.user, study_id), request.user)
        )

    @extend_schema(operation_id="study_change", request=shapes.StudyIn, responses=shapes.StudyNew)
    def patch(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        return Response(
            shapes.StudyNew(
                study_actions.change_study(request.user, study, **valid(shapes.StudyIn, request))
            ).data
        )

    @extend_schema(operation_id="study_remove", responses={204: None})
    def delete(self, request: Request, study_id: int) -> Response:
        study_actions.remove_study(request.user, queries.find_study(request.user, study_id))
        return Response(status=204)
