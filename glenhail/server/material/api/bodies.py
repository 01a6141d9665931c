"""Camera bodies."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.sensor.size import CFAS
from glenhail.server.accounts.permissions import membership
from glenhail.server.material.actions import bodies
from glenhail.server.material.models import Body
from glenhail.server.material.queries import bodies_of, find_body


class BodyIn(serializers.ModelSerializer[Body]):
    cfa = serializers.ChoiceField(choices=CFAS)

    class Meta:
        model = Body
        fields = [
            "name",
            "width_mm",
            "height_mm",
            "width",
            "height",
            "cfa",
            "full_well",
            "read_noise",
            "second_gain_iso",
            "second_read_noise",
        ]


class BodyOut(BodyIn):
    """A body, and what follows from its sensor."""

    megapixels = serializers.FloatField(source="sensor.megapixels")
    pitch_um = serializers.FloatField(source="sensor.pitch_um")
    crop_factor = serializers.FloatField(source="sensor.crop_factor")
    nyquist = serializers.FloatField(source="sensor.nyquist")

    class Meta(BodyIn.Meta):
        fields = ["id", *BodyIn.Meta.fields, "megapixels", "pitch_um", "crop_factor", "nyquist"]
        read_only_fields = fields


class BodiesView(APIView):
    """All bodies of the bench."""

    @extend_schema(operation_id="bodies_list", responses=BodyOut(many=True))
    def get(self, request: Request) -> Response:
        return Response(BodyOut(bodies_of(membership(request.user).bench), many=True).data)

    @extend_schema(operation_id="body_add", request=BodyIn, responses={201: BodyOut})
    def post(self, request: Request) -> Response:
        given = BodyIn(data=request.data)
        given.is_valid(raise_exception=True)
        body = bodies.save_body(request.user, membership(request.user).bench, given.validated_data)
        return Response(BodyOut(body).data, status=201)


class BodyView(APIView):
    """One body."""

    @extend_schema(operation_id="body_change", request=BodyIn, responses=BodyOut)
    def put(self, request: Request, body_id: int) -> Response:
        given = BodyIn(data=request.data)
        given.is_valid(raise_exception=True)
        body = find_body(request.user, body_id)
        return Response(
            BodyOut(bodies.save_body(request.user, body.bench, given.validated_data, body)).data
        )

    @extend_schema(operation_id="body_remove", responses={204: None})
    def delete(self, request: Request, body_id: int) -> Response:
        bodies.remove_body(request.user, find_body(request.user, body_id))
        return Response(status=204)
