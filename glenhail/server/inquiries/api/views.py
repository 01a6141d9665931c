"""What is asked of a whole study."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.answers.worth import USUAL
from glenhail.core.level.way import Way
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.common.query import number
from glenhail.server.common.requests import valid
from glenhail.server.inquiries import evidence, pages, queries
from glenhail.server.inquiries.actions import between, sliders
from glenhail.server.inquiries.actions.asking import ask_of_study
from glenhail.server.inquiries.answering import level, releases, strength, visibility
from glenhail.server.inquiries.api import shapes
from glenhail.server.inquiries.models import About
from glenhail.server.inquiries.worth import worth_page
from glenhail.server.studies import queries as studies
from glenhail.server.studies.api.shapes import ContenderOut
from glenhail.server.studies.models import Contender, Study
from glenhail.server.studies.uses import find_use

AGAINST = OpenApiParameter("against", str, description="Letter that others are held against.")
WAY = OpenApiParameter("way", str, enum=list(Way), description="In what, and by what.")
ONE = OpenApiParameter("one", str, description="Letter of the one that is sharpened.")
OTHER = OpenApiParameter("other", str, description="Letter of the sharper one.")
EARLIER = OpenApiParameter("earlier", str, description="Letter of the earlier release's.")
LATER = OpenApiParameter("later", str, description="Letter of the later release's.")
USE = OpenApiParameter("use", str, description="Where noise shall not be seen.")
MATCHED = OpenApiParameter("matched", bool, description="Whether their light is matched.")


class InquiriesView(APIView):
    """Everything that was answered, in words."""

    @extend_schema(operation_id="inquiries", responses=shapes.InquirySaidOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        return Response(shapes.InquirySaidOut(pages.answers_page(study), many=True).data)


def _contender(study: Study, letter: str) -> Contender:
    found = queries.contender_of(study, letter)
    if found is None:
        raise Missing(f"Nobody contends as {letter[:1] or '?'} in this study.")
    return found


class VisibilityView(APIView):
    """Whether anybody would see it."""

    @extend_schema(
        operation_id="visibility_read",
        parameters=[AGAINST, MATCHED],
        responses=shapes.VisibilityOut,
    )
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        against = _contender(study, request.query_params.get("against", "U"))
        readings = visibility.MATCHED if request.query_params.get("matched") == "true" else ""
        subject = visibility.subject_of(against, readings)
        page = pages.inquiry_page(study, About.VISIBILITY, subject)
        return Response(shapes.VisibilityOut(page).data)

    @extend_schema(
        operation_id="visibility_ask", request=shapes.VisibilityIn, responses={204: None}
    )
    def post(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        given = valid(shapes.VisibilityIn, request)
        readings = visibility.MATCHED if given["matched"] else ""
        subject = visibility.subject_of(_contender(study, given["against"]), readings)
        ask_of_study(request.user, study, About.VISIBILITY, subject)
        return Response(status=204)


class StrengthView(APIView):
    """Strength series."""

    @extend_schema(operation_id="strength_read", parameters=[USE], responses=shapes.StrengthOut)
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        use = find_use(study.bench, request.query_params.get("use", strength.USE))
        return Response(shapes.StrengthOut(pages.inquiry_page(study, About.STRENGTH, use.id)).data)

    @extend_schema(operation_id="strength_ask", request=shapes.StrengthIn, responses={204: None})
    def post(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        use = find_use(study.bench, valid(shapes.StrengthIn, request)["use"])
        ask_of_study(request.user, study, About.STRENGTH, use.id)
        return Response(status=204)


class LevelView(APIView):
    """Could a slider do it."""

    @extend_schema(
        operation_id="level_read", parameters=[ONE, OTHER, WAY], responses=shapes.LevelOut
    )
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        letters = (request.query_params.get(k, "") for k in ("one", "other"))
        one, other = (_contender(study, letter) for letter in letters)
        subject = level.subject_of(one, other, _way(request))
        return Response(shapes.LevelOut(pages.inquiry_page(study, About.LEVEL, subject)).data)

    @extend_schema(operation_id="level_ask", request=shapes.LevelIn, responses={204: None})
    def post(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        subject = level.subject_of(*_levels(request, study))
        ask_of_study(request.user, study, About.LEVEL, subject)
        return Response(status=204)


class SharpenedView(APIView):
    """One contender, brought to another's level, as a contender of its own."""

    @extend_schema(
        operation_id="level_enter", request=shapes.LevelIn, responses={201: ContenderOut}
    )
    def post(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        made = sliders.enter_levelled(request.user, study, *_levels(request, study))
        return Response(ContenderOut(studies.find_contender(request.user, made.pk)).data, 201)


def _levels(request: Request, study: Study) -> tuple[Contender, Contender, Way]:
    given = valid(shapes.LevelIn, request)
    return _contender(study, given["one"]), _contender(study, given["other"]), Way(given["way"])


def _way(request: Request) -> Way:
    told = request.query_params.get("way", Way.SHARPNESS.value)
    if told not in set(Way):
        raise ActionError(f"way is one of {', '.join(Way)}.")
    return Way(told)


class OrderView(APIView):
    """The same steps in every order."""

    @extend_schema(operation_id="order_read", responses=shapes.OrderOut)
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        return Response(shapes.OrderOut(pages.inquiry_page(study, About.ORDER)).data)

    @extend_schema(operation_id="order_ask", request=None, responses={204: None})
    def post(self, request: Request, study_id: int) -> Response:
        ask_of_study(request.user, studies.find_study(request.user, study_id), About.ORDER)
        return Response(status=204)


class BetweenView(APIView):
    """What lies between the steps, as contenders."""

    @extend_schema(
        operation_id="order_enter_between", request=None, responses={201: shapes.BetweenOut}
    )
    def post(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        made = between.enter_between(request.user, study)
        return Response(shapes.BetweenOut({"letters": [c.letter for c in made]}).data, 201)


class ReleaseChangesView(APIView):
    """Release against release."""

    @extend_schema(
        operation_id="releases_read", parameters=[EARLIER, LATER], responses=shapes.ReleasesOut
    )
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        told = [request.query_params.get(k, "") for k in ("earlier", "later")]
        page = pages.releases_page(study, [_contender(study, k) for k in told if k])
        return Response(shapes.ReleasesOut(page).data)

    @extend_schema(
        operation_id="releases_ask", request=shapes.ReleasePairOut, responses={204: None}
    )
    def post(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        given = valid(shapes.ReleasePairOut, request)
        both = (_contender(study, given[k]) for k in ("earlier", "later"))
        ask_of_study(request.user, study, About.RELEASES, releases.subject_of(*both))
        return Response(status=204)


class WorthView(APIView):
    """Price, speed and what is got for it."""

    @extend_schema(
        operation_id="worth_read",
        parameters=[OpenApiParameter(name, float) for name in USUAL],
        responses=shapes.WorthOut,
    )
    def get(self, request: Request, study_id: int) -> Response:
        study = studies.find_study(request.user, study_id)
        told = {name: number(request, name, usual) for name, usual in USUAL.items()}
        return Response(shapes.WorthOut(worth_page(study, told)).data)


class EvidencePictureView(APIView):
    """A picture behind an answer."""

    @extend_schema(
        operation_id="inquiry_picture", responses={(200, "image/png"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request, study_id: int, key: str, shown: str) -> HttpResponse:
        study = studies.find_study(request.user, study_id)
        if not queries.has_evidence(study, key):
            raise Missing("There is no such picture in this study.")
        made = HttpResponse(evidence.picture_bytes(key, shown), content_type="image/png")
        made["Cache-Control"] = "private, max-age=31536000, immutable"
        return made
