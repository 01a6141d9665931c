"""What a study’s page looks like from outside."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from glenhail.server.material.api.views import FrameOut, PictureOut
from glenhail.server.measuring.api.shapes import LineUpOut, ToneMatchOut
from glenhail.server.studies.api.shapes import ContenderOut, PatchOut

STATES = ["absent", "waiting", "lining up", "ready", "refused"]


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


class StudyRow(serializers.Serializer[Any]):
    """A study in the list."""

    id = serializers.IntegerField()
    question = serializers.CharField()
    factor = serializers.CharField()
    created = serializers.DateTimeField()
    archived = serializers.BooleanField()
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
