"""What somebody hears who tried too many passwords."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, JsonResponse

from glenhail.server.common.problems import CONTENT_TYPE, problem

WAIT = "Too many wrong passwords for this name from here. Try again in a quarter of an hour."


def told(
    request: HttpRequest,
    original_response: object = None,
    credentials: dict[str, Any] | None = None,
) -> JsonResponse:
    """The answer while a name and an address are shut out; django-axes asks for it."""
    return JsonResponse(
        problem(429, "Too often", WAIT),
        status=429,
        content_type=CONTENT_TYPE,
        headers={"Retry-After": "900"},
    )
