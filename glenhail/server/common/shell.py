"""The one page that the web part runs in."""

from __future__ import annotations

import re

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie

STUDY = re.compile(r"/studies/([0-9]{1,18})(?:/|$)")
# As the web part's own calls are made, or the browser would fetch it twice.
PRELOAD = "rel=preload; as=fetch; crossorigin"


@ensure_csrf_cookie
def shell(request: HttpRequest) -> HttpResponse:
    """The built index page; never kept by the browser, for it names the current
    scripts.
    """
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse(
            "The web part is not built. Run ./run serve, which builds it.",
            status=503,
            content_type="text/plain",
        )
    headers = {"Cache-Control": "no-store"}
    if request.user.is_authenticated and (ahead := _asked_first(request.path)):
        headers["Link"] = ", ".join(f"<{path}>; {PRELOAD}" for path in ahead)
    return HttpResponse(index.read_bytes(), headers=headers)


def _asked_first(path: str) -> list[str]:
    """What the page at an address asks for before it can show anything: a browser that
    is told so fetches it while the scripts are still being read (RFC 8288, preload).
    """
    study = STUDY.match(path)
    return ["/api/session", f"/api/studies/{study[1]}"] if study else []
