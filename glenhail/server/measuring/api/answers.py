"""Answers to the study's question: findings in words, who wins where, trade-offs,
curves.
"""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.answers.paragraphs import paragraphs
from glenhail.core.answers.sentences import BAD, GOOD, PLAIN, findings
from glenhail.core.answers.standings import GROUPED, pairs, summary
from glenhail.core.answers.tradeoff import tradeoff
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.measures.thresholds import THRESHOLDS
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.measuring import answers
from glenhail.server.measuring.models import AS_MADE, MATCHED
from glenhail.server.studies import queries


class SentenceOut(serializers.Serializer[Any]):
    """One finding about a contender, and the readings it was made from."""

    text = serializers.CharField()
    tone = serializers.ChoiceField(choices=[GOOD, BAD, PLAIN])
    measure = serializers.CharField()
    readings = serializers.ListField(child=serializers.IntegerField())


class ContenderFindingsOut(serializers.Serializer[Any]):
    letter = serializers.CharField()
    sentences = SentenceOut(many=True)


class ThresholdOut(serializers.Serializer[Any]):
    """From where on a difference can be seen."""

    measure = serializers.CharField()
    words = serializers.CharField()
    defined_by = serializers.CharField()


class ClauseOut(serializers.Serializer[Any]):
    """Of which contenders, in words after their letters, and the readings behind it."""

    letters = serializers.ListField(child=serializers.CharField())
    text = serializers.CharField()
    tone = serializers.ChoiceField(choices=[GOOD, BAD, PLAIN])
    measure = serializers.CharField()
    readings = serializers.ListField(child=serializers.IntegerField())


class ParagraphOut(serializers.Serializer[Any]):
    """The answer for one type of patch: contenders by rank, and what speaks against
    whom.
    """

    role = serializers.CharField()
    about = serializers.CharField()
    measure = serializers.CharField()
    places = serializers.IntegerField()
    order = ClauseOut(many=True)
    faults = ClauseOut(many=True)


class AnswersOut(serializers.Serializer[Any]):
    paragraphs = ParagraphOut(many=True)
    findings = ContenderFindingsOut(many=True)
    measures = serializers.ListField(child=serializers.CharField())
    thresholds = ThresholdOut(many=True)


class MedianOut(serializers.Serializer[Any]):
    """A median with its interval;

    ``level`` is the confidence that so few values give, at most 0.95 asked for.
    """

    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()
    count = serializers.IntegerField()
    level = serializers.FloatField()


class AgainstOut(serializers.Serializer[Any]):
    letter = serializers.CharField()
    answer = serializers.CharField()
    counts = serializers.DictField(child=serializers.IntegerField())
    places = serializers.IntegerField()
    same = serializers.IntegerField()
    difference = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class StandingOut(serializers.Serializer[Any]):
    by = serializers.CharField()
    group = serializers.CharField()
    letter = serializers.CharField()
    middle = MedianOut()
    against = AgainstOut(many=True)


class SummaryOut(serializers.Serializer[Any]):
    """One contender's median of one measure over a group of places."""

    group = serializers.CharField()
    measure = serializers.CharField()
    letter = serializers.CharField()
    middle = MedianOut()


class TradePointOut(serializers.Serializer[Any]):
    letter = serializers.CharField()
    x = MedianOut()
    y = MedianOut()


class BlendOut(serializers.Serializer[Any]):
    letter = serializers.CharField()
    x = serializers.ListField(child=serializers.FloatField())
    y = serializers.ListField(child=serializers.FloatField())


class TradeOut(serializers.Serializer[Any]):
    """``front`` names those that no other beats at both."""

    x = serializers.CharField()
    y = serializers.CharField()
    points = TradePointOut(many=True)
    front = serializers.ListField(child=serializers.CharField())
    blends = BlendOut(many=True)


class MeasuredCurveOut(serializers.Serializer[Any]):
    curve = serializers.ChoiceField(choices=list(answers.CURVES))
    letter = serializers.CharField()
    reading = serializers.IntegerField()
    x = serializers.ListField(child=serializers.FloatField())
    y = serializers.ListField(child=serializers.FloatField())
    error = serializers.ListField(child=serializers.FloatField())
    x_unit = serializers.CharField()
    y_unit = serializers.CharField()


READINGS = OpenApiParameter(
    "readings", str, enum=["matched"], description="The matched set instead of outputs as made."
)


def _basis(request: Request) -> str:
    return MATCHED if request.query_params.get("readings") == MATCHED else AS_MADE


def _measure(request: Request, name: str) -> str:
    told = request.query_params.get(name, "")
    if told not in MEASURES:
        raise ActionError(f"{told!r} is no measure; there are {', '.join(MEASURES)}.")
    return told


class AnswersView(APIView):
    """What the readings say of each contender, in words."""

    @extend_schema(operation_id="answers_read", parameters=[READINGS], responses=AnswersOut)
    def get(self, request: Request, study_id: int) -> Response:
        board = answers.board_of(queries.find_study(request.user, study_id), _basis(request))
        told = [
            {"letter": letter, "sentences": findings(board, letter)} for letter in board.contenders
        ]
        present = {measure for measure, _ in board.cells}
        limits = [
            {
                "measure": m,
                "words": THRESHOLDS[m].words(MEASURES[m].unit),
                "defined_by": THRESHOLDS[m].source,
            }
            for m in MEASURES
        ]
        whole = {
            "paragraphs": paragraphs(board),
            "findings": told,
            "measures": [m for m in MEASURES if m in present],
            "thresholds": limits,
        }
        return Response(AnswersOut(whole).data)


class SummaryView(APIView):
    """Medians over roles, kinds of scene or frames."""

    @extend_schema(
        operation_id="summary_list",
        parameters=[OpenApiParameter("by", str, enum=GROUPED, required=True), READINGS],
        responses=SummaryOut(many=True),
    )
    def get(self, request: Request, study_id: int) -> Response:
        by = request.query_params.get("by", "")
        if by not in GROUPED:
            raise ActionError(
                f"Readings are taken together by {', '.join(GROUPED)}, not by {by!r}."
            )
        board = answers.board_of(queries.find_study(request.user, study_id), _basis(request))
        return Response(SummaryOut(summary(board, by), many=True).data)


class StandingsView(APIView):
    """Who wins where, by one measure."""

    @extend_schema(
        operation_id="standings_list",
        parameters=[OpenApiParameter("measure", str, required=True), READINGS],
        responses=StandingOut(many=True),
    )
    def get(self, request: Request, study_id: int) -> Response:
        board = answers.board_of(queries.find_study(request.user, study_id), _basis(request))
        return Response(StandingOut(pairs(board, _measure(request, "measure")), many=True).data)


class TradeView(APIView):
    """Two measures against each other."""

    @extend_schema(
        operation_id="tradeoff_read",
        parameters=[
            OpenApiParameter("x", str, required=True),
            OpenApiParameter("y", str, required=True),
            READINGS,
        ],
        responses=TradeOut,
    )
    def get(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        board = answers.board_of(study, _basis(request))
        x, y = _measure(request, "x"), _measure(request, "y")
        return Response(TradeOut(tradeoff(board, x, y, answers.correlations(study))).data)


class CurvesView(APIView):
    """The curves behind the readings of one patch."""

    @extend_schema(
        operation_id="curves_list",
        parameters=[OpenApiParameter("patch", int, required=True), READINGS],
        responses=MeasuredCurveOut(many=True),
    )
    def get(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        told = request.query_params.get("patch", "")
        if (
            not (told.isascii() and told.isdecimal())
            or not study.patches.filter(pk=int(told)).exists()
        ):
            raise Missing("There is no such patch in this study, or it was removed.")
        return Response(
            MeasuredCurveOut(answers.curves(study, int(told), _basis(request)), many=True).data
        )
