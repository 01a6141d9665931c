"""Scenes."""

from __future__ import annotations

from typing import Any

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import Missing
from glenhail.server.common.uploads import uploaded
from glenhail.server.material.actions import scenes
from glenhail.server.material.api.views import MULTIPART, SceneOut
from glenhail.server.material.models import SceneKind
from glenhail.server.material.queries import find_scene, scenes_of


class SceneIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=120)
    kinds = serializers.ListField(
        child=serializers.ChoiceField(choices=SceneKind.choices), allow_empty=True
    )


class ScenesView(APIView):
    """All scenes of the bench."""

    @extend_schema(operation_id="scenes_list", responses=SceneOut(many=True))
    def get(self, request: Request) -> Response:
        return Response(SceneOut(scenes_of(membership(request.user).bench), many=True).data)

    @extend_schema(operation_id="scene_add", request=SceneIn, responses={201: SceneOut})
    def post(self, request: Request) -> Response:
        given = SceneIn(data=request.data)
        given.is_valid(raise_exception=True)
        scene = scenes.save_scene(
            request.user, membership(request.user).bench, **given.validated_data
        )
        return Response(SceneOut(scene).data, status=201)


class SceneView(APIView):
    """One scene."""

    @extend_schema(operation_id="scene_change", request=SceneIn, responses=SceneOut)
    def put(self, request: Request, scene_id: int) -> Response:
        given = SceneIn(data=request.data)
        given.is_valid(raise_exception=True)
        scene = find_scene(request.user, scene_id)
        return Response(
            SceneOut(
                scenes.save_scene(request.user, scene.bench, **given.validated_data, scene=scene)
            ).data
        )

    @extend_schema(operation_id="scene_remove", responses={204: None})
    def delete(self, request: Request, scene_id: int) -> Response:
        scenes.remove_scene(request.user, find_scene(request.user, scene_id))
        return Response(status=204)


class KnownView(APIView):
    """A scene's known lights and edges."""

    @extend_schema(operation_id="known_get", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, scene_id: int) -> Response:
        scene = find_scene(request.user, scene_id)
        if scene.known is None:
            raise Missing(f"Nothing is known of {scene} beforehand.")
        return Response(scene.known)

    @extend_schema(operation_id="known_tell", request=MULTIPART, responses=SceneOut)
    def post(self, request: Request, scene_id: int) -> Response:
        stream, name = uploaded(request)
        return Response(
            SceneOut(
                scenes.tell_known(request.user, find_scene(request.user, scene_id), stream, name)
            ).data
        )

    @extend_schema(operation_id="known_forget", responses=SceneOut)
    def delete(self, request: Request, scene_id: int) -> Response:
        return Response(
            SceneOut(scenes.forget_known(request.user, find_scene(request.user, scene_id))).data
        )
