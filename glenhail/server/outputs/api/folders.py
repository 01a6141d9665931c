"""Folders of outputs, previews and hot folders."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.requests import valid
from glenhail.server.material.api.views import PictureOut
from glenhail.server.material.queries import find_frame
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.actions import folders, hot_folders, previews
from glenhail.server.outputs.models import FileUse, Folder, FolderFile, FolderState, HotFolder
from glenhail.server.outputs.queries import is_matched, open_hot_folders
from glenhail.server.studies import queries


class FolderIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=120, allow_blank=True)


class FolderRow(serializers.Serializer[Any]):
    """A folder in the list."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    state = serializers.ChoiceField(choices=FolderState.choices)
    files = serializers.SerializerMethodField()
    created = serializers.DateTimeField()

    def get_files(self, folder: Folder) -> int:
        return folder.files.count()


class FolderFileOut(serializers.ModelSerializer[FolderFile]):
    picture = PictureOut()
    why = serializers.ListField(child=serializers.CharField())

    class Meta:
        model = FolderFile
        fields = [
            "id",
            "path",
            "use",
            "frame",
            "contender",
            "confidence",
            "why",
            "rest",
            "by_hand",
            "picture",
        ]
        read_only_fields = fields


class FolderOut(FolderRow):
    looking = serializers.SerializerMethodField()
    all_files = serializers.SerializerMethodField()

    def get_looking(self, folder: Folder) -> bool:
        """Whether proposals are still being made."""
        return not is_matched(folder)

    @extend_schema_field(FolderFileOut(many=True))
    def get_all_files(self, folder: Folder) -> Any:
        return FolderFileOut(folder.files.select_related("picture"), many=True).data


class PlaceIn(serializers.Serializer[Any]):
    use = serializers.ChoiceField(choices=FileUse.choices)
    frame = serializers.IntegerField(allow_null=True)
    contender = serializers.IntegerField(allow_null=True)


class ConfirmIn(serializers.Serializer[Any]):
    keep_pattern = serializers.BooleanField(default=True)


class CountedOut(serializers.Serializer[Any]):
    count = serializers.IntegerField()


class HotFolderOut(serializers.Serializer[Any]):
    """Where the inputs lie, where outputs belong, and what could not be picked up."""

    contender = serializers.IntegerField(source="contender_id")
    open = serializers.BooleanField()
    home = serializers.SerializerMethodField()
    inputs = serializers.ListField(child=serializers.CharField())
    note = serializers.CharField()

    def get_home(self, folder: HotFolder) -> str:
        # Where things lie on the server is for those who put files there.
        return (
            str(hot_folders.home_of(folder.contender)) if self.context.get("editor", True) else ""
        )


class FoldersView(APIView):
    """The folders of a study."""

    @extend_schema(operation_id="folders_list", responses=FolderRow(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        return Response(
            FolderRow(queries.find_study(request.user, study_id).folders.all(), many=True).data
        )

    @extend_schema(operation_id="folder_begin", request=FolderIn, responses={201: FolderRow})
    def post(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        return Response(
            FolderRow(
                folders.begin_folder(request.user, study, valid(FolderIn, request)["name"])
            ).data,
            status=201,
        )


class FolderView(APIView):
    """One folder with its files and what they are proposed to be."""

    @extend_schema(operation_id="folder_read", responses=FolderOut)
    def get(self, request: Request, folder_id: int) -> Response:
        return Response(FolderOut(outputs_queries.find_folder(request.user, folder_id)).data)

    @extend_schema(operation_id="folder_remove", responses={204: None})
    def delete(self, request: Request, folder_id: int) -> Response:
        folders.remove_folder(request.user, outputs_queries.find_folder(request.user, folder_id))
        return Response(status=204)


class FolderFileView(APIView):
    """Saying what a file is."""

    @extend_schema(operation_id="folder_place_file", request=PlaceIn, responses=FolderFileOut)
    def put(self, request: Request, file_id: int) -> Response:
        given, file = valid(PlaceIn, request), outputs_queries.find_file(request.user, file_id)
        return Response(
            FolderFileOut(
                folders.place_file(
                    request.user, file, given["use"], given["frame"], given["contender"]
                )
            ).data
        )


class ConfirmView(APIView):
    """Putting all files into their cells, and undoing that."""

    @extend_schema(operation_id="folder_confirm", request=ConfirmIn, responses=CountedOut)
    def post(self, request: Request, folder_id: int) -> Response:
        folder = outputs_queries.find_folder(request.user, folder_id)
        return Response(
            {
                "count": folders.confirm_folder(
                    request.user, folder, valid(ConfirmIn, request)["keep_pattern"]
                )
            }
        )

    @extend_schema(operation_id="folder_undo", responses=CountedOut)
    def delete(self, request: Request, folder_id: int) -> Response:
        return Response(
            {
                "count": folders.undo_folder(
                    request.user, outputs_queries.find_folder(request.user, folder_id)
                )
            }
        )


class PreviewOfOutputView(APIView):
    """Taking a captured preview away."""

    @extend_schema(operation_id="preview_take_away", responses={204: None})
    def delete(self, request: Request, contender_id: int, frame_id: int) -> Response:
        contender, frame = (
            queries.find_contender(request.user, contender_id),
            find_frame(request.user, frame_id),
        )
        previews.detach(request.user, contender, frame)
        return Response(status=204)


class HotFoldersView(APIView):
    """The hot folders of a study."""

    @extend_schema(operation_id="hot_folders_list", responses=HotFolderOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        rows = open_hot_folders(queries.find_study(request.user, study_id))
        told = {"editor": membership(request.user).role != Role.VIEWER}
        return Response(HotFolderOut(rows, many=True, context=told).data)


class HotFolderView(APIView):
    """Opening and closing a contender's hot folder."""

    @extend_schema(operation_id="hot_folder_open", request=None, responses=HotFolderOut)
    def post(self, request: Request, contender_id: int) -> Response:
        return Response(
            HotFolderOut(
                hot_folders.open_hot_folder(
                    request.user, queries.find_contender(request.user, contender_id)
                )
            ).data
        )

    @extend_schema(operation_id="hot_folder_close", responses={204: None})
    def delete(self, request: Request, contender_id: int) -> Response:
        hot_folders.close_hot_folder(
            request.user, queries.find_contender(request.user, contender_id)
        )
        return Response(status=204)
