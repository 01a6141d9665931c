"""Two who edit the same thing: the later one is told, and sees both, instead of
overwriting the first (RFC 9110, 13.1.1).
"""

from __future__ import annotations

import hashlib
import json
from typing import Any

from rest_framework.request import Request

from glenhail.server.common.errors import Outdated

CHANGED = "Somebody else changed this since you began. Take theirs, or put yours in its place."


def tag(content: Any) -> str:
    """An entity tag of what can be edited, as it is answered."""
    text = json.dumps(content, sort_keys=True, default=str)
    return f'"{hashlib.sha256(text.encode()).hexdigest()[:32]}"'


def tagged(content: Any) -> dict[str, str]:
    """The header that says which version an answer is."""
    return {"ETag": tag(content)}


def require_current(request: Request, content: Any) -> None:
    """Let pass who edits what is there now, or says nothing of it.

    Ask within the transaction that locks it.

    Raises
    ------
    Outdated
        If the request's If-Match names another version; it carries the present one.
    """
    wanted = request.headers.get("If-Match", "")
    if wanted and wanted != "*" and tag(content) not in wanted:
        raise Outdated(CHANGED, content, tag(content))
