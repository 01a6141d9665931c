"""What steps and fields ask for, as the web part needs it to draw a form."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from glenhail.core.degrade.steps import StepKind
from glenhail.core.parameters import Choice, Number
from glenhail.core.targets.fields import FieldKind

FINE = 0.1  # a usual step of a number that is not whole


class ParameterOut(serializers.Serializer[Any]):
    """A number within bounds, or one of several words."""

    name = serializers.CharField()
    title = serializers.CharField()
    unit = serializers.CharField()
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    whole = serializers.BooleanField()
    step = serializers.FloatField()
    among = serializers.ListField(child=serializers.CharField())
    usual = serializers.JSONField()


class StepKindOut(serializers.Serializer[Any]):
    """A kind of step, or of field: what it does and what it asks for."""

    id = serializers.CharField()
    title = serializers.CharField()
    does = serializers.CharField()
    parameters = ParameterOut(many=True)


def kind_out(kind: StepKind | FieldKind) -> dict[str, Any]:
    """A kind in that shape."""
    return {
        "id": kind.id,
        "title": kind.title,
        "does": kind.does,
        "parameters": [_parameter(p) for p in kind.parameters],
    }


def _parameter(p: Number | Choice) -> dict[str, Any]:
    told: dict[str, Any] = {"name": p.name, "title": p.title, "usual": p.usual}
    if isinstance(p, Number):
        step = 2.0 if p.odd else 1.0 if p.whole else FINE
        bounds = {"low": p.low, "high": p.high, "whole": p.whole, "step": step}
        return told | bounds | {"unit": p.unit, "among": []}
    none: dict[str, Any] = {"low": None, "high": None, "whole": False, "step": 1.0, "unit": ""}
    return told | none | {"among": list(p.among)}
