"""No one person, and nobody without a session, holds all threads of the server."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from threading import Lock

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse

from glenhail.server.common.problems import CONTENT_TYPE, problem

MOST = 6  # requests under way at once in one process, of which each has eight threads


class NotAllAtOnce:
    """Middleware: a person's further requests are to come again in a moment while several are under way."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self.under_way: Counter[str] = Counter()
        self.lock = Lock()

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Count the request while it is answered, or turn it away."""
        who = request.COOKIES.get(settings.SESSION_COOKIE_NAME) or request.META.get("REMOTE_ADDR", "")
        with self.lock:
            if self.under_way[who] >= MOST:
                return self._later()
            self.under_way[who] += 1
        try:
            return self.get_response(request)
        finally:
            with self.lock:
                self.under_way[who] -= 1
                if not self.under_way[who]:
                    del self.under_way[who]

    def _later(self) -> HttpResponse:
        body = problem(429, "One after the other", "Several of your requests are under way. Ask again in a moment.")
        return JsonResponse(body, status=429, content_type=CONTENT_TYPE, headers={"Retry-After": "1"})
