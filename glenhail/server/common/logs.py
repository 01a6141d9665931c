"""The log: one JSON object a line, with the request or job that it is about and who
asked. Never what was sent.
"""

from __future__ import annotations

import json
import logging
import re
import time
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import UTC, datetime

from django.http import HttpRequest, HttpResponseBase
from django.utils.functional import SimpleLazyObject

log = logging.getLogger("glenhail.requests")
HEADER = "X-Request-ID"
GIVEN = re.compile(r"[\w.-]{1,64}", re.ASCII)
_about: ContextVar[dict[str, object] | None] = ContextVar("about", default=None)


@contextmanager
def about(**what: object) -> Iterator[None]:
    """Everything logged within tells this too."""
    before = _about.set({**(_about.get() or {}), **what})
    try:
        yield
    finally:
        _about.reset(before)


class JsonLines(logging.Formatter):
    """A record as one line: time, level, where, words, what it is about, and the error
    where there is one.
    """

    def format(self, record: logging.LogRecord) -> str:
        """The line."""
        told = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname,
            "where": record.name,
            "words": record.getMessage(),
            **(_about.get() or {}),
            **getattr(record, "facts", {}),
        }
        if record.exc_info:
            told["error"] = self.formatException(record.exc_info)
        return json.dumps(told, default=str)


class RequestLog:
    """Middleware: a request has an id, which its answer tells, and one line: method,
    path, status, milliseconds, who.

    What follows `?` is left out, and so are headers and bodies: they may hold what is
    nobody's business.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answer, and write the line."""
        given = request.headers.get(HEADER, "")
        name = given if GIVEN.fullmatch(given) else uuid.uuid4().hex
        began = time.monotonic()
        with about(request=name):
            response = self.get_response(request)
            facts = {
                "method": request.method,
                "path": request.path,
                "status": response.status_code,
                "ms": round(1000 * (time.monotonic() - began)),
                "user": _who(request),
            }
            log.info("answered", extra={"facts": facts})
        response.headers[HEADER] = name
        return response


def _who(request: HttpRequest) -> object:
    """The number of who asked, if anything asked for it: the log does not go to the
    database for it.
    """
    user = getattr(request, "_cached_user", None) or request.__dict__.get("user")
    return None if isinstance(user, SimpleLazyObject) else getattr(user, "pk", None)
