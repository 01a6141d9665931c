"""Frames, contenders and patches of a study."""

from __future__ import annotations

from django.db import transaction
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.picture import Rect
from glenhail.server.common.locks import locked
from glenhail.server.common.requests import valid
from glenhail.server.common.versions import require_current
from glenhail.server.material.api.terms import TermsShape, told_terms
from glenhail.server.material.queries import find_frame
from glenhail.server.studies import queries
from glenhail.server.studies.actions import contenders, patches
from glenhail.server.studies.actions import study as study_actions
from glenhail.server.studies.api import shapes
from glenhail.server.tools.api.shapes import TreatmentShape
from glenhail.server.tools.api.views import told_treatment


class SpreadView(APIView):
    """A patch drawn again on the other frames of its scene."""

    @extend_schema(
        operation_id="patch_spread", request=None, responses={201: shapes.PatchOut(many=True)}
    )
    def post(self, request: Request, patch_id: int) -> Response:
        drawn = patches.spread_patch(request.user, queries.find_patch(request.user, patch_id))
        return Response(shapes.PatchOut(drawn, many=True).data, status=201)


class StudyCopiesView(APIView):
    """Another study with the same set-up."""

    @extend_schema(operation_id="study_duplicate", request=None, responses={201: shapes.StudyNew})
    def post(self, request: Request, study_id: int) -> Response:
        copy = study_actions.duplicate_study(
            request.user, queries.find_study(request.user, study_id)
        )
        return Response(shapes.StudyNew(copy).data, status=201)


class StudyArchivedView(APIView):
    """Whether a study is out of the list of current ones."""

    @extend_schema(
        operation_id="study_archive", request=shapes.ArchivedIn, responses=shapes.StudyNew
    )
    def put(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        archived = valid(shapes.ArchivedIn, request)["archived"]
        return Response(
            shapes.StudyNew(study_actions.archive_study(request.user, study, archived)).data
        )


class StudyFramesView(APIView):
    """Taking a frame into a study."""

    @extend_schema(operation_id="study_take_frame", request=shapes.FrameRef, responses={204: None})
    def post(self, request: Request, study_id: int) -> Response:
        frame = find_frame(request.user, valid(shapes.FrameRef, request)["frame"])
        study_actions.take_frame(request.user, queries.find_study(request.user, study_id), frame)
        return Response(status=204)


class StudyFrameView(APIView):
    """A frame's place in a study."""

    @extend_schema(operation_id="study_leave_frame", responses={204: None})
    def delete(self, request: Request, study_id: int, frame_id: int) -> Response:
        study_actions.leave_frame(
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
        contender = queries.find_contender(request.user, contender_id)
        told = told_treatment(valid(TreatmentShape, request))
        return Response(
            shapes.ContenderOut(contenders.change_contender(request.user, contender, told)).data
        )

    @extend_schema(operation_id="contender_withdraw", responses={204: None})
    def delete(self, request: Request, contender_id: int) -> Response:
        contenders.withdraw_contender(
            request.user, queries.find_contender(request.user, contender_id)
        )
        return Response(status=204)


class ContenderTermsView(APIView):
    """The terms of what a contender made."""

    @extend_schema(
        operation_id="contender_terms", request=TermsShape, responses=shapes.ContenderOut
    )
    def put(self, request: Request, contender_id: int) -> Response:
        contender = queries.find_contender(request.user, contender_id)
        terms = told_terms(valid(TermsShape, request))
        return Response(
            shapes.ContenderOut(contenders.tell_terms(request.user, contender, terms)).data
        )


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
            require_current(request, locked(patch).drawn)
            patch = patches.change_patch(request.user, patch, given["name"], given["role"], rect)
        return Response(shapes.PatchOut(patch).data)

    @extend_schema(operation_id="patch_remove", responses={204: None})
    def delete(self, request: Request, patch_id: int) -> Response:
        patches.remove_patch(request.user, queries.find_patch(request.user, patch_id))
        return Response(status=204)
