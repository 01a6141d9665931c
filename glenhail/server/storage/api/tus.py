"""The bytes of a file on its way, by the tus protocol 1.0.0 (https://tus.io): core,
creation, checksum, termination. Any client that speaks it can send, and goes on from
where it broke off.
"""

from __future__ import annotations

import base64
import binascii
import hashlib
import json
import uuid
from collections.abc import Mapping
from typing import IO, Any, cast

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.parsers import BaseParser
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import ActionError
from glenhail.server.common.query import number_of
from glenhail.server.storage import uploads
from glenhail.server.storage.api.uploads import UploadIn
from glenhail.server.storage.queries import find_upload

VERSION = "1.0.0"
CHECKSUMS = ("sha1", "sha256")
OFFSET = "application/offset+octet-stream"
SPOKEN = {"Tus-Resumable": VERSION}
ABLE = {
    **SPOKEN,
    "Tus-Version": VERSION,
    "Tus-Extension": "creation,checksum,termination",
    "Tus-Checksum-Algorithm": ",".join(CHECKSUMS),
}
HEADERS = [
    OpenApiParameter("Tus-Resumable", str, OpenApiParameter.HEADER, required=True),
    OpenApiParameter("Upload-Offset", int, OpenApiParameter.HEADER, required=True),
    OpenApiParameter("Upload-Checksum", str, OpenApiParameter.HEADER),
]


class OtherVersion(ActionError):
    """A sender that speaks another version of the protocol."""

    status = 412
    title = "Another version"


class Octets(BaseParser):
    """Hands the body on as a stream: a piece is never held in memory."""

    media_type = OFFSET

    def parse(
        self,
        stream: IO[bytes],
        media_type: str | None = None,
        parser_context: Mapping[str, Any] | None = None,
    ) -> Any:
        return stream


class TusView(APIView):
    """What every address of the protocol answers."""

    parser_classes = [Octets]

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        super().initial(request, *args, **kwargs)
        if request.method != "OPTIONS" and request.headers.get("Tus-Resumable") != VERSION:
            raise OtherVersion(f"This bench speaks tus {VERSION}; name it in Tus-Resumable.")

    def get_permissions(self) -> Any:
        return [AllowAny()] if self.request.method == "OPTIONS" else super().get_permissions()

    @extend_schema(exclude=True)
    def options(self, request: Any, *args: Any, **kwargs: Any) -> Response:
        return Response(status=204, headers=ABLE)


class CreationView(TusView):
    """Announcing a file to a sender that can not make up its id."""

    @extend_schema(operation_id="tus_create", request=None, responses={201: None})
    def post(self, request: Request) -> Response:
        told = _metadata(request.headers.get("Upload-Metadata", ""))
        given = UploadIn(
            data={
                "name": told.get("filename", ""),
                "size": request.headers.get("Upload-Length"),
                "delivery": _delivery(told.get("delivery", "")),
            }
        )
        given.is_valid(raise_exception=True)
        values, made = given.validated_data, uuid.uuid4()
        bench = membership(request.user).bench
        delivery = dict(values["delivery"])
        uploads.begin(request.user, bench, made, values["name"], values["size"], delivery)
        at = request.build_absolute_uri(f"/api/uploads/{made}/bytes")
        return Response(status=201, headers={**SPOKEN, "Location": at})


class BytesView(TusView):
    """How many bytes of a file there are, and the next ones."""

    @extend_schema(operation_id="tus_offset", responses={200: None})
    def head(self, request: Request, upload_id: uuid.UUID) -> Response:
        upload = find_upload(request.user, upload_id)
        told = {"Upload-Offset": str(upload.received), "Upload-Length": str(upload.size)}
        return Response(headers={**SPOKEN, **told, "Cache-Control": "no-store"})

    @extend_schema(
        operation_id="tus_piece",
        parameters=HEADERS,
        request={OFFSET: OpenApiTypes.BINARY},
        responses={204: None},
    )
    def patch(self, request: Request, upload_id: uuid.UUID) -> Response:
        upload = find_upload(request.user, upload_id)
        offset = number_of(request.headers.get("Upload-Offset", ""))
        if offset is None:
            raise ActionError("Upload-Offset has to be a number of bytes.")
        check = _checksum(request.headers.get("Upload-Checksum", ""))
        stream = cast("IO[bytes]", request.data)
        upload = uploads.add_piece(request.user, upload, offset, stream, check)
        return Response(status=204, headers={**SPOKEN, "Upload-Offset": str(upload.received)})

    @extend_schema(operation_id="tus_discard", responses={204: None})
    def delete(self, request: Request, upload_id: uuid.UUID) -> Response:
        uploads.discard(find_upload(request.user, upload_id))
        return Response(status=204, headers=SPOKEN)


def _metadata(header: str) -> dict[str, str]:
    """Keys and values of Upload-Metadata: "key base64,key base64"."""
    found = {}
    for pair in filter(None, (p.strip() for p in header.split(","))):
        key, _, value = pair.partition(" ")
        found[key] = _decoded(value).decode(errors="replace")
    return found


def _decoded(value: str) -> bytes:
    try:
        return base64.b64decode(value.strip(), validate=True)
    except (binascii.Error, ValueError) as error:
        raise ActionError("A value in the tus headers is no base64.") from error


def _delivery(text: str) -> Any:
    try:
        return json.loads(text)
    except ValueError:
        return None


def _checksum(header: str) -> uploads.Checksum | None:
    if not header:
        return None
    kind, _, value = header.partition(" ")
    if kind not in CHECKSUMS:
        raise ActionError(f"Upload-Checksum is one of {', '.join(CHECKSUMS)}.")
    return uploads.Checksum(hashlib.new(kind), _decoded(value))
