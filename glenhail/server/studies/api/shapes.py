"""What studies look like from outside."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from glenhail.core.measures.catalogue import FAMILIES, ROLES
from glenhail.server.common.versions import tag
from glenhail.server.material.api.views import FrameOut, PictureOut
from glenhail.server.studies.models import Contender, Factor, Kind, Patch, Reading, Study
from glenhail.server.tools.api.shapes import TreatmentShape

STATES = ["absent", "waiting", "lining up", "ready", "refused"]


class StudyIn(serializers.Serializer[Any]):
    question = serializers.CharField(max_length=200)
    factor = serializers.ChoiceField(choices=Factor.choices)


class FrameRef(serializers.Serializer[Any]):
    frame = serializers.IntegerField()


class AbsenceIn(serializers.Serializer[Any]):
    absence = serializers.CharField(max_length=300)


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
    treatment = serializers.SerializerMethodField()

    @extend_schema_field(TreatmentShape(allow_null=True))
    def get_treatment(self, contender: Contender) -> Any:
        return (
            TreatmentShape(contender.treatment.told.as_json()).data if contender.treatment else None
        )


class BendOut(serializers.Serializer[Any]):
    """A left-over shift, frame px: a cubic polynomial of the place (core.picture.Bend)."""

    x = serializers.FloatField()
    y = serializers.FloatField()
    reach = serializers.FloatField()
    across = serializers.ListField(child=serializers.FloatField())
    down = serializers.ListField(child=serializers.FloatField())


class LineUpOut(serializers.Serializer[Any]):
    """Frame coordinates to output pixels; border in output pixels, residual in frame
    pixels.
    """

    sx = serializers.FloatField()
    sy = serializers.FloatField()
    dx = serializers.FloatField()
    dy = serializers.FloatField()
    left = serializers.IntegerField()
    top = serializers.IntegerField()
    right = serializers.IntegerField()
    bottom = serializers.IntegerField()
    residual = serializers.FloatField()
    likeness = serializers.FloatField()
    bend = BendOut(allow_null=True)
    doubts = serializers.ListField(child=serializers.CharField())


class PreviewToldOut(serializers.Serializer[Any]):
    """How a captured preview differs from the export (core.measures.preview);

    ``refused`` where they can not be compared.
    """

    refused = serializers.CharField(required=False)
    scale = serializers.FloatField(required=False)
    width = serializers.IntegerField(required=False)
    height = serializers.IntegerField(required=False)
    de00 = serializers.FloatField(required=False)
    exposure_ev = serializers.FloatField(required=False)
    sharpness = serializers.FloatField(required=False)


class ToneMatchOut(serializers.Serializer[Any]):
    """What takes an output's brightness off for looking:

    EV over its frame, and its tone curve, encoded 0..1.
    """

    stops = serializers.FloatField(allow_null=True)
    frame = serializers.ListField(child=serializers.FloatField())
    output = serializers.ListField(child=serializers.FloatField())


class OutputOut(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    contender = serializers.IntegerField(source="contender_id")
    frame = serializers.IntegerField(source="frame_id")
    file_name = serializers.CharField()
    state = serializers.ChoiceField(choices=STATES)
    problem = serializers.CharField()
    made_here = serializers.BooleanField()
    preview = PictureOut(allow_null=True)
    preview_told = PreviewToldOut(allow_null=True)
    picture = PictureOut(allow_null=True)
    lineup = LineUpOut(allow_null=True)
    tone = ToneMatchOut(allow_null=True)


class PatchOut(serializers.ModelSerializer[Patch]):
    """A patch; ``version`` is to be sent as If-Match with a change."""

    version = serializers.SerializerMethodField()

    class Meta:
        model = Patch
        fields = ["id", "frame", "name", "role", "x", "y", "w", "h", "doubt", "version"]
        read_only_fields = fields

    def get_version(self, patch: Patch) -> str:
        return tag(patch.drawn)


class StudyRow(serializers.Serializer[Any]):
    """A study in the list."""

    id = serializers.IntegerField()
    question = serializers.CharField()
    factor = serializers.CharField()
    contenders = ContenderOut(many=True)
    frames = serializers.IntegerField()
    patches = serializers.IntegerField()
    outputs_there = serializers.IntegerField()
    outputs_wanted = serializers.IntegerField()
    edition = serializers.IntegerField(allow_null=True)
    slug = serializers.CharField()
    cover = PictureOut(allow_null=True)


class StudyOut(serializers.Serializer[Any]):
    """A study with everything its five stages show, but for the readings."""

    id = serializers.IntegerField()
    question = serializers.CharField()
    factor = serializers.CharField()
    role = serializers.CharField()
    frames = FrameOut(many=True)
    contenders = ContenderOut(many=True)
    outputs = OutputOut(many=True)
    patches = PatchOut(many=True)
    verdicts = serializers.IntegerField()
    editions = serializers.IntegerField()
    readings_there = serializers.IntegerField()
    readings_wanted = serializers.IntegerField()
    matched = serializers.CharField()


class StudyNew(serializers.ModelSerializer[Study]):
    class Meta:
        model = Study
        fields = ["id", "question", "factor"]
        read_only_fields = fields


class MeasureOut(serializers.Serializer[Any]):
    id = serializers.CharField()
    name = serializers.CharField()
    unit = serializers.CharField()
    family = serializers.ChoiceField(choices=FAMILIES)
    best = serializers.CharField(source="best_in_words", allow_null=True)
    target = serializers.FloatField(allow_null=True)
    roles = serializers.ListField(child=serializers.CharField())
    own_of = serializers.ListField(child=serializers.CharField())
    stands_for = serializers.CharField(allow_null=True)
    whole = serializers.BooleanField()
    digits = serializers.IntegerField()
    version = serializers.CharField()
    defined_by = serializers.CharField(source="source")


class ReadingOut(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    contender = serializers.IntegerField()
    frame = serializers.IntegerField()
    patch = serializers.IntegerField(allow_null=True)
    measure = serializers.CharField()
    basis = serializers.ChoiceField(choices=["as made", "matched"])
    value = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    unit = serializers.CharField()
    version = serializers.CharField()
    grid = serializers.CharField()
    reason = serializers.CharField()
    concerns = serializers.BooleanField()
    rank = serializers.IntegerField(allow_null=True)
    tied = serializers.BooleanField()
    unsure = serializers.BooleanField()


class ReadingsOut(serializers.Serializer[Any]):
    there = serializers.IntegerField()
    wanted = serializers.IntegerField()
    rule_of_ranks = serializers.CharField()
    measures = MeasureOut(many=True)
    readings = ReadingOut(many=True)


class ReadingDetail(serializers.ModelSerializer[Reading]):
    details = serializers.JSONField()

    class Meta:
        model = Reading
        fields = [
            "id",
            "measure",
            "value",
            "low",
            "high",
            "unit",
            "version",
            "grid",
            "reason",
            "details",
            "taken",
        ]
        read_only_fields = fields
