"""Series of a study of bodies, and the sensors of bodies."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import require
from glenhail.server.common.requests import valid
from glenhail.server.material.queries import find_body
from glenhail.server.sensors import pages
from glenhail.server.sensors.actions import measuring, metering, series
from glenhail.server.sensors.api import shapes
from glenhail.server.studies import queries as studies
from glenhail.server.studies.api.shapes import StudyNew


class StudySeriesView(APIView):
    """A study's bodies over ISO."""

    @extend_schema(operation_id="series_read", responses=shapes.SeriesOut)
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        return Response(shapes.SeriesOut(pages.series_page(study)).data)

    @extend_schema(operation_id="series_measure", request=None, responses={204: None})
    def post(self, request: Request, study_id: int) -> Response:
        measuring.ask_for_series(request.user, studies.find_study(request.user, study_id))
        return Response(status=204)


class SeriesLuminanceView(APIView):
    """A spot's luminance by a meter, for saturation-based speed."""

    @extend_schema(
        operation_id="series_luminance", request=shapes.MeteredSpotIn, responses={204: None}
    )
    def put(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        given = valid(shapes.MeteredSpotIn, request)
        told = given["patch"], given["luminance"], given["t_numbers"]
        metering.tell_luminance(request.user, study, *told)
        return Response(status=204)

    @extend_schema(operation_id="series_luminance_forget", responses={204: None})
    def delete(self, request: Request, study_id: int) -> Response:
        metering.forget_luminance(request.user, studies.find_study(request.user, study_id))
        return Response(status=204)


class SeriesScenesView(APIView):
    """Scenes that bodies shot in raw, and taking one's series into the study."""

    @extend_schema(operation_id="series_scenes", responses=shapes.SeriesSceneOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        return Response(shapes.SeriesSceneOut(pages.scenes_at_hand(study.bench), many=True).data)

    @extend_schema(operation_id="series_take", request=shapes.SeriesTakeIn, responses=StudyNew)
    def post(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        given = valid(shapes.SeriesTakeIn, request)
        series.take_series(request.user, study, given["scene"], given["bodies"])
        return Response(StudyNew(study).data)


class BodyMeasuredView(APIView):
    """A body's sensor by its raw files."""

    @extend_schema(operation_id="body_measured", responses=shapes.SensorMeasuredOut)
    def get(self, request: Request, body_id: int) -> Response:
        body = find_body(request.user, body_id)
        return Response(shapes.SensorMeasuredOut(pages.sensor_page(body)).data)

    @extend_schema(operation_id="body_measure", request=None, responses={204: None})
    def post(self, request: Request, body_id: int) -> Response:
        measuring.ask_for_sensor(request.user, find_body(request.user, body_id))
        return Response(status=204)
