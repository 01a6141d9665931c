"""Full-depth tiles, planes of them, and differences, for looking."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from glenhail.core.files.full_depth import Layout, bytes_of
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.planes import Plane
from glenhail.core.tone.matching import Match
from glenhail.server.common.query import choice
from glenhail.server.material.display import FULL_DEPTH, ask_for
from glenhail.server.outputs.queries import find_pair
from glenhail.server.viewing import deep, differences
from glenhail.server.viewing.again import made_again
from glenhail.server.viewing.api.views import FOR_EVER
from glenhail.server.viewing.permissions import visible_copies, visible_picture
from glenhail.server.viewing.tiles import NoDisplay

STEPS = {(200, "application/octet-stream"): OpenApiTypes.BINARY}
PLANES = OpenApiParameter("plane", enum=["all", *Plane], default="all")
KINDS = OpenApiParameter("kind", enum=list(Kind), default=Kind.BRIGHTNESS)
MATCHES = OpenApiParameter(
    "match", enum=[Match.NONE, Match.EXPOSURE, Match.TONE], default=Match.NONE
)


class DeepTileView(APIView):
    """One full-depth tile: planes of little-endian 16-bit numbers, of which 16,384 is
    black and 49,152 white, sRGB-encoded; of the planes octave and noise, 32,768 is 0.
    """

    @extend_schema(operation_id="deep_tile", parameters=[PLANES], responses=STEPS)
    def get(
        self, request: Request, picture_id: int, level: int, column: int, row: int
    ) -> HttpResponse:
        plane = choice(request, "plane", ["all", *Plane])
        copies = visible_copies(request.user, picture_id)
        picture = deep.DeepPicture(copies.full_depth, copies.width, copies.height)
        with made_again(
            request.user, lambda: visible_picture(request.user, picture_id), FULL_DEPTH
        ):
            if plane == "all":
                data = deep.tile_bytes(picture, level, column, row)
            else:
                data = deep.plane_bytes(picture, Plane(plane), level, column, row)
        return _steps(data, FOR_EVER)


class DeepPartView(APIView):
    """A part of a picture at full size, in a full-depth tile's form."""

    @extend_schema(operation_id="deep_part", responses=STEPS)
    def get(
        self, request: Request, picture_id: int, x: int, y: int, w: int, h: int
    ) -> HttpResponse:
        copies = visible_copies(request.user, picture_id)
        rect = copies.part(x, y, w, h)
        picture = deep.DeepPicture(copies.full_depth, copies.width, copies.height)
        with made_again(
            request.user, lambda: visible_picture(request.user, picture_id), FULL_DEPTH
        ):
            data = bytes_of(picture.part(0, rect))
        return _steps(data, FOR_EVER)


class DifferenceView(APIView):
    """One tile of what differs between two outputs of a frame, on the frame's pixels.

    Brightness, signed: 32,768 is 0 and 64 an 8-bit level; absolute: three planes, 128
    an 8-bit level; de00: 256 is a CIEDE2000 of 1. 65,535 where one shows nothing.
    """

    @extend_schema(operation_id="difference_tile", parameters=[KINDS, MATCHES], responses=STEPS)
    def get(
        self, request: Request, one_id: int, two_id: int, level: int, column: int, row: int
    ) -> HttpResponse:
        kind = Kind(choice(request, "kind", list(Kind)))
        match = Match(choice(request, "match", [Match.NONE, Match.EXPOSURE, Match.TONE]))
        pair = find_pair(request.user, one_id, two_id)
        one, two = differences.compared(pair, match)
        frame = pair[0].frame.picture
        try:
            data = differences.difference_bytes(
                Layout(frame.width, frame.height), one, two, kind, level, column, row
            )
        except NoDisplay:
            for output in pair:
                if output.picture is not None:
                    ask_for(output.contender.study.bench, output.picture, copy=FULL_DEPTH)
            raise
        # Line-ups may be corrected by hand: the page keeps what it has, by how they lie.
        return _steps(data, "no-store")


def _steps(data: bytes, kept: str) -> HttpResponse:
    return HttpResponse(
        data, content_type="application/octet-stream", headers={"Cache-Control": kept}
    )
