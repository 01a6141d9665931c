"""The report as its next edition would look, for those who work on it."""

from __future__ import annotations

import hashlib
import mimetypes

from django.http import Http404, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from glenhail.core.errors import BadRequest
from glenhail.core.files.contact_sheet import magnified
from glenhail.core.files.encoding import png_bytes
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.shown import GAINS, LIFTS, Showing
from glenhail.core.picture import Rect
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.common.query import choice
from glenhail.server.outputs.queries import find_output
from glenhail.server.publishing.press import ASSETS
from glenhail.server.publishing.preview import preview_page
from glenhail.server.publishing.shots import shot_of
from glenhail.server.studies.queries import find_study

LARGEST = 4096  # px a side
DRAWN = 1  # how crops are drawn: another way is another picture
WAYS = ("page", "print")
# The margins of the printed page.
SHEET = b"body { padding: 18mm 15mm 16mm }"
PART = {(200, "image/png"): OpenApiTypes.BINARY}
PAGE = {(200, "text/html"): OpenApiTypes.STR}
FILE = {(200, "application/octet-stream"): OpenApiTypes.BINARY}
SHOWN = [
    OpenApiParameter("lift", enum=[str(v) for v in LIFTS], default="0"),
    OpenApiParameter("against", str, description="The letter that a difference is taken from."),
    OpenApiParameter("kind", enum=["", *Kind], default=""),
    OpenApiParameter("gain", enum=[str(v) for v in GAINS], default="1"),
    OpenApiParameter("across", int, description="Smaller, to this width."),
]


class DraftView(APIView):
    """The page, or as it is on paper: nothing of it is kept."""

    @extend_schema(
        operation_id="report_preview",
        parameters=[OpenApiParameter("way", enum=list(WAYS), default="page")],
        responses=PAGE,
    )
    def get(self, request: Request, study_id: int) -> HttpResponse:
        style = "print.css" if choice(request, "way", WAYS) == "print" else "report.css"
        page = preview_page(find_study(request.user, study_id), style)
        return HttpResponse(
            page, headers={"Cache-Control": "no-store", "X-Frame-Options": "SAMEORIGIN"}
        )


class DraftFileView(APIView):
    """What its page asks for beside it: style, script, typefaces."""

    @extend_schema(operation_id="report_preview_file", responses=FILE)
    def get(self, request: Request, study_id: int, name: str) -> HttpResponse:
        find_study(request.user, study_id)
        paper = name == "print.css"
        path = ASSETS / ("report.css" if paper else name)
        if path.parent != ASSETS or not path.is_file():
            raise Http404
        data = path.read_bytes()
        if paper:
            # What holds on paper holds here; what is for screens of some width does not.
            data = data.replace(b"@media print", b"@media all") + SHEET
        kind = mimetypes.guess_type(path.name)[0] or "application/octet-stream"
        return HttpResponse(data, content_type=kind, headers={"Cache-Control": "no-cache"})


class ShownView(APIView):
    """A part of an output as a figure shows it, in its whole pixels; of a difference,
    in the frame's.
    """

    @extend_schema(operation_id="output_shown", parameters=SHOWN, responses=PART)
    def get(self, request: Request, output_id: int, x: int, y: int, w: int, h: int) -> HttpResponse:
        output = find_output(request.user, output_id)
        try:
            showing = Showing(
                int(choice(request, "lift", ["0", *map(str, LIFTS)])),
                str(request.query_params.get("against", ""))[:1],
                choice(request, "kind", ["", *Kind]),
                int(choice(request, "gain", [str(v) for v in GAINS])),
            )
        except BadRequest as why:
            raise ActionError(f"{str(why).capitalize()}.") from why
        shot = shot_of(output, showing)
        part, bounds = Rect(x, y, w, h), shot.bounds
        if not (0 < w <= LARGEST and 0 < h <= LARGEST and part.inside(bounds.w, bounds.h)):
            raise Missing("There is no such part of this picture.")
        told = str(request.query_params.get("across", ""))[:5]
        across = int(told) if told.isascii() and told.isdecimal() else 0
        # Line-ups and files may change under the same address: a browser asks each time.
        tag = f'"{hashlib.sha256(f"{DRAWN} {shot.made_of} {part} {across}".encode()).hexdigest()}"'
        headers = {"Cache-Control": "private, no-cache", "ETag": tag}
        if request.headers.get("If-None-Match") == tag:
            return HttpResponse(status=304, headers=headers)
        codes = shot.codes(part)
        if 0 < across < w:
            codes = magnified(codes, Rect(0, 0, w, h), across, max(1, round(h * across / w)))
        return HttpResponse(png_bytes(codes, 3), content_type="image/png", headers=headers)
