"""The report as its next edition would look, for those who work on it."""

from __future__ import annotations

import hashlib
import mimetypes
import re

import numpy as np
from django.http import Http404, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from glenhail.core.errors import BadRequest
from glenhail.core.files.contact_sheet import magnified
from glenhail.core.files.encoding import png_bytes
from glenhail.core.files.pyramid import level_count
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.light import ALL, GAINS, LIFTS, MIDDLE, PLANES
from glenhail.core.looking.shown import Codes, Showing
from glenhail.core.picture import Rect
from glenhail.server.accounts.permissions import Actor
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.common.query import choice
from glenhail.server.outputs.models import Output
from glenhail.server.outputs.queries import find_output
from glenhail.server.publishing.press import ASSETS
from glenhail.server.publishing.preview import preview_page
from glenhail.server.studies.queries import find_study
from glenhail.server.viewing.again import made_again
from glenhail.server.viewing.crops import reduced_codes
from glenhail.server.viewing.seen import seen_part
from glenhail.server.viewing.shots import shot_of
from glenhail.server.viewing.tiles import NoDisplay

LARGEST = 4096  # px a side
AT_ONCE = 4_000_000  # px that are cut and shrunk while one waits
KEY = re.compile("[0-9a-f]{20}")
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
    OpenApiParameter("plane", enum=list(PLANES), default=ALL),
    OpenApiParameter("seen", str, description="The key of what a use makes of it."),
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
                choice(request, "plane", PLANES),
            )
        except BadRequest as why:
            raise ActionError(f"{str(why).capitalize()}.") from why
        told = str(request.query_params.get("across", ""))[:5]
        across = int(told) if told.isascii() and told.isdecimal() else 0
        if seen := str(request.query_params.get("seen", "")):
            return _seen(output, seen, Rect(x, y, w, h), across)
        part = Rect(x, y, w, h)
        if 0 < across < w and showing.plain and w * h > AT_ONCE:
            return _at_a_glance(request.user, output, part, across)
        shot = shot_of(output, showing)
        bounds = shot.bounds
        if not (0 < w <= LARGEST and 0 < h <= LARGEST and part.inside(bounds.w, bounds.h)):
            raise Missing("There is no such part of this picture.")
        # Line-ups and files may change under the same address: a browser asks each time.
        tag = f'"{hashlib.sha256(f"{DRAWN} {shot.made_of} {part} {across}".encode()).hexdigest()}"'
        headers = {"Cache-Control": "private, no-cache", "ETag": tag}
        if request.headers.get("If-None-Match") == tag:
            return HttpResponse(status=304, headers=headers)
        return _drawn(shot.codes(part), across, headers)


def _seen(output: Output, key: str, part: Rect, across: int) -> HttpResponse:
    """A part of what a use makes; the surround while that is being made."""
    if output.picture is None or not KEY.fullmatch(key) or max(part.w, part.h) > LARGEST:
        raise Missing("There is no such part of this picture.")
    try:
        codes = seen_part(output.picture, key, part)
    except NoDisplay:
        codes = np.full((min(int(part.h), 64), min(int(part.w), 64), 3), MIDDLE, np.uint8)
    return _drawn(codes, across, {"Cache-Control": "no-store"})


def _at_a_glance(actor: Actor, output: Output, part: Rect, across: int) -> HttpResponse:
    """A frame as a whole, from its display copy."""
    picture = output.picture
    if picture is None or not part.inside(picture.width, picture.height):
        raise Missing("There is no such part of this picture.")
    levels = level_count(picture.width, picture.height)
    with made_again(actor, lambda: picture):
        codes = reduced_codes(picture.pyramid, levels, part, across)
    return _drawn(codes, across, {"Cache-Control": "private, no-cache"})


def _drawn(codes: Codes, across: int, headers: dict[str, str]) -> HttpResponse:
    height, width = codes.shape[:2]
    if 0 < across < width:
        size = across, max(1, round(height * across / width))
        codes = magnified(codes, Rect(0, 0, width, height), *size)
    return HttpResponse(png_bytes(codes, 3), content_type="image/png", headers=headers)
