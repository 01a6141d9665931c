"""What line-ups, measures and readings look like from outside."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from glenhail.core.measures.catalogue import FAMILIES
from glenhail.server.measuring.models import Reading


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


class ToneMatchOut(serializers.Serializer[Any]):
    """What takes an output's brightness off for looking:

    EV over its frame, and its tone curve, encoded 0..1.
    """

    stops = serializers.FloatField(allow_null=True)
    frame = serializers.ListField(child=serializers.FloatField())
    output = serializers.ListField(child=serializers.FloatField())


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
