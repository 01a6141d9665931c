"""Testing a study again with another release."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.requests import valid
from glenhail.server.outputs.actions.retests import Retest, begin_retest, retests
from glenhail.server.outputs.api.runs import AskedOut
from glenhail.server.studies.queries import find_study


class ProposalOut(serializers.Serializer[Any]):
    """A contender as the release would make it; ``asked`` is what could not be taken
    over, ``there`` the letter of one that has that treatment already.
    """

    contender = serializers.IntegerField()
    letter = serializers.CharField()
    title = serializers.CharField()
    manner = serializers.CharField()
    asked = serializers.ListField(child=serializers.CharField())
    there = serializers.CharField()


class RetestOut(serializers.Serializer[Any]):
    release = serializers.IntegerField()
    title = serializers.CharField()
    released = serializers.DateField(allow_null=True)
    runs = serializers.BooleanField()
    proposals = ProposalOut(many=True)


class RetestIn(serializers.Serializer[Any]):
    """``keep``: whether the contenders that are followed stay in the study; ``run``:
    whether outputs are made at once where they can be.
    """

    release = serializers.IntegerField(max_value=2**31 - 1)
    contenders = serializers.ListField(
        child=serializers.IntegerField(max_value=2**31 - 1), max_length=60
    )
    keep = serializers.BooleanField(default=True)
    run = serializers.BooleanField(default=True)


class RetestedOut(serializers.Serializer[Any]):
    letters = serializers.ListField(child=serializers.CharField())
    asked = AskedOut()


def _told(retest: Retest) -> dict[str, Any]:
    return {
        "release": retest.release.pk,
        "title": str(retest.release),
        "released": retest.release.released,
        "runs": retest.release.runs,
        "proposals": [
            {
                "contender": p.contender.pk,
                "letter": p.contender.letter,
                "title": p.made.treatment.title,
                "manner": p.made.treatment.manner,
                "asked": p.made.asked,
                "there": p.there.letter if p.there else "",
            }
            for p in retest.proposals
        ],
    }


class RetestsView(APIView):
    """Releases that a study can be tested again with."""

    @extend_schema(operation_id="retests_list", responses=RetestOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        found = retests(find_study(request.user, study_id))
        return Response(RetestOut([_told(r) for r in found], many=True).data)

    @extend_schema(operation_id="retest_begin", request=RetestIn, responses={201: RetestedOut})
    def post(self, request: Request, study_id: int) -> Response:
        study, told = find_study(request.user, study_id), valid(RetestIn, request)
        made, asked = begin_retest(
            request.user, study, told["release"], told["contenders"], told["keep"], told["run"]
        )
        whole = {"letters": [c.letter for c in made], "asked": asked}
        return Response(RetestedOut(whole).data, status=201)
