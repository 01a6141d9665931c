"""Errors of every layer as RFC 9457 problem details, in one place."""

from __future__ import annotations

import errno
import logging
from typing import Any

from django.core.exceptions import PermissionDenied
from django.db import DataError, InterfaceError, OperationalError
from django.http import Http404
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import set_rollback

from glenhail.core.errors import CoreError
from glenhail.server.common.errors import ActionError, NotYet, Outdated

log = logging.getLogger(__name__)
CONTENT_TYPE = "application/problem+json"
AWAY = (OperationalError, InterfaceError)
DATABASE_AWAY = (
    "The database does not answer. It is started again by itself; nothing was lost. Ask again in a"
    " moment."
)
DISK_FULL = "The disk of this bench is full. Nothing was lost: free some room and try again."


def handler(error: Exception, context: dict[str, Any]) -> Response | None:  # noqa: PLR0911  (one line an error)
    """DRF's exception hook; None leaves an unforeseen error to Django's 500."""
    set_rollback()
    if isinstance(error, NotYet):
        return _problem(error.status, error.title, str(error), {"Retry-After": str(error.after_s)})
    if isinstance(error, Outdated):
        answer = _problem(error.status, error.title, str(error), {"ETag": error.tag})
        answer.data |= {"current": error.current, "tag": error.tag}
        return answer
    if isinstance(error, ActionError):
        return _problem(error.status, error.title, str(error))
    if isinstance(error, CoreError):
        return _problem(400, "That can not be done", str(error))
    if isinstance(error, AWAY):
        return _problem(503, "Away for a moment", DATABASE_AWAY, {"Retry-After": "2"})
    if isinstance(error, DataError | OverflowError | UnicodeError):
        log.warning("refused as no value that can be kept", exc_info=error)
        return _problem(
            400,
            "That can not be done",
            "A value is larger, longer or stranger than any that can be kept.",
        )
    if isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT):
        return _problem(507, "No room left", DISK_FULL)
    if isinstance(error, Http404):
        return _problem(404, "Not found", "There is no such thing, or it was removed.")
    if isinstance(error, PermissionDenied):
        return _problem(403, "Not allowed", "Sign in, or ask an owner for a role that may do this.")
    if isinstance(error, exceptions.ValidationError):
        return _problem(400, "Something in the form is not right", "; ".join(_flat(error.detail)))
    if isinstance(error, exceptions.APIException):
        scheme = getattr(error, "auth_header", None)
        headers = {"WWW-Authenticate": scheme} if scheme else None
        return _problem(error.status_code, "That can not be done", str(error.detail), headers)
    return None


def _problem(
    status: int, title: str, detail: str, headers: dict[str, str] | None = None
) -> Response:
    return Response(
        problem(status, title, detail), status=status, content_type=CONTENT_TYPE, headers=headers
    )


def problem(status: int, title: str, detail: str) -> dict[str, Any]:
    """The details as RFC 9457 has them."""
    return {"type": "about:blank", "title": title, "status": status, "detail": detail}


def _flat(detail: Any, name: str = "") -> list[str]:
    if isinstance(detail, dict):
        return [line for key, value in detail.items() for line in _flat(value, str(key))]
    if isinstance(detail, list):
        return [line for value in detail for line in _flat(value, name)]
    return [f"{name}: {detail}" if name and name != "non_field_errors" else str(detail)]
