"""The audit: findings and decisions, matching, line-ups with what they rest on, other
bodies.
"""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.audit.between import EVERYWHERE, rules_for
from glenhail.core.audit.finding import Remedy, Weight
from glenhail.core.tone.matching import Match, Size
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import require
from glenhail.server.common.errors import Missing
from glenhail.server.common.requests import valid
from glenhail.server.studies import audit, queries
from glenhail.server.studies.actions import audit as actions
from glenhail.server.studies.actions import bodies
from glenhail.server.studies.api import shapes
from glenhail.server.studies.audit import HARMLESS, OPEN, Judged
from glenhail.server.studies.lining import Points, examined_key, points_of
from glenhail.server.studies.models import Decided, Decision, Examined, Output, Study

STATES = [OPEN, HARMLESS, *Decided.values]
MATCHES, SIZES = [m.value for m in Match], [s.value for s in Size]


class RuleOut(serializers.Serializer[Any]):
    """One thing that should be equal, and up to where it is taken for equal."""

    id = serializers.CharField()
    title = serializers.CharField()
    tolerance = serializers.CharField()
    weight = serializers.ChoiceField(choices=[w.value for w in Weight])
    evidence = serializers.CharField()
    found_by = serializers.CharField(source="source")


class PlaceOut(serializers.Serializer[Any]):
    """A frame on which something was found; none where it is about all of them."""

    frame = serializers.IntegerField(allow_null=True)
    output = serializers.IntegerField(allow_null=True)
    amount = serializers.FloatField()
    words = serializers.CharField()


class DecisionOut(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=Decided.choices)
    reason = serializers.CharField()
    who = serializers.CharField()
    created = serializers.DateTimeField()


class AuditFindingOut(serializers.Serializer[Any]):
    """One rule that a contender does not keep to.

    ``about`` is to be sent with a decision.
    """

    key = serializers.CharField()
    rule = serializers.CharField()
    contender = serializers.IntegerField()
    weight = serializers.ChoiceField(choices=[w.value for w in Weight])
    state = serializers.ChoiceField(choices=STATES)
    open = serializers.BooleanField()
    remedies = serializers.ListField(
        child=serializers.ChoiceField(choices=[r.value for r in Remedy])
    )
    about = serializers.CharField()
    places = PlaceOut(many=True)
    decision = DecisionOut(allow_null=True)


class AuditOut(serializers.Serializer[Any]):
    """A study's audit, heaviest findings first; ``line`` says it in one."""

    line = serializers.CharField()
    open = serializers.IntegerField()
    spoil = serializers.IntegerField()
    examined = serializers.IntegerField()
    wanted = serializers.IntegerField()
    match = serializers.ChoiceField(choices=MATCHES)
    size = serializers.ChoiceField(choices=SIZES)
    matched = serializers.CharField()
    findings = AuditFindingOut(many=True)
    rules = RuleOut(many=True)


class DecisionIn(serializers.Serializer[Any]):
    finding = serializers.CharField(max_length=60)
    kind = serializers.ChoiceField(choices=Decided.choices)
    reason = serializers.CharField(max_length=300, allow_blank=True, default="")
    about = serializers.CharField(max_length=64, allow_blank=True, default="")


class MatchingIn(serializers.Serializer[Any]):
    match = serializers.ChoiceField(choices=MATCHES)
    size = serializers.ChoiceField(choices=SIZES)


class PointPairShape(serializers.Serializer[Any]):
    """The same place in the frame (x, y) and in the output (u, v), each in its own
    pixels.
    """

    x = serializers.FloatField()
    y = serializers.FloatField()
    u = serializers.FloatField()
    v = serializers.FloatField()


class PointsIn(serializers.Serializer[Any]):
    pairs = serializers.ListField(child=PointPairShape(), max_length=3)


class CellOut(serializers.Serializer[Any]):
    """Where a line-up was measured: the place, what is left over there, and how alike
    the two are; frame px.
    """

    x = serializers.FloatField()
    y = serializers.FloatField()
    dx = serializers.FloatField()
    dy = serializers.FloatField()
    alike = serializers.FloatField()


class RegionOut(serializers.Serializer[Any]):
    """One of 6 x 4 parts of the frame: mean colours in 8-bit codes, EV, and CIEDE2000
    at equal brightness.
    """

    column = serializers.IntegerField()
    row = serializers.IntegerField()
    frame = serializers.ListField(child=serializers.IntegerField())
    output = serializers.ListField(child=serializers.IntegerField())
    stops = serializers.FloatField()
    de00 = serializers.FloatField()
    hue = serializers.CharField()


class HueOut(serializers.Serializer[Any]):
    hue = serializers.CharField()
    areas = serializers.IntegerField()
    chroma = serializers.FloatField()
    turned = serializers.FloatField()
    de00 = serializers.FloatField()


class ValueOut(serializers.Serializer[Any]):
    name = serializers.CharField()
    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class EvidenceOut(serializers.Serializer[Any]):
    """Columns of numbers; the first one is the abscissa."""

    name = serializers.CharField()
    columns = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))


class ExaminationOut(serializers.Serializer[Any]):
    """How an output lies on its frame and what examining it found;

    ``ready`` is false until it was examined.
    """

    output = serializers.IntegerField()
    refused = serializers.CharField()
    ready = serializers.BooleanField()
    turn = serializers.FloatField()
    doubts = serializers.ListField(child=serializers.CharField())
    cells = CellOut(many=True)
    points = PointPairShape(many=True)
    values = ValueOut(many=True)
    curves = EvidenceOut(many=True)
    regions = RegionOut(many=True)
    hues = HueOut(many=True)
    reasons = serializers.DictField(child=serializers.CharField())


class BodyAtHandOut(serializers.Serializer[Any]):
    """Another body with shots of the study's scenes, and of how many of its frames."""

    body = serializers.CharField()
    frames = serializers.IntegerField()


class EnterBodyIn(serializers.Serializer[Any]):
    body = serializers.CharField(max_length=80)


class AuditView(APIView):
    """All findings of a study, with the rules that were checked."""

    @extend_schema(operation_id="audit_read", responses=AuditOut)
    def get(self, request: Request, study_id: int) -> Response:
        return Response(audit_page(queries.find_study(request.user, study_id)))


class DecisionsView(APIView):
    """Deciding about a finding."""

    @extend_schema(operation_id="audit_decide", request=DecisionIn, responses=AuditOut)
    def post(self, request: Request, study_id: int) -> Response:
        study, given = queries.find_study(request.user, study_id), valid(DecisionIn, request)
        actions.decide(
            request.user, study, given["finding"], given["kind"], given["reason"], given["about"]
        )
        return Response(audit_page(study))


class DecisionView(APIView):
    """Taking a decision back."""

    @extend_schema(operation_id="audit_reopen", responses=AuditOut)
    def delete(self, request: Request, study_id: int, finding: str) -> Response:
        study = queries.find_study(request.user, study_id)
        actions.reopen(request.user, study, finding)
        return Response(audit_page(study))


class MatchingView(APIView):
    """How the second set of readings is taken."""

    @extend_schema(operation_id="matching_set", request=MatchingIn, responses={204: None})
    def put(self, request: Request, study_id: int) -> Response:
        given = valid(MatchingIn, request)
        actions.set_matching(
            request.user, queries.find_study(request.user, study_id), given["match"], given["size"]
        )
        return Response(status=204)


class ExaminationView(APIView):
    """What an output's line-up and examination found."""

    @extend_schema(operation_id="examination_read", responses=ExaminationOut)
    def get(self, request: Request, output_id: int) -> Response:
        return Response(ExaminationOut(_examination(_output(request, output_id))).data)


class PointsView(APIView):
    """Points placed by hand, for a line-up to begin from; none take them away."""

    @extend_schema(operation_id="points_place", request=PointsIn, responses={204: None})
    def put(self, request: Request, output_id: int) -> Response:
        actions.place_points(
            request.user, _output(request, output_id), valid(PointsIn, request)["pairs"]
        )
        return Response(status=204)


class StudyBodiesView(APIView):
    """Other bodies with shots of the study's scenes; entering one."""

    @extend_schema(operation_id="study_bodies", responses=BodyAtHandOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        found = bodies.bodies_at_hand(queries.find_study(request.user, study_id))
        return Response(
            BodyAtHandOut(
                [{"body": name, "frames": count} for name, count in found], many=True
            ).data
        )

    @extend_schema(
        operation_id="study_enter_body", request=EnterBodyIn, responses={201: shapes.ContenderOut}
    )
    def post(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        made = bodies.enter_body(request.user, study, valid(EnterBodyIn, request)["body"])
        return Response(shapes.ContenderOut(made).data, status=201)


def audit_page(study: Study) -> Any:
    """A study's audit as it is sent."""
    now = audit.study_audit(study)
    outputs = {
        (o.contender_id, o.frame_id): o.pk for o in Output.objects.filter(contender__study=study)
    }
    whole = {
        "line": now.line,
        "open": len(now.open),
        "spoil": now.spoil,
        "examined": now.examined,
        "wanted": now.wanted,
        "match": study.match,
        "size": study.size,
        "matched": study.matched,
        "findings": [_finding(j, outputs) for j in now.judged],
        "rules": rules_for(study.factor),
    }
    return AuditOut(whole).data


def _finding(judged: Judged, outputs: dict[tuple[int, int], int]) -> dict[str, Any]:
    f = judged.finding
    places = [
        {
            "frame": None if p.frame == EVERYWHERE else p.frame,
            "output": outputs.get((f.contender, p.frame)),
            "amount": p.amount,
            "words": p.words,
        }
        for p in sorted(f.places, key=lambda p: -abs(p.amount))
    ]
    return {
        "key": f.key,
        "rule": f.rule.id,
        "contender": f.contender,
        "weight": f.weight,
        "state": judged.state,
        "open": judged.open,
        "remedies": judged.remedies,
        "about": judged.about,
        "places": places,
        "decision": _decision(judged.decision),
    }


def _decision(decision: Decision | None) -> dict[str, Any] | None:
    if decision is None:
        return None
    who = decision.actor.get_username() if decision.actor else "somebody who left"
    return {
        "kind": decision.kind,
        "reason": decision.reason,
        "who": who,
        "created": decision.created,
    }


def _output(request: Request, output_id: int) -> Output:
    row = (
        Output.objects.select_related("contender__study__bench", "frame__picture", "picture")
        .filter(pk=output_id)
        .first()
    )
    if row is None:
        raise Missing("There is no such output, or it was taken out.")
    require(request.user, row.contender.study.bench, Role.VIEWER)
    return row


def _examination(output: Output) -> dict[str, Any]:
    row = queries.lineups([output]).get(output.pk)
    points: Points = []
    told: dict[str, Any] = {}
    if output.picture is not None:
        points = points_of(output.contender.study.bench_id, output.frame.picture, output.picture)
        kept = Examined.objects.filter(
            key=examined_key(output.frame.picture, output.picture, points)
        ).first()
        told = kept.told if kept else {}
    return {
        "output": output.pk,
        "refused": row.refused if row else "",
        "ready": bool(told),
        "turn": row.turn if row else 0.0,
        "doubts": row.doubts if row else [],
        "cells": [
            dict(zip(("x", "y", "dx", "dy", "alike"), c, strict=True))
            for c in (row.cells if row else [])
        ],
        "points": points,
        "values": [
            {"name": n, "value": v[0], "low": v[1], "high": v[2]}
            for n, v in told.get("values", {}).items()
        ],
        "curves": [{"name": n, "columns": c} for n, c in told.get("curves", {}).items()],
        "regions": told.get("regions", []),
        "hues": told.get("hues", []),
        "reasons": told.get("reasons", {}),
    }
