"""Frames."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.prints import print_sizes
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.query import whole_number
from glenhail.server.common.uploads import FileForm, uploaded
from glenhail.server.material.actions import frames, scenes
from glenhail.server.material.api.terms import TermsShape
from glenhail.server.material.models import Finding, Frame, FrameKind, Picture, Scene, SceneKind
from glenhail.server.material.queries import find_frame, frames_of
from glenhail.server.material.system import system_of

MULTIPART = {"multipart/form-data": FileForm}


class PrintOut(serializers.Serializer[Any]):
    """How large a picture prints at a resolution."""

    ppi = serializers.FloatField()
    width_cm = serializers.FloatField()
    height_cm = serializers.FloatField()


class FactsOut(serializers.Serializer[Any]):
    """What a file says about itself."""

    format = serializers.CharField()
    width = serializers.IntegerField()
    height = serializers.IntegerField()
    bits = serializers.IntegerField()
    sample = serializers.CharField()
    compression = serializers.CharField()
    profile = serializers.CharField()
    profile_assumed = serializers.BooleanField()
    orientation = serializers.IntegerField()
    size_bytes = serializers.IntegerField()
    camera = serializers.CharField(allow_null=True)
    lens = serializers.CharField(allow_null=True)
    iso = serializers.FloatField(allow_null=True)
    shutter_s = serializers.FloatField(allow_null=True)
    aperture = serializers.FloatField(allow_null=True)
    focal_mm = serializers.FloatField(allow_null=True)
    taken = serializers.CharField(allow_null=True)
    software = serializers.CharField(allow_null=True)
    ppi = serializers.FloatField(allow_null=True)
    developed = serializers.CharField(allow_null=True, default=None)
    prints = PrintOut(many=True)
    doubts = serializers.ListField(child=serializers.CharField(), default=list)


class PictureOut(serializers.ModelSerializer[Picture]):
    facts = serializers.SerializerMethodField()

    class Meta:
        model = Picture
        fields = ["id", "name", "state", "problem", "width", "height", "levels", "facts"]
        read_only_fields = fields

    @extend_schema_field(FactsOut(allow_null=True))
    def get_facts(self, picture: Picture) -> Any:
        facts = picture.facts
        if not facts:
            return None
        prints = print_sizes(facts["width"], facts["height"], facts.get("ppi"))
        return {**facts, "prints": [asdict(p) for p in prints]}


class SceneOut(serializers.ModelSerializer[Scene]):
    """A scene, and how much is known of it."""

    kinds = serializers.ListField(child=serializers.ChoiceField(choices=SceneKind.choices))
    lights = serializers.SerializerMethodField()
    edges = serializers.SerializerMethodField()

    class Meta:
        model = Scene
        fields = ["id", "name", "kinds", "lights", "edges"]
        read_only_fields = fields

    def get_lights(self, scene: Scene) -> int:
        return len((scene.known or {}).get("lights", []))

    def get_edges(self, scene: Scene) -> int:
        return len((scene.known or {}).get("edges", []))


class TruthMadeOut(serializers.Serializer[Any]):
    """How a truth was made here, and from which frames."""

    kind = serializers.ChoiceField(choices=["twin", "burst"])
    words = serializers.CharField()
    # "from" is no name that Python takes for an attribute.
    frames = serializers.ListField(child=serializers.CharField(), source="from")


class FrameOut(serializers.ModelSerializer[Frame]):
    truth_made = TruthMadeOut(allow_null=True)
    picture = PictureOut()
    truth = PictureOut(allow_null=True)
    scene = SceneOut(allow_null=True)
    terms = TermsShape()
    studies = serializers.IntegerField(read_only=True, default=0)
    found = serializers.SerializerMethodField()

    class Meta:
        model = Frame
        fields = [
            "id",
            "name",
            "file_name",
            "truth_name",
            "picture",
            "truth",
            "truth_made",
            "scene",
            "kind",
            "terms",
            "made_from",
            "made_by",
            "recipe",
            "studies",
            "found",
            "created",
        ]
        read_only_fields = fields

    def to_representation(self, frame: Frame) -> dict[str, Any]:
        """With the frame's own names for its files."""
        told: dict[str, Any] = super().to_representation(frame)
        for of, picture, name in (
            ("picture", frame.picture, frame.file_name),
            ("truth", frame.truth, frame.truth_name),
        ):
            if told.get(of) and picture is not None:
                told[of] |= {"name": name, "problem": picture.problem_as(name)}
        return told

    @extend_schema_field(serializers.CharField(allow_null=True))
    def get_found(self, frame: Frame) -> str | None:
        """The target seen in it."""
        return str(frame.finding.target) if hasattr(frame, "finding") and frame.finding else None


class UseOut(serializers.Serializer[Any]):
    """A study that uses a frame."""

    id = serializers.IntegerField(source="study_id")
    question = serializers.CharField(source="study__question")


class FieldReadingOut(serializers.Serializer[Any]):
    field = serializers.IntegerField()
    kind = serializers.CharField()
    name = serializers.CharField()
    value = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    unit = serializers.CharField()
    digits = serializers.IntegerField()
    reason = serializers.CharField(allow_null=True)


class CurveOut(serializers.Serializer[Any]):
    field = serializers.IntegerField()
    name = serializers.CharField()
    x = serializers.ListField(child=serializers.FloatField())
    y = serializers.ListField(child=serializers.FloatField())
    x_unit = serializers.CharField()
    y_unit = serializers.CharField()


class FindingOut(serializers.ModelSerializer[Finding]):
    """A target found in a frame: its corners there (px), and what its fields tell."""

    name = serializers.CharField(source="target.name")
    corners = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))
    readings = FieldReadingOut(many=True)
    curves = CurveOut(many=True)

    class Meta:
        model = Finding
        fields = [
            "target",
            "name",
            "corners",
            "turn",
            "scale",
            "readings",
            "curves",
            "reason",
            "version",
            "taken",
        ]
        read_only_fields = fields


class SharpnessOut(serializers.Serializer[Any]):
    """A reading in line pairs a picture's height, and a mm of a described sensor."""

    name = serializers.CharField()
    per_height = serializers.FloatField()
    per_mm = serializers.FloatField(allow_null=True)


class SystemOut(serializers.Serializer[Any]):
    """Lens and sensor together, as a target tells: through which lens, how sharp, and
    whether what is finer than pixels turns into false lines.
    """

    lens = serializers.CharField(allow_blank=True)
    sharpness = SharpnessOut(many=True)
    aliasing = serializers.CharField(allow_blank=True)


class FrameDetail(FrameOut):
    """A frame with where it is used, and the target found in it."""

    used_in = UseOut(many=True)
    finding = FindingOut(allow_null=True)
    system = SystemOut(allow_null=True)

    class Meta(FrameOut.Meta):
        fields = [*FrameOut.Meta.fields, "used_in", "finding", "system"]
        read_only_fields = fields


class FrameChange(serializers.Serializer[Any]):
    """A new name, another scene (null: none), another kind, or several of them."""

    name = serializers.CharField(max_length=120, required=False)
    scene = serializers.IntegerField(required=False, allow_null=True)
    kind = serializers.ChoiceField(choices=FrameKind.choices, required=False)


class FramesView(APIView):
    """The frames of the bench, a page at a time."""

    @extend_schema(
        operation_id="frames_list",
        parameters=[OpenApiParameter("before", int, description="The page after this frame.")],
        responses=FrameOut(many=True),
    )
    def get(self, request: Request) -> Response:
        rows = frames_of(membership(request.user).bench, whole_number(request, "before"))
        return Response(FrameOut(rows, many=True).data)

    @extend_schema(operation_id="frame_add", request=MULTIPART, responses={201: FrameOut})
    def post(self, request: Request) -> Response:
        stream, name = uploaded(request)
        frame, _ = frames.add_frame(request.user, membership(request.user).bench, stream, name)
        return Response(FrameOut(frame).data, status=201)


class FrameView(APIView):
    """One frame."""

    @extend_schema(operation_id="frame_read", responses=FrameDetail)
    def get(self, request: Request, frame_id: int) -> Response:
        frame: Any = find_frame(request.user, frame_id)
        frame.used_in = list(
            frame.study_frames.values("study_id", "study__question").order_by("study_id")
        )
        frame.studies = len(frame.used_in)
        if not hasattr(frame, "finding"):
            frame.finding = None
        frame.system = system_of(frame)
        return Response(FrameDetail(frame).data)

    @extend_schema(operation_id="frame_change", request=FrameChange, responses=FrameOut)
    def patch(self, request: Request, frame_id: int) -> Response:
        given = FrameChange(data=request.data)
        given.is_valid(raise_exception=True)
        frame = find_frame(request.user, frame_id)
        if "name" in given.validated_data:
            frame = frames.rename_frame(request.user, frame, given.validated_data["name"])
        if "scene" in given.validated_data:
            frame = scenes.place_frame(request.user, frame, given.validated_data["scene"])
        if "kind" in given.validated_data:
            frame = frames.tell_kind(request.user, frame, given.validated_data["kind"])
        return Response(FrameOut(frame).data)

    @extend_schema(operation_id="frame_remove", responses={204: None})
    def delete(self, request: Request, frame_id: int) -> Response:
        frames.remove_frame(request.user, find_frame(request.user, frame_id))
        return Response(status=204)


class TruthView(APIView):
    """A frame's truth."""

    @extend_schema(operation_id="truth_set", request=MULTIPART, responses=FrameOut)
    def post(self, request: Request, frame_id: int) -> Response:
        stream, name = uploaded(request)
        frame = frames.set_truth(request.user, find_frame(request.user, frame_id), stream, name)
        return Response(FrameOut(find_frame(request.user, frame.pk)).data)

    @extend_schema(operation_id="truth_drop", responses=FrameOut)
    def delete(self, request: Request, frame_id: int) -> Response:
        frame = frames.drop_truth(request.user, find_frame(request.user, frame_id))
        return Response(FrameOut(find_frame(request.user, frame.pk)).data)
