"""What studies, their contenders and patches look like from outside."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from glenhail.core.measures.catalogue import ROLES
from glenhail.server.common.versions import tag
from glenhail.server.material.api.terms import TermsShape
from glenhail.server.studies.models import Contender, Factor, Kind, Patch, Study
from glenhail.server.tools.api.shapes import TreatmentShape


class StudyIn(serializers.Serializer[Any]):
    question = serializers.CharField(max_length=200)
    factor = serializers.ChoiceField(choices=Factor.choices)


class ArchivedIn(serializers.Serializer[Any]):
    archived = serializers.BooleanField()


class FrameRef(serializers.Serializer[Any]):
    frame = serializers.IntegerField()


class PatchIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=60, allow_blank=True)
    role = serializers.ChoiceField(choices=ROLES)
    x = serializers.FloatField()
    y = serializers.FloatField()
    w = serializers.FloatField()
    h = serializers.FloatField()


class NewPatchIn(PatchIn):
    frame = serializers.IntegerField()


class ContenderOut(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    letter = serializers.CharField()
    kind = serializers.ChoiceField(choices=Kind.choices)
    title = serializers.CharField()
    manner = serializers.CharField()
    terms = TermsShape()
    treatment = serializers.SerializerMethodField()

    @extend_schema_field(TreatmentShape(allow_null=True))
    def get_treatment(self, contender: Contender) -> Any:
        return (
            TreatmentShape(contender.treatment.told.as_json()).data if contender.treatment else None
        )


class PatchOut(serializers.ModelSerializer[Patch]):
    """A patch; ``version`` is to be sent as If-Match with a change."""

    version = serializers.SerializerMethodField()

    class Meta:
        model = Patch
        fields = ["id", "frame", "name", "role", "x", "y", "w", "h", "doubt", "version"]
        read_only_fields = fields

    def get_version(self, patch: Patch) -> str:
        return tag(patch.drawn)


class StudyNew(serializers.ModelSerializer[Study]):
    class Meta:
        model = Study
        fields = ["id", "question", "factor"]
        read_only_fields = fields
