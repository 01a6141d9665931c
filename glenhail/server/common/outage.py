"""A database that is away is told as such wherever it is met, and to be asked again."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

from glenhail.server.common.problems import AWAY, CONTENT_TYPE, DATABASE_AWAY, problem


class Outage:
    """Middleware: 503 with Retry-After instead of an unforeseen error."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass the request on."""
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, error: Exception) -> HttpResponse | None:
        """What a view did not handle itself."""
        if not isinstance(error, AWAY):
            return None
        answer: HttpResponse
        if request.path.startswith("/api/"):
            answer = JsonResponse(
                problem(503, "Away for a moment", DATABASE_AWAY),
                status=503,
                content_type=CONTENT_TYPE,
            )
        else:
            answer = HttpResponse(
                DATABASE_AWAY, status=503, content_type="text/plain; charset=utf-8"
            )
        answer["Retry-After"] = "2"
        return answer
