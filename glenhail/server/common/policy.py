"""A content security policy for every page: nothing from elsewhere, ever."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

POLICY = (
    "default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; font-src"
    " 'self' data:; object-src 'none'; base-uri 'self'; form-action 'self'; frame-ancestors 'self'"
)


class ContentPolicy:
    """Adds the policy.

    Inline styles are allowed because the theme writes its colours as one.
    """

    def __init__(self, respond: Callable[[HttpRequest], HttpResponse]) -> None:
        self.respond = respond

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.respond(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        return response
