"""Studies, their frames, contenders, outputs, patches and readings."""

from __future__ import annotations

from django.db import transaction
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.picture import Rect
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import membership, require
from glenhail.server.common.errors import Missing
from glenhail.server.common.requests import valid
from glenhail.server.common.uploads import uploaded
from glenhail.server.common.versions import require_current
from glenhail.server.material.actions.frames import find_frame
from glenhail.server.material.api.views import MULTIPART
from glenhail.server.studies import queries, tables
from glenhail.server.studies.actions import contenders, patches
from glenhail.server.studies.actions import study as actions
from glenhail.server.studies.api import present, shapes
from glenhail.server.studies.models import Patch, Reading
from glenhail.server.tools.api.shapes import TreatmentShape
from glenhail.server.tools.api.views import told_treatment


class StudiesView(APIView):
    """All studies of the bench."""

    @extend_schema(operation_id="studies_list", responses=shapes.StudyRow(many=True))
    def get(self, request: Request) -> Response:
        studies = queries.studies_of(membership(request.user).bench)
        return Response(shapes.StudyRow([present.row(s) for s in studies], many=True).data)

    @extend_schema(
        operation_id="study_create", request=shapes.StudyIn, responses={201: shapes.StudyNew}
    )
    def post(self, request: Request) -> Response:
        given = valid(shapes.StudyIn, request)
        study = actions.create_study(request.user, membership(request.user).bench, **given)
        return Response(shapes.StudyNew(study).data, status=201)


class StudyView(APIView):
    """One study."""

    @extend_schema(operation_id="study_read", responses=shapes.StudyOut)
    def get(self, request: Request, study_id: int) -> Response:
        return Response(
            present.study_page(queries.find_study(request.user, study_id), request.user)
        )

    @extend_schema(operation_id="study_change", request=shapes.StudyIn, responses=shapes.StudyNew)
    def patch(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        return Response(
            shapes.StudyNew(
                actions.change_study(request.user, study, **valid(shapes.StudyIn, request))
            ).data
        )

    @extend_schema(operation_id="study_remove", responses={204: None})
    def delete(self, request: Request, study_id: int) -> Response:
        actions.remove_study(request.user, queries.find_study(request.user, study_id))
        return Response(status=204)


class StudyFramesView(APIView):
    """Taking a frame into a study."""

    @extend_schema(operation_id="study_take_frame", request=shapes.FrameRef, responses={204: None})
    def post(self, request: Request, study_id: int) -> Response:
        frame = find_frame(request.user, valid(shapes.FrameRef, request)["frame"])
        actions.take_frame(request.user, queries.find_study(request.user, study_id), frame)
        return Response(status=204)


class StudyFrameView(APIView):
    """A frame's place in a study."""

    @extend_schema(operation_id="study_leave_frame", responses={204: None})
    def delete(self, request: Request, study_id: int, frame_id: int) -> Response:
        actions.leave_frame(
            request.user,
            queries.find_study(request.user, study_id),
            find_frame(request.user, frame_id),
        )
        return Response(status=204)


class ContendersView(APIView):
    """Entering a treatment."""

    @extend_schema(
        operation_id="contender_enter", request=TreatmentShape, responses={201: shapes.ContenderOut}
    )
    def post(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        made = contenders.enter_contender(
            request.user, study, told_treatment(valid(TreatmentShape, request))
        )
        return Response(shapes.ContenderOut(made).data, status=201)


class ContenderView(APIView):
    """One contender."""

    @extend_schema(
        operation_id="contender_change", request=TreatmentShape, responses=shapes.ContenderOut
    )
    def put(self, request: Request, contender_id: int) -> Response:
        contender = contenders.find_contender(request.user, contender_id)
        told = told_treatment(valid(TreatmentShape, request))
        return Response(
            shapes.ContenderOut(contenders.change_contender(request.user, contender, told)).data
        )

    @extend_schema(operation_id="contender_withdraw", responses={204: None})
    def delete(self, request: Request, contender_id: int) -> Response:
        contenders.withdraw_contender(
            request.user, contenders.find_contender(request.user, contender_id)
        )
        return Response(status=204)


class OutputView(APIView):
    """The cell of one contender and one frame."""

    @extend_schema(operation_id="output_bring_in", request=MULTIPART, responses={204: None})
    def post(self, request: Request, contender_id: int, frame_id: int) -> Response:
        stream, name = uploaded(request)
        contender, frame = (
            contenders.find_contender(request.user, contender_id),
            find_frame(request.user, frame_id),
        )
        contenders.bring_in(request.user, contender, frame, stream, name)
        return Response(status=204)

    @extend_schema(
        operation_id="output_tell_absence", request=shapes.AbsenceIn, responses={204: None}
    )
    def put(self, request: Request, contender_id: int, frame_id: int) -> Response:
        contender, frame = (
            contenders.find_contender(request.user, contender_id),
            find_frame(request.user, frame_id),
        )
        contenders.tell_absence(
            request.user, contender, frame, valid(shapes.AbsenceIn, request)["absence"]
        )
        return Response(status=204)

    @extend_schema(operation_id="output_take_out", responses={204: None})
    def delete(self, request: Request, contender_id: int, frame_id: int) -> Response:
        contender, frame = (
            contenders.find_contender(request.user, contender_id),
            find_frame(request.user, frame_id),
        )
        contenders.empty_cell(request.user, contender, frame)
        return Response(status=204)


class PatchesView(APIView):
    """Drawing a patch."""

    @extend_schema(
        operation_id="patch_draw", request=shapes.NewPatchIn, responses={201: shapes.PatchOut}
    )
    def post(self, request: Request, study_id: int) -> Response:
        given = valid(shapes.NewPatchIn, request)
        study, frame = (
            queries.find_study(request.user, study_id),
            find_frame(request.user, given["frame"]),
        )
        rect = Rect(given["x"], given["y"], given["w"], given["h"])
        patch = patches.draw_patch(request.user, study, frame, given["name"], given["role"], rect)
        return Response(shapes.PatchOut(patch).data, status=201)


class TargetPatchesView(APIView):
    """Patches over the fields of the target found in a frame."""

    @extend_schema(
        operation_id="patches_of_target", request=None, responses={201: shapes.PatchOut(many=True)}
    )
    def post(self, request: Request, study_id: int, frame_id: int) -> Response:
        study, frame = (
            queries.find_study(request.user, study_id),
            find_frame(request.user, frame_id),
        )
        drawn = patches.draw_target_patches(request.user, study, frame)
        return Response(shapes.PatchOut(drawn, many=True).data, status=201)


class PatchView(APIView):
    """One patch."""

    @extend_schema(operation_id="patch_change", request=shapes.PatchIn, responses=shapes.PatchOut)
    def put(self, request: Request, patch_id: int) -> Response:
        given = valid(shapes.PatchIn, request)
        rect = Rect(given["x"], given["y"], given["w"], given["h"])
        patch = queries.find_patch(request.user, patch_id)
        with transaction.atomic():
            require_current(request, Patch.objects.select_for_update().get(pk=patch.pk).drawn)
            patch = patches.change_patch(request.user, patch, given["name"], given["role"], rect)
        return Response(shapes.PatchOut(patch).data)

    @extend_schema(operation_id="patch_remove", responses={204: None})
    def delete(self, request: Request, patch_id: int) -> Response:
        patches.remove_patch(request.user, queries.find_patch(request.user, patch_id))
        return Response(status=204)


class ReadingsView(APIView):
    """A study's readings with ranks."""

    @extend_schema(operation_id="readings_list", responses=shapes.ReadingsOut)
    def get(self, request: Request, study_id: int) -> Response:
        return Response(present.readings(queries.find_study(request.user, study_id)))


class ReadingsCsvView(APIView):
    """The same as CSV."""

    @extend_schema(operation_id="readings_csv", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, study_id: int) -> HttpResponse:
        text = tables.readings_csv(
            queries.ranked_readings(queries.find_study(request.user, study_id))
        )
        headers = {"Content-Disposition": f'attachment; filename="study-{study_id}-readings.csv"'}
        return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


class ReadingView(APIView):
    """One reading with what stands behind it."""

    @extend_schema(operation_id="reading_read", responses=shapes.ReadingDetail)
    def get(self, request: Request, reading_id: int) -> Response:
        row = (
            Reading.objects.select_related("output__contender__study__bench")
            .filter(pk=reading_id)
            .first()
        )
        if row is None:
            raise Missing("This reading was taken again meanwhile. Reload the page.")
        require(request.user, row.output.contender.study.bench, Role.VIEWER)
        return Response(shapes.ReadingDetail(row).data)
