"""Addresses that no file or row can have are refused before anything is looked for."""

from __future__ import annotations

from collections.abc import Callable
from urllib.parse import unquote

from django.http import HttpRequest, HttpResponse, JsonResponse

from glenhail.server.common.problems import CONTENT_TYPE, problem

MOST = 4000  # characters


class PlainAddresses:
    """Middleware: no NUL, no halves of surrogate pairs, and no address longer than any
    that is used.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Refuse, or pass the request on."""
        query = unquote(request.META.get("QUERY_STRING", ""), errors="replace")
        if len(request.path) + len(query) > MOST or not (_plain(request.path) and _plain(query)):
            return JsonResponse(
                problem(400, "That is no address", "This address can not be one of ours."),
                status=400,
                content_type=CONTENT_TYPE,
            )
        return self.get_response(request)


def _plain(text: str) -> bool:
    return "\0" not in text and not any("\ud800" <= c <= "\udfff" for c in text)
