"""Sittings, for the bench that asks."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.core.files.storage import storages
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.judging.setup import SittingKind, prospect
from glenhail.server.accounts.models import Role
from glenhail.server.common.csvs import csv_text
from glenhail.server.common.errors import Conflict, Missing
from glenhail.server.common.query import choice, whole_number
from glenhail.server.common.requests import valid
from glenhail.server.judging.actions import judges, sittings
from glenhail.server.judging.api.shapes import (
    PROSPECT_LIMITS,
    OutcomeOut,
    ProspectOut,
    SpotOutcomeOut,
)
from glenhail.server.judging.keys import LINK, SEAT, key_of
from glenhail.server.judging.models import Sitting, SittingLink, SittingState
from glenhail.server.judging.outcome import RAW_HEAD, SittingOutcome, raw_rows, told_results
from glenhail.server.judging.queries import find_sitting, find_sitting_link, sittings_of
from glenhail.server.studies.queries import find_study
from glenhail.server.viewing.api.views import FOR_EVER

KINDS = [k.value for k in SittingKind]
MOST_ID = 2**31


class LetterField(serializers.CharField):
    """A contender's letter."""

    def __init__(self) -> None:
        super().__init__(min_length=1, max_length=1)


class SittingIn(serializers.Serializer[Any]):
    """What a sitting shall be: contenders by letter, patches and whole frames by id."""

    question = serializers.CharField(max_length=200)
    kind = serializers.ChoiceField(choices=KINDS, default=SittingKind.PAIRS.value)
    letters = serializers.ListField(
        child=serializers.CharField(min_length=1, max_length=1), max_length=24
    )
    patches = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=MOST_ID), max_length=200, default=list
    )
    frames = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=MOST_ID), max_length=100, default=list
    )
    count = serializers.IntegerField(min_value=1, max_value=400, default=40)
    zoom = serializers.IntegerField(min_value=1, max_value=8, default=2)
    use = serializers.CharField(max_length=60, allow_blank=True, default="")
    beside = serializers.CharField(max_length=1, allow_blank=True, default="")
    matched = serializers.BooleanField(default=False)
    adaptive = serializers.BooleanField(default=False)
    obvious = serializers.ListField(child=LetterField(), max_length=2, default=list)


class StandsIn(serializers.Serializer[Any]):
    """A contender as it was called when the sitting was composed."""

    letter = serializers.CharField()
    title = serializers.CharField()
    id = serializers.IntegerField()


class SpotOut(serializers.Serializer[Any]):
    """A patch, or a whole frame, as it was when the sitting was composed."""

    patch = serializers.IntegerField(allow_null=True)
    frame = serializers.IntegerField()
    frame_name = serializers.CharField()
    name = serializers.CharField()
    role = serializers.CharField()


class GuestLinkOut(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    key = serializers.SerializerMethodField()
    name = serializers.CharField()
    most = serializers.IntegerField()
    ends = serializers.DateTimeField()
    revoked = serializers.DateTimeField(allow_null=True)
    seats = serializers.SerializerMethodField()

    def get_key(self, link: SittingLink) -> str:
        """What stands at the end of its address."""
        return key_of(LINK, link.pk)

    def get_seats(self, link: SittingLink) -> int:
        """How many have sat by it."""
        return link.judges.count()


class SittingOut(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    number = serializers.IntegerField()
    question = serializers.CharField()
    kind = serializers.ChoiceField(choices=KINDS)
    state = serializers.ChoiceField(choices=SittingState.values)
    problem = serializers.CharField()
    count = serializers.IntegerField()
    contenders = StandsIn(many=True)
    spots = SpotOut(many=True)
    how = serializers.CharField()
    obvious = serializers.ListField(child=serializers.CharField())
    simulated = serializers.BooleanField()
    created = serializers.DateTimeField()
    closed = serializers.DateTimeField(allow_null=True)
    judges = serializers.IntegerField(source="judged")
    done = serializers.IntegerField()
    answers = serializers.IntegerField()
    said = serializers.CharField()
    chances = serializers.SerializerMethodField()

    def get_chances(self, sitting: Sitting) -> dict[str, float]:
        """By letter, the chance to be chosen over the others; none before it is closed."""
        standings = (sitting.results or {}).get("standings", ())
        return {s["contender"]: s["chance"]["value"] for s in standings}


class SittingWhole(SittingOut):
    """A sitting with the links by which guests sit."""

    links = GuestLinkOut(many=True)


class GuestLinkIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=80, allow_blank=True, default="")
    most = serializers.IntegerField(min_value=1, max_value=sittings.MOST_GUESTS, default=1)
    ends = serializers.DateTimeField()


class SeatKey(serializers.Serializer[Any]):
    """A seat of one's own, by the end of its address."""

    key = serializers.CharField()


def _whole(sitting: Sitting) -> dict[str, Any]:
    counted = sittings_of(sitting.study).get(pk=sitting.pk)
    return dict(SittingWhole(counted).data)


class SittingsView(APIView):
    """A study's sittings."""

    @extend_schema(operation_id="sittings_list", responses=SittingOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        rows = sittings_of(find_study(request.user, study_id))
        return Response(SittingOut(rows, many=True).data)

    @extend_schema(operation_id="sitting_compose", request=SittingIn, responses={201: SittingWhole})
    def post(self, request: Request, study_id: int) -> Response:
        study = find_study(request.user, study_id, Role.EDITOR)
        given = valid(SittingIn, request)
        wanted = sittings.Composed(**given | {"kind": SittingKind(given["kind"])})
        sitting = sittings.compose_sitting(request.user, study, wanted)
        return Response(_whole(sitting), status=201)


class SittingView(APIView):
    """One sitting."""

    @extend_schema(operation_id="sitting_read", responses=SittingWhole)
    def get(self, request: Request, sitting_id: int) -> Response:
        return Response(_whole(find_sitting(request.user, sitting_id)))

    @extend_schema(operation_id="sitting_remove", responses={204: None})
    def delete(self, request: Request, sitting_id: int) -> Response:
        sittings.remove_sitting(request.user, find_sitting(request.user, sitting_id))
        return Response(status=204)


class SittingEndView(APIView):
    """Closing a sitting."""

    @extend_schema(operation_id="sitting_close", request=None, responses=SittingWhole)
    def post(self, request: Request, sitting_id: int) -> Response:
        sitting = find_sitting(request.user, sitting_id)
        return Response(_whole(sittings.close_sitting(request.user, sitting)))


class OwnSeatView(APIView):
    """A member's own seat."""

    @extend_schema(operation_id="sitting_seat", request=None, responses={201: SeatKey})
    def post(self, request: Request, sitting_id: int) -> Response:
        judge = judges.sit_as_member(request.user, find_sitting(request.user, sitting_id))
        return Response({"key": key_of(SEAT, judge.pk)}, status=201)


class SittingLinksView(APIView):
    """Links for guests."""

    @extend_schema(
        operation_id="sitting_link_add", request=GuestLinkIn, responses={201: GuestLinkOut}
    )
    def post(self, request: Request, sitting_id: int) -> Response:
        sitting = find_sitting(request.user, sitting_id)
        link = sittings.add_link(request.user, sitting, **valid(GuestLinkIn, request))
        return Response(GuestLinkOut(link).data, status=201)


class SittingLinkView(APIView):
    """One link."""

    @extend_schema(operation_id="sitting_link_revoke", responses={204: None})
    def delete(self, request: Request, sitting_link_id: int) -> Response:
        sittings.revoke_link(request.user, find_sitting_link(request.user, sitting_link_id))
        return Response(status=204)


SCREENED = OpenApiParameter("judges", enum=["all", "screened"], default="all")


class OutcomeView(APIView):
    """What came of a closed sitting."""

    @extend_schema(operation_id="sitting_outcome", parameters=[SCREENED], responses=OutcomeOut)
    def get(self, request: Request, sitting_id: int) -> Response:
        screened = choice(request, "judges", ["all", "screened"]) == "screened"
        outcome = SittingOutcome(_closed(request, sitting_id))
        return Response(OutcomeOut(outcome.told(screened)).data)


class SpotOutcomeView(APIView):
    """What came of one spot of a closed sitting."""

    @extend_schema(
        operation_id="sitting_spot_outcome",
        parameters=[SCREENED],
        responses=SpotOutcomeOut,
    )
    def get(self, request: Request, sitting_id: int, spot: int) -> Response:
        screened = choice(request, "judges", ["all", "screened"]) == "screened"
        results = SittingOutcome(_closed(request, sitting_id)).results(screened, spot=spot)
        return Response(SpotOutcomeOut({"results": told_results(results)}).data)


class SittingCropView(APIView):
    """One contender's picture of one spot as the judges of a closed sitting saw it."""

    @extend_schema(operation_id="sitting_crop", responses={(200, "image/png"): OpenApiTypes.BINARY})
    def get(self, request: Request, sitting_id: int, spot: int, letter: str) -> HttpResponse:
        crops = _closed(request, sitting_id).crops.select_related("file")
        crop = crops.filter(spot=spot, letter=letter).first()
        if crop is None:
            raise Missing("Nothing of this contender was shown at this spot.")
        with storages["originals"].open(crop.file.path) as file:
            data = file.read()
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": FOR_EVER})


class RawCallsView(APIView):
    """Every answer of a closed sitting as a table, without names."""

    @extend_schema(operation_id="sitting_calls", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, sitting_id: int) -> HttpResponse:
        sitting = _closed(request, sitting_id)
        text = csv_text(RAW_HEAD, raw_rows(SittingOutcome(sitting)))
        name = f"sitting-{sitting.number}.csv"
        headers = {"Content-Disposition": f'attachment; filename="{name}"'}
        return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


def _closed(request: Request, sitting_id: int) -> Sitting:
    sitting = find_sitting(request.user, sitting_id)
    if sitting.state != SittingState.CLOSED:
        raise Conflict("What came of a sitting is shown once it is closed.")
    return sitting


class ProspectView(APIView):
    """What a sitting can tell, and how long it takes, before it is begun."""

    @extend_schema(
        operation_id="sitting_prospect",
        parameters=[
            OpenApiParameter("kind", enum=KINDS, default=KINDS[0]),
            *(OpenApiParameter(name, OpenApiTypes.INT) for name in PROSPECT_LIMITS),
            OpenApiParameter("obvious", enum=["no", "yes"], default="no"),
        ],
        responses=ProspectOut,
    )
    def get(self, request: Request) -> Response:
        kind = SittingKind(choice(request, "kind", KINDS))
        numbers = {
            name: min(most, max(least, whole_number(request, name) or least))
            for name, (least, most) in PROSPECT_LIMITS.items()
        }
        obvious = choice(request, "obvious", ["no", "yes"]) == "yes"
        told = asdict(prospect(kind, **numbers, obvious=obvious))
        return Response(told)
