"""Sitting: what a judge is shown and answers, member or guest. A seat's key is all it
takes, and shows nothing but that seat.
"""

from __future__ import annotations

from statistics import median
from typing import Any

from django.core.files.storage import storages
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.throttling import SimpleRateThrottle
from rest_framework.views import APIView

from glenhail.core.judging.setup import SECONDS, SittingKind
from glenhail.server.common.errors import Missing
from glenhail.server.common.requests import valid
from glenhail.server.judging.actions import judges
from glenhail.server.judging.api.sittings import KINDS, SeatKey
from glenhail.server.judging.keys import SEAT, key_of
from glenhail.server.judging.models import Judge, Sitting, SittingCrop
from glenhail.server.judging.queries import find_link, find_seat

# One more than is answered, so that the next is there when it is wanted.
BESIDE = "beside"


class ByAddress(SimpleRateThrottle):
    """So many requests a minute from one address."""

    def get_cache_key(self, request: Request, view: APIView) -> str:
        """Counted by who asks, and what for."""
        return f"sit {self.scope} {self.get_ident(request)}"


class Sits(ByAddress):
    scope, rate = "sits", "1200/min"


class Joins(ByAddress):
    scope, rate = "joins", "60/min"


class OpenToAll(APIView):
    """Needs no session: the key in the address is all it takes."""

    authentication_classes = ()
    permission_classes = (AllowAny,)
    throttle_classes: tuple[type[SimpleRateThrottle], ...] = (Sits,)


class InvitationOut(serializers.Serializer[Any]):
    """What a guest is asked to."""

    question = serializers.CharField()
    kind = serializers.ChoiceField(choices=KINDS)
    places = serializers.IntegerField()
    seconds = serializers.IntegerField()
    problem = serializers.CharField()


class GuestIn(serializers.Serializer[Any]):
    nickname = serializers.CharField(max_length=40, allow_blank=True, default="")


class SeatOut(serializers.Serializer[Any]):
    """How far a judge is."""

    question = serializers.CharField()
    kind = serializers.ChoiceField(choices=KINDS)
    places = serializers.IntegerField()
    answered = serializers.IntegerField()
    seconds_left = serializers.IntegerField()
    problem = serializers.CharField()
    because = serializers.ListField(child=serializers.CharField())
    screen = serializers.DictField(child=serializers.FloatField())


class SeatPlaceOut(serializers.Serializer[Any]):
    """One thing that is shown, and what was said to it."""

    place = serializers.IntegerField()
    pictures = serializers.IntegerField()
    beside = serializers.BooleanField()
    width = serializers.IntegerField()
    height = serializers.IntegerField()
    answer = serializers.JSONField(allow_null=True)
    kinds = serializers.ListField(child=serializers.CharField())


class CallIn(serializers.Serializer[Any]):
    """An answer: ``{"said": "left"}``, ``{"grade": 4}`` or ``{"order": [1, 0]}``."""

    answer = serializers.JSONField()
    kinds = serializers.ListField(
        child=serializers.CharField(max_length=20), max_length=20, default=list
    )
    took_ms = serializers.IntegerField(min_value=0, max_value=judges.LONGEST_MS, default=0)


class ScreenIn(serializers.Serializer[Any]):
    """What a check of screen and room told."""

    told = serializers.DictField(child=serializers.FloatField(min_value=0, max_value=20000))


class InvitationView(OpenToAll):
    """What a link asks to."""

    @extend_schema(operation_id="invitation_read", responses=InvitationOut)
    def get(self, request: Request, link_key: str) -> Response:
        link = find_link(link_key)
        sitting = link.sitting
        places = _places(sitting)
        told = {
            "question": sitting.question,
            "kind": sitting.kind,
            "places": places,
            "seconds": places * SECONDS[sitting.kind],
            "problem": judges.why_no_seat(link),
        }
        return Response(told, headers={"Cache-Control": "no-store"})


def _places(sitting: Sitting) -> int:
    """How much is asked of a judge, repeats aside."""
    return {
        SittingKind.PAIRS: sitting.count,
        SittingKind.SINGLE: len(sitting.contenders) * len(sitting.spots),
        SittingKind.ORDER: len(sitting.spots),
    }[SittingKind(sitting.kind)]


class GuestSeatView(OpenToAll):
    """A seat for a guest."""

    throttle_classes = (Joins,)

    @extend_schema(operation_id="invitation_take", request=GuestIn, responses={201: SeatKey})
    def post(self, request: Request, link_key: str) -> Response:
        judge = judges.sit_by_link(find_link(link_key), valid(GuestIn, request)["nickname"])
        return Response({"key": key_of(SEAT, judge.pk)}, status=201)


class SeatView(OpenToAll):
    """How far a judge is."""

    @extend_schema(operation_id="seat_read", responses=SeatOut)
    def get(self, request: Request, seat_key: str) -> Response:
        return _seat(find_seat(seat_key))


def _seat(judge: Judge) -> Response:
    times = list(judge.calls.values_list("took_ms", flat=True))
    each = median(times) / 1000 if times else SECONDS[judge.sitting.kind]
    told = {
        "question": judge.sitting.question,
        "kind": judge.sitting.kind,
        "places": len(judge.places),
        "answered": len(times),
        "seconds_left": round(each * (len(judge.places) - len(times))),
        "problem": judges.why_stopped(judge),
        "because": judges.KINDS,
        "screen": judge.screen,
    }
    return Response(told, headers={"Cache-Control": "no-store"})


class SeatPlaceView(OpenToAll):
    """What is shown, and the answer to it."""

    @extend_schema(operation_id="seat_place", responses=SeatPlaceOut)
    def get(self, request: Request, seat_key: str, place: int) -> Response:
        judge = find_seat(seat_key)
        shown = _shown(judge, place)
        crop = _crop(judge.sitting, shown, 0)
        call = judge.calls.filter(place=place).first()
        told = {
            "place": place,
            "pictures": len(shown["letters"]),
            "beside": bool(judge.sitting.showing["beside"]),
            "width": crop.width,
            "height": crop.height,
            "answer": call.answer if call else None,
            "kinds": call.kinds if call else [],
        }
        return Response(told, headers={"Cache-Control": "no-store"})

    @extend_schema(operation_id="seat_answer", request=CallIn, responses=SeatOut)
    def put(self, request: Request, seat_key: str, place: int) -> Response:
        judge = find_seat(seat_key)
        judges.give_call(judge, place, **valid(CallIn, request))
        return _seat(judge)


class SeatPictureView(OpenToAll):
    """One picture of what is shown: no name, no letter, and as many bytes as any other
    of its sitting.
    """

    @extend_schema(operation_id="seat_picture", responses={(200, "image/png"): OpenApiTypes.BINARY})
    def get(self, request: Request, seat_key: str, place: int, which: str) -> HttpResponse:
        judge = find_seat(seat_key)
        shown = _shown(judge, place)
        if which == BESIDE and judge.sitting.showing["beside"]:
            crop = _of_letter(judge.sitting, shown["spot"], judge.sitting.showing["beside"])
        elif which.isdecimal() and int(which[:3]) < len(shown["letters"]):
            crop = _crop(judge.sitting, shown, int(which))
        else:
            raise Missing("There is no such picture.")
        with storages["originals"].open(crop.file.path) as file:
            data = file.read()
        return HttpResponse(data, content_type="image/png", headers={"Cache-Control": "no-store"})


def _shown(judge: Judge, place: int) -> dict[str, Any]:
    if place >= len(judge.places) or place > judge.calls.count() + judges.AHEAD:
        raise Missing("There is nothing to be seen there yet.")
    shown: dict[str, Any] = judge.places[place]
    return shown


def _crop(sitting: Sitting, shown: dict[str, Any], which: int) -> SittingCrop:
    return _of_letter(sitting, shown["spot"], shown["letters"][which])


def _of_letter(sitting: Sitting, spot: int, letter: str) -> SittingCrop:
    return sitting.crops.select_related("file").get(spot=spot, letter=letter)


class SeatScreenView(OpenToAll):
    """The check of screen and room."""

    @extend_schema(operation_id="seat_screen", request=ScreenIn, responses=SeatOut)
    def put(self, request: Request, seat_key: str) -> Response:
        judge = judges.check_screen(find_seat(seat_key), valid(ScreenIn, request)["told"])
        return _seat(judge)
