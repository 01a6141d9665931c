"""What tools, releases and treatments look like from outside."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from glenhail.core.methods.method import Method
from glenhail.core.parameters import KINDS, as_json
from glenhail.core.treatments.step import FEEDS
from glenhail.server.common.versions import tag
from glenhail.server.tools.models import (
    PLATFORMS,
    WAYS,
    Disclosure,
    Licence,
    Price,
    Release,
    Takes,
    Tool,
    ToolKind,
)


class SettingKind(serializers.Serializer[Any]):
    """A setting that a release has: a number with bounds and unit, a choice, a switch,
    or text.
    """

    kind = serializers.ChoiceField(choices=list(KINDS))
    name = serializers.CharField(max_length=60)
    title = serializers.CharField(max_length=60, allow_blank=True, default="")
    unit = serializers.CharField(max_length=20, allow_blank=True, default="")
    low = serializers.FloatField(allow_null=True, default=None)
    high = serializers.FloatField(allow_null=True, default=None)
    whole = serializers.BooleanField(default=False)
    among = serializers.ListField(child=serializers.CharField(max_length=60), default=list)
    usual = serializers.JSONField(allow_null=True, default=None)


class CommandShape(serializers.Serializer[Any]):
    """A command template: {input}, {output}, {mode}, {strength} and settings' names in
    braces are filled in.
    """

    program = serializers.CharField(max_length=80)
    arguments = serializers.ListField(child=serializers.CharField(max_length=300))
    ending = serializers.CharField(max_length=8)
    seconds = serializers.FloatField()
    memory_mb = serializers.FloatField()
    output_mb = serializers.FloatField()
    network = serializers.BooleanField(default=False)


class ReleaseIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=40, allow_blank=True)
    released = serializers.DateField(allow_null=True)
    news = serializers.CharField(allow_blank=True, max_length=2000)
    modes = serializers.ListField(child=serializers.CharField(max_length=80))
    raw_modes = serializers.ListField(child=serializers.CharField(max_length=80))
    strength = serializers.BooleanField()
    settings = SettingKind(many=True)


class ReleaseOut(ReleaseIn):
    """A release; ``version`` is to be sent as If-Match with a change."""

    id = serializers.IntegerField()
    version = serializers.SerializerMethodField()
    method = serializers.CharField()
    runs = serializers.BooleanField()
    command = CommandShape(allow_null=True)
    settings = serializers.SerializerMethodField()  # type: ignore[assignment]

    def get_version(self, release: Release) -> str:
        return tag(release_facts(release))

    @extend_schema_field(SettingKind(many=True))
    def get_settings(self, release: Release) -> Any:
        return SettingKind([setting_kind(as_json(p)) for p in release.parameters], many=True).data


def setting_kind(told: dict[str, Any]) -> dict[str, Any]:
    """A parameter with every field of the shape."""
    return {"unit": "", "low": None, "high": None, "whole": False, "among": [], **told}


class PriceShape(serializers.ModelSerializer[Price]):
    class Meta:
        model = Price
        fields = ["what", "amount", "currency", "checked"]


class ToolIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=80)
    kind = serializers.ChoiceField(choices=ToolKind.choices, allow_blank=True)
    maker = serializers.CharField(max_length=120, allow_blank=True)
    licence = serializers.ChoiceField(choices=Licence.choices, allow_blank=True)
    platforms = serializers.ListField(child=serializers.ChoiceField(choices=PLATFORMS))
    ways = serializers.ListField(child=serializers.ChoiceField(choices=WAYS))
    takes = serializers.ChoiceField(choices=Takes.choices)
    largest = serializers.FloatField(allow_null=True, min_value=1, max_value=64)
    batch = serializers.BooleanField(allow_null=True)
    notes = serializers.CharField(allow_blank=True, max_length=4000)
    disclosure = serializers.ChoiceField(choices=Disclosure.choices, allow_blank=True)
    prices = PriceShape(many=True)


class ToolOut(ToolIn):
    """A tool; ``version`` is to be sent as If-Match with a change of its facts."""

    id = serializers.IntegerField()
    version = serializers.SerializerMethodField()
    releases = ReleaseOut(many=True)
    used = serializers.SerializerMethodField()

    def get_version(self, tool: Tool) -> str:
        return tag(tool_facts(tool))

    def get_used(self, tool: Tool) -> int:
        """How many steps of treatments use it."""
        return sum(len(r.steps.all()) for r in tool.releases.all())


def tool_facts(tool: Tool) -> dict[str, Any]:
    """What of a tool is edited together."""
    return dict(ToolIn(tool).data)


def release_facts(release: Release) -> dict[str, Any]:
    """What of a release is edited together."""
    told = {
        name: getattr(release, name)
        for name in ("name", "released", "news", "modes", "raw_modes", "strength")
    }
    return {**told, "settings": [setting_kind(as_json(p)) for p in release.parameters]}


class MethodOut(serializers.Serializer[Any]):
    """A built-in method."""

    id = serializers.CharField()
    title = serializers.CharField()
    family = serializers.CharField()
    does = serializers.CharField()
    published = serializers.CharField(source="source")
    resizes = serializers.SerializerMethodField()
    settings = serializers.SerializerMethodField()

    def get_resizes(self, method: Method) -> bool:
        return method.work is None

    @extend_schema_field(SettingKind(many=True))
    def get_settings(self, method: Method) -> Any:
        return SettingKind([setting_kind(as_json(p)) for p in method.parameters], many=True).data


class ComparisonRow(serializers.Serializer[Any]):
    fact = serializers.CharField()
    told = serializers.ListField(child=serializers.CharField())


class ComparisonOut(serializers.Serializer[Any]):
    tools = serializers.ListField(child=serializers.CharField())
    rows = ComparisonRow(many=True)


class SettingShape(serializers.Serializer[Any]):
    """One setting of a step; an automatic one may have no value."""

    name = serializers.CharField(max_length=60)
    value = serializers.JSONField(allow_null=True)
    unit = serializers.CharField(max_length=20, allow_blank=True, default="")
    automatic = serializers.BooleanField(default=False)


class PartShape(serializers.Serializer[Any]):
    """Per cent of the picture's width and height."""

    x = serializers.FloatField()
    y = serializers.FloatField()
    w = serializers.FloatField()
    h = serializers.FloatField()


class StepShape(serializers.Serializer[Any]):
    """One step: a release with mode, settings, strength, and what it is limited to."""

    tool = serializers.CharField(max_length=80)
    release = serializers.CharField(max_length=40, allow_blank=True, default="")
    mode = serializers.CharField(max_length=80, allow_blank=True, default="")
    settings = SettingShape(many=True, default=list)
    strength = serializers.FloatField(allow_null=True, default=None)
    automatic = serializers.BooleanField(default=False)
    limit = serializers.CharField(max_length=120, allow_blank=True, default="")
    part = PartShape(allow_null=True, default=None)
    method = serializers.CharField(max_length=20, allow_blank=True, default="")


class TreatmentShape(serializers.Serializer[Any]):
    """Steps in their order, and what the first is handed."""

    steps = StepShape(many=True)
    feed = serializers.ChoiceField(choices=FEEDS, default=FEEDS[0])


class SavedIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=80)
    treatment = TreatmentShape()


class SavedOut(serializers.Serializer[Any]):
    """A treatment kept for reuse."""

    id = serializers.IntegerField()
    name = serializers.CharField(source="saved_as")
    words = serializers.CharField(source="told.words")
    treatment = serializers.SerializerMethodField()

    @extend_schema_field(TreatmentShape)
    def get_treatment(self, row: Any) -> Any:
        return TreatmentShape(row.told.as_json()).data
