"""The one page that the web part runs in."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie


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
    return HttpResponse(index.read_bytes(), headers={"Cache-Control": "no-store"})
