"""The only pages that need no session: editions, as they were printed."""

from __future__ import annotations

import posixpath

from django.conf import settings
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
from django.shortcuts import redirect
from django.utils.cache import get_conditional_response
from django.views.decorators.http import require_safe

from glenhail.server.accounts.permissions import belongs
from glenhail.server.publishing.bundle import stream_bundle
from glenhail.server.publishing.models import Edition
from glenhail.server.publishing.queries import edition_at, later_than, newest_edition, original_of
from glenhail.server.publishing.serving import SAVED, caching, media_type
from glenhail.server.publishing.site.pages import site_page, withdrawn_page

# A figure to be carried by any site: it may load nothing.
CARRIED = "embeds/"
CARRIED_POLICY = (
    "default-src 'none'; img-src data:; style-src 'unsafe-inline'; base-uri 'none'; form-action"
    " 'none'; frame-ancestors *"
)


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
    edition = _readable(request, slug, number)
    if edition.withdrawn:
        return _gone(edition)
    if name == "editions.json":
        return JsonResponse(later_than(edition))
    if posixpath.normpath(name) != name or name.startswith(("/", "..")):
        raise Http404
    tag = next((f'"{part["sha256"]}"' for part in edition.files if part["name"] == name), None)
    if tag is None:
        # A printing that died may have left files that are no part of what came of the next.
        raise Http404
    try:
        file = storages["editions"].open(f"{edition.folder}/{name}")
    except FileNotFoundError as error:
        raise Http404 from error
    headers = _headers(edition, name) | {"ETag": tag}
    unchanged = get_conditional_response(request, etag=tag)
    if unchanged is not None:
        file.close()
        return HttpResponse(status=unchanged.status_code, headers=headers)
    answer = FileResponse(file, content_type=media_type(name), headers=headers)
    if name.startswith(CARRIED):
        answer.headers["Content-Security-Policy"] = CARRIED_POLICY
        answer.xframe_options_exempt = True  # type: ignore[attr-defined]
    return answer


@require_safe
def one_original(request: HttpRequest, slug: str, number: int, name: str) -> HttpResponseBase:
    """One original or output of an edition by itself, under its name in the download."""
    edition = _readable(request, slug, number)
    if edition.withdrawn:
        return _gone(edition)
    stored = original_of(edition, name)
    if stored is None:
        raise Http404
    return FileResponse(
        storages["originals"].open(stored.path),
        as_attachment=True,
        filename=posixpath.basename(name),
        content_type=SAVED,
        headers=_headers(edition, name),
    )


def _readable(request: HttpRequest, slug: str, number: int) -> Edition:
    """An edition that is public, or known to somebody of its bench.

    Raises
    ------
    Http404
        If there is none, or none yet for whoever asks.
    """
    edition = edition_at(slug, number)
    if edition is None:
        raise Http404
    if edition.under_embargo and not belongs(request.user, edition.report.study.bench):
        raise Http404
    return edition


def _headers(edition: Edition, name: str) -> dict[str, str]:
    # What is not public yet is kept by no browser.
    found = {"Cache-Control": "private, no-store" if edition.under_embargo else caching(name)}
    return {**found, "X-Robots-Tag": "noindex"} if settings.NOINDEX else found


def _gone(edition: Edition) -> HttpResponse:
    return HttpResponse(withdrawn_page(edition), status=410, headers={"Cache-Control": "no-cache"})


@require_safe
def site(request: HttpRequest, name: str = "index.html") -> HttpResponse:
    """A page or file of the site around the editions."""
    data = site_page(name)
    if data is None:
        raise Http404
    headers = {"X-Robots-Tag": "noindex"} if settings.NOINDEX else {}
    return HttpResponse(data, content_type=media_type(name), headers=headers)


@require_safe
def everything(request: HttpRequest, slug: str, number: int) -> HttpResponseBase:
    """Originals, outputs, crops, readings and checksums as one ZIP, written while it is
    read.
    """
    edition = _readable(request, slug, number)
    if edition.withdrawn:
        return _gone(edition)
    name = f"{slug}-edition-{number}.zip"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return StreamingHttpResponse(
        stream_bundle(edition), content_type="application/zip", headers=headers
    )
