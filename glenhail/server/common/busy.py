"""No one person, and nobody without a session, holds all threads of the server."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from threading import Lock

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseBase, JsonResponse

from glenhail.server.common.problems import CONTENT_TYPE, problem

COUNTED = "/api/"
MOST = 6  # requests under way at once in one process, of which each has eight threads
MOST_STREAMS = 3  # answers that are written while they are read: a slow reader holds the thread


class NotAllAtOnce:
    """Middleware: a person's further calls are to come again in a moment while several
    are under way.

    Pages, their scripts and files do not count: a browser asks for none of them twice,
    and each costs a row and a file. (A published page stood there without its script
    when calls of the page before it were still under way, or others read behind one
    address.)
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response
        self.under_way: Counter[str] = Counter()
        self.streams = 0
        self.lock = Lock()

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Count the request while it is answered, or turn it away."""
        if not request.path.startswith(COUNTED):
            return self._answered(self.get_response(request))
        who = (
            request.headers.get("Authorization")
            or request.COOKIES.get(settings.SESSION_COOKIE_NAME)
            or request.META.get("REMOTE_ADDR", "")
        )
        with self.lock:
            if self.under_way[who] >= MOST:
                return self._later()
            self.under_way[who] += 1
        try:
            return self._answered(self.get_response(request))
        finally:
            with self.lock:
                self.under_way[who] -= 1
                if not self.under_way[who]:
                    del self.under_way[who]

    def _answered(self, response: HttpResponseBase) -> HttpResponseBase:
        """The response, or another to come again where too many are being written while
        they are read.

        Files are not among them: the front sends those itself.
        """
        if not response.streaming or isinstance(response, FileResponse):
            return response
        with self.lock:
            if self.streams >= MOST_STREAMS:
                response.close()
                return self._later(
                    "Others are downloading at the moment. Ask again in a minute.", 60
                )
            self.streams += 1
        response._resource_closers.append(self._stream_ended)  # type: ignore[attr-defined]  # Django has no other way
        return response

    def _stream_ended(self) -> None:
        with self.lock:
            self.streams -= 1

    def _later(
        self,
        why: str = "Several of your requests are under way. Ask again in a moment.",
        after_s: int = 1,
    ) -> HttpResponse:
        body = problem(429, "One after the other", why)
        return JsonResponse(
            body, status=429, content_type=CONTENT_TYPE, headers={"Retry-After": str(after_s)}
        )
