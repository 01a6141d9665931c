"""Files in pieces."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.storage import uploads
from glenhail.server.storage.models import Upload
from glenhail.server.storage.queries import find_upload, uploads_of


class DeliveryShape(serializers.Serializer[Any]):
    """What a file is for: a frame, a frame of a scene or of a study, the truth of a
    frame, a contender's output or preview, a folder's file.
    """

    kind = serializers.ChoiceField(
        choices=[
            "frame",
            "scene frame",
            "study frame",
            "truth",
            "output",
            "preview",
            "folder file",
        ]
    )
    folder = serializers.IntegerField(required=False)
    path = serializers.CharField(required=False, max_length=1000)
    study = serializers.IntegerField(required=False)
    frame = serializers.IntegerField(required=False)
    contender = serializers.IntegerField(required=False)
    scene = serializers.IntegerField(required=False)


class UploadIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=1000, trim_whitespace=False)
    size = serializers.IntegerField(min_value=0)
    delivery = DeliveryShape()


class UploadResult(serializers.Serializer[Any]):
    """What came of it: the frame it became or belongs to (None for a folder's file),
    and the one it was known as already.
    """

    frame = serializers.IntegerField(allow_null=True)
    known = serializers.CharField(allow_null=True)


class UploadOut(serializers.ModelSerializer[Upload]):
    delivery = DeliveryShape()
    result = UploadResult(allow_null=True)

    class Meta:
        model = Upload
        fields = ["id", "name", "size", "received", "delivery", "state", "result", "problem"]
        read_only_fields = fields


class UploadsView(APIView):
    """The actor's own files on their way."""

    @extend_schema(operation_id="uploads_list", responses=UploadOut(many=True))
    def get(self, request: Request) -> Response:
        bench = membership(request.user).bench
        return Response(UploadOut(uploads_of(request.user, bench), many=True).data)


class UploadView(APIView):
    """One file on its way.

    Its sender makes up the id, so that announcing it twice is the same as once.
    """

    @extend_schema(operation_id="upload_begin", request=UploadIn, responses=UploadOut)
    def put(self, request: Request, upload_id: UUID) -> Response:
        given = UploadIn(data=request.data)
        given.is_valid(raise_exception=True)
        values = given.validated_data
        delivery = dict(values["delivery"])
        upload = uploads.begin(
            request.user,
            membership(request.user).bench,
            upload_id,
            values["name"],
            values["size"],
            delivery,
        )
        return Response(UploadOut(upload).data)

    @extend_schema(operation_id="upload_discard", responses={204: None})
    def delete(self, request: Request, upload_id: UUID) -> Response:
        uploads.discard(find_upload(request.user, upload_id))
        return Response(status=204)


class FinishView(APIView):
    """The end of a file."""

    @extend_schema(operation_id="upload_finish", request=None, responses=UploadOut)
    def post(self, request: Request, upload_id: UUID) -> Response:
        return Response(
            UploadOut(uploads.finish(request.user, find_upload(request.user, upload_id))).data
        )
