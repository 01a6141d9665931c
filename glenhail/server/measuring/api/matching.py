"""How the second set of readings is taken."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.tone.matching import Match, Size
from glenhail.server.common.requests import valid
from glenhail.server.measuring.actions import matching
from glenhail.server.studies import queries

MATCHES, SIZES = [m.value for m in Match], [s.value for s in Size]


class MatchingIn(serializers.Serializer[Any]):
    match = serializers.ChoiceField(choices=MATCHES)
    size = serializers.ChoiceField(choices=SIZES)


class MatchingView(APIView):
    """How the second set of readings is taken."""

    @extend_schema(operation_id="matching_set", request=MatchingIn, responses={204: None})
    def put(self, request: Request, study_id: int) -> Response:
        given = valid(MatchingIn, request)
        matching.set_matching(
            request.user, queries.find_study(request.user, study_id), given["match"], given["size"]
        )
        return Response(status=204)
