"""The audit: findings and decisions."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.audit.between import rules_for
from glenhail.core.audit.finding import Remedy, Weight
from glenhail.server.audit import study_audit as study_audit_module
from glenhail.server.audit.actions import decisions
from glenhail.server.audit.models import Decided, Decision
from glenhail.server.audit.study_audit import HARMLESS, OPEN, Judged
from glenhail.server.common.requests import valid
from glenhail.server.measuring.api.matching import MATCHES, SIZES
from glenhail.server.outputs.queries import cells_of
from glenhail.server.studies import queries
from glenhail.server.studies.models import Study

STATES = [OPEN, HARMLESS, *Decided.values]


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


class FindingRef(serializers.Serializer[Any]):
    """A finding, and what it was about when it was shown."""

    finding = serializers.CharField(max_length=60)
    about = serializers.CharField(max_length=64)


class AcceptIn(serializers.Serializer[Any]):
    """Several findings accepted for one reason."""

    findings = serializers.ListField(child=FindingRef(), allow_empty=False, max_length=500)
    reason = serializers.CharField(max_length=300)


class DecisionIn(serializers.Serializer[Any]):
    finding = serializers.CharField(max_length=60)
    kind = serializers.ChoiceField(choices=Decided.choices)
    reason = serializers.CharField(max_length=300, allow_blank=True, default="")
    about = serializers.CharField(max_length=64, allow_blank=True, default="")


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
        decisions.decide(
            request.user, study, given["finding"], given["kind"], given["reason"], given["about"]
        )
        return Response(audit_page(study))

    @extend_schema(operation_id="audit_accept", request=AcceptIn, responses=AuditOut)
    def put(self, request: Request, study_id: int) -> Response:
        study, given = queries.find_study(request.user, study_id), valid(AcceptIn, request)
        findings = [(f["finding"], f["about"]) for f in given["findings"]]
        decisions.accept_all(request.user, study, findings, given["reason"])
        return Response(audit_page(study))


class DecisionView(APIView):
    """Taking a decision back."""

    @extend_schema(operation_id="audit_reopen", responses=AuditOut)
    def delete(self, request: Request, study_id: int, finding: str) -> Response:
        study = queries.find_study(request.user, study_id)
        decisions.reopen(request.user, study, finding)
        return Response(audit_page(study))


def audit_page(study: Study) -> Any:
    """A study's audit as it is sent."""
    now = study_audit_module.study_audit(study)
    outputs = {(o.contender_id, o.frame_id): o.pk for o in cells_of(study)}
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
            "frame": p.frame,
            "output": None if p.frame is None else outputs.get((f.contender, p.frame)),
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
