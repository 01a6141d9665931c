"""The only pages that need no session: editions, as they were printed."""

from __future__ import annotations

import mimetypes
import posixpath

from django.core.files.storage import storages
from django.http import (
    FileResponse,
    Http404,
    HttpRequest,
    HttpResponse,
    HttpResponseBase,
    JsonResponse,
    StreamingHttpResponse,
)
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_safe

from glenhail.server.publishing.bundle import stream_bundle
from glenhail.server.publishing.models import Edition, Report
from glenhail.server.publishing.queries import newest_edition

FOR_EVER = "public, max-age=31536000, immutable"


@require_safe
def newest(request: HttpRequest, slug: str) -> HttpResponse:
    """Lead to the newest edition."""
    edition = newest_edition(slug)
    if edition is None:
        raise Http404
    return redirect(edition.address)


@require_safe
def page(request: HttpRequest, slug: str, number: int) -> HttpResponseBase:
    """An edition's page."""
    return part(request, slug, number, "index.html")


@require_safe
def part(request: HttpRequest, slug: str, number: int, name: str) -> HttpResponseBase:
    """One file of an edition. The list of editions is the one thing here that grows."""
    edition = get_object_or_404(Edition, report__slug=slug, number=number)
    if name == "editions.json":
        return JsonResponse({"editions": _editions(edition.report)})
    if posixpath.normpath(name) != name or name.startswith(("/", "..")):
        raise Http404
    try:
        file = storages["editions"].open(f"{edition.folder}/{name}")
    except (FileNotFoundError, IsADirectoryError) as error:
        raise Http404 from error
    kind = {
        ".woff2": "font/woff2",
        ".csv": "text/csv; charset=utf-8",
        ".html": "text/html; charset=utf-8",
    }
    guessed = (
        kind.get(posixpath.splitext(name)[1])
        or mimetypes.guess_type(name)[0]
        or "application/octet-stream"
    )
    return FileResponse(file, content_type=guessed, headers={"Cache-Control": FOR_EVER})


def _editions(report: Report) -> list[dict[str, object]]:
    return [
        {
            "number": e.number,
            "note": e.note,
            "published": e.published.isoformat(),
            "address": e.address,
        }
        for e in report.editions.all()
    ]


@require_safe
def everything(request: HttpRequest, slug: str, number: int) -> StreamingHttpResponse:
    """Originals, outputs, crops, readings and checksums as one ZIP, written while it is
    read.
    """
    edition = get_object_or_404(Edition, report__slug=slug, number=number)
    name = f"{slug}-edition-{number}.zip"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return StreamingHttpResponse(
        stream_bundle(edition), content_type="application/zip", headers=headers
    )
