"""Reading what a request carries."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers
from rest_framework.request import Request


def valid(shape: type[serializers.Serializer[Any]], request: Request) -> dict[str, Any]:
    """A request's body in a given shape."""
    given = shape(data=request.data)
    given.is_valid(raise_exception=True)
    return dict(given.validated_data)
