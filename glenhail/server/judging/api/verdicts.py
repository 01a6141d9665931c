"""Verdicts, what they can rest on, and calls by those who see the names."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.judging.verdicts import Evidence, Judged, Source
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import require
from glenhail.server.common.locks import locked
from glenhail.server.common.requests import valid
from glenhail.server.common.versions import require_current, tagged
from glenhail.server.judging.actions.named_calls import call_named
from glenhail.server.judging.actions.verdicts import MOST_EVIDENCE, Line, write_verdicts
from glenhail.server.judging.evidence import StudyEvidence, key_of, things_of
from glenhail.server.judging.models import NamedCall
from glenhail.server.judging.queries import named_calls_of
from glenhail.server.studies.models import Study
from glenhail.server.studies.queries import find_study

MARKS = [m.value for m in Judged]
SOURCES = [s.value for s in Source]
LARGEST = 2**31


class VerdictShape(serializers.Serializer[Any]):
    """For which use and kind of scene (empty: all of them), in words; ``marks`` tell
    how contenders stand by letter, ``evidence`` the keys of what it rests on.
    """

    use = serializers.CharField(max_length=80, allow_blank=True)
    scene = serializers.CharField(max_length=40, allow_blank=True, default="")
    text = serializers.CharField(max_length=400, allow_blank=True)
    marks = serializers.DictField(child=serializers.ChoiceField(choices=MARKS), default=dict)
    evidence = serializers.ListField(
        child=serializers.CharField(max_length=120), max_length=MOST_EVIDENCE, default=list
    )


class VerdictsIn(serializers.Serializer[Any]):
    verdicts = VerdictShape(many=True)


def _told(study: Study) -> list[dict[str, Any]]:
    names = ("use", "scene", "text", "marks", "evidence")
    return [{name: getattr(v, name) for name in names} for v in study.verdicts.all()]


class VerdictsView(APIView):
    """A study's verdicts by use and kind of scene."""

    @extend_schema(operation_id="verdicts_list", responses=VerdictShape(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        told = _told(find_study(request.user, study_id))
        return Response(told, headers=tagged(told))

    @extend_schema(
        operation_id="verdicts_write", request=VerdictsIn, responses=VerdictShape(many=True)
    )
    def put(self, request: Request, study_id: int) -> Response:
        study = find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        lines = [Line(**v) for v in valid(VerdictsIn, request)["verdicts"]]
        with transaction.atomic():
            locked(study)
            require_current(request, _told(study))
            write_verdicts(request.user, study, lines)
        told = _told(study)
        return Response(told, headers=tagged(told))


class EvidenceLineOut(serializers.Serializer[Any]):
    """What speaks of one contender; ``says`` is null where it carries no answer."""

    key = serializers.CharField()
    letter = serializers.CharField()
    kind = serializers.ChoiceField(choices=SOURCES)
    says = serializers.ChoiceField(choices=MARKS, allow_null=True)
    about = serializers.CharField()
    text = serializers.CharField()
    measure = serializers.CharField()
    sitting = serializers.IntegerField(allow_null=True)


class EvidenceCellOut(serializers.Serializer[Any]):
    """What is known for a use (empty: any) and kind of scene (empty: all)."""

    use = serializers.CharField()
    scene = serializers.CharField()
    proposal = serializers.CharField()
    evidence = EvidenceLineOut(many=True)


class ThingOut(serializers.Serializer[Any]):
    """Something that a verdict can rest on, in words."""

    key = serializers.CharField()
    text = serializers.CharField()


class VerdictEvidenceOut(serializers.Serializer[Any]):
    """``asked`` is what each verdict is asked, in their order, because its evidence
    says otherwise; ``reference`` whom all contenders are held against.
    """

    reference = serializers.CharField(allow_null=True)
    scenes = serializers.ListField(child=serializers.CharField())
    cells = EvidenceCellOut(many=True)
    things = ThingOut(many=True)
    asked = serializers.ListField(child=serializers.ListField(child=serializers.CharField()))


class EvidenceView(APIView):
    """What a study's verdicts can rest on."""

    @extend_schema(operation_id="evidence_read", responses=VerdictEvidenceOut)
    def get(self, request: Request, study_id: int) -> Response:
        study = find_study(request.user, study_id)
        found = StudyEvidence(study)
        cells = [
            {
                "use": cell.use,
                "scene": cell.scene,
                "proposal": cell.proposal,
                "evidence": [_line(e, key_of(e, cell.scene)) for e in cell.evidence],
            }
            for cell in found.cells()
        ]
        whole = {
            "reference": found.reference,
            "scenes": found.scenes,
            "cells": cells,
            "things": [{"key": k, "text": t} for k, t in things_of(study, found).items()],
            "asked": found.asked(list(study.verdicts.all())),
        }
        return Response(VerdictEvidenceOut(whole).data)


def _line(evidence: Evidence, key: str) -> dict[str, Any]:
    names = ("letter", "says", "about", "text", "measure", "sitting")
    told = {name: getattr(evidence, name) for name in names}
    return told | {"key": key, "kind": evidence.source}


class NamedCallIn(serializers.Serializer[Any]):
    """Null takes one's call back."""

    patch = serializers.IntegerField(min_value=1, max_value=LARGEST)
    contender = serializers.IntegerField(min_value=1, max_value=LARGEST)
    answer = serializers.ChoiceField(choices=MARKS, allow_null=True)


class NamedCallOut(serializers.Serializer[Any]):
    """A call by somebody who saw the names; ``against`` is the reference's letter."""

    patch = serializers.IntegerField(source="patch_id")
    contender = serializers.IntegerField(source="contender_id")
    against = serializers.CharField(source="against.letter")
    answer = serializers.ChoiceField(choices=MARKS)
    author = serializers.CharField(source="author.username")
    mine = serializers.SerializerMethodField()

    def get_mine(self, call: NamedCall) -> bool:
        """Whether whoever asks gave it."""
        return bool(call.author_id == self.context["user"].pk)


class NamedCallsView(APIView):
    """Calls by those who see the names, kept apart from blind ones."""

    @extend_schema(operation_id="named_calls_list", responses=NamedCallOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        return self._all(request, find_study(request.user, study_id))

    @extend_schema(
        operation_id="named_call_give", request=NamedCallIn, responses=NamedCallOut(many=True)
    )
    def put(self, request: Request, study_id: int) -> Response:
        study = find_study(request.user, study_id)
        require(request.user, study.bench, Role.EDITOR)
        given = valid(NamedCallIn, request)
        answer = Judged(given["answer"]) if given["answer"] else None
        call_named(request.user, study, given["patch"], given["contender"], answer)
        return self._all(request, study)

    def _all(self, request: Request, study: Study) -> Response:
        rows = named_calls_of(study)
        return Response(NamedCallOut(rows, many=True, context={"user": request.user}).data)
