"""Comments of editors on a report under work."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.common.requests import valid
from glenhail.server.publishing.actions.comments import say, settle, unsay
from glenhail.server.publishing.models import Comment
from glenhail.server.publishing.queries import comments_of, find_comment
from glenhail.server.studies.queries import find_study


class CommentIn(serializers.Serializer[Any]):
    """``about`` names a part of the report; empty for all of it."""

    about = serializers.CharField(max_length=200, allow_blank=True, default="")
    text = serializers.CharField(max_length=2000)


class SettledIn(serializers.Serializer[Any]):
    settled = serializers.BooleanField()


class CommentOut(serializers.ModelSerializer[Comment]):
    author = serializers.CharField(source="author.username", default="", read_only=True)
    settled_by = serializers.CharField(source="settled_by.username", default="", read_only=True)

    class Meta:
        model = Comment
        fields = ["id", "about", "text", "author", "created", "settled", "settled_by"]
        read_only_fields = fields


class CommentsView(APIView):
    """What editors say about a report under work, the oldest first."""

    @extend_schema(operation_id="comments_list", responses=CommentOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        rows = comments_of(find_study(request.user, study_id))
        return Response(CommentOut(rows, many=True).data)

    @extend_schema(operation_id="comment_add", request=CommentIn, responses={201: CommentOut})
    def post(self, request: Request, study_id: int) -> Response:
        study, told = find_study(request.user, study_id), valid(CommentIn, request)
        made = say(request.user, study, told["about"], told["text"])
        return Response(CommentOut(made).data, status=201)


class CommentView(APIView):
    """One comment."""

    @extend_schema(operation_id="comment_settle", request=SettledIn, responses=CommentOut)
    def put(self, request: Request, study_id: int, comment_id: int) -> Response:
        comment = find_comment(find_study(request.user, study_id), comment_id)
        settled = valid(SettledIn, request)["settled"]
        return Response(CommentOut(settle(request.user, comment, settled)).data)

    @extend_schema(operation_id="comment_remove", responses={204: None})
    def delete(self, request: Request, study_id: int, comment_id: int) -> Response:
        unsay(request.user, find_comment(find_study(request.user, study_id), comment_id))
        return Response(status=204)
