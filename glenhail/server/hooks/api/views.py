"""The addresses that a bench tells of what happened."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import IsAuthenticated
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.authentication import InPerson
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import membership, require
from glenhail.server.common.requests import valid
from glenhail.server.hooks.actions import hooks
from glenhail.server.hooks.models import Event, Hook, Telling
from glenhail.server.hooks.queries import find_hooks


class TellingOut(serializers.ModelSerializer[Telling]):
    """``due`` is when it is tried next; null where it has arrived or was given up."""

    class Meta:
        model = Telling
        fields = ["id", "event", "created", "due", "arrived", "tries", "status", "problem"]


class HookIn(serializers.Serializer[Any]):
    address = serializers.CharField(max_length=500)
    events = serializers.ListField(
        child=serializers.ChoiceField(choices=Event.choices), min_length=1, max_length=3
    )


class HookOut(serializers.ModelSerializer[Hook]):
    events = serializers.ListField(child=serializers.ChoiceField(choices=Event.choices))
    tellings = TellingOut(many=True, source="newest")

    class Meta:
        model = Hook
        fields = ["id", "address", "events", "made", "tellings"]


class NewHookOut(serializers.Serializer[Any]):
    """With the secret that signs what is sent, told this once."""

    id = serializers.IntegerField()
    secret = serializers.CharField()


class HooksView(APIView):
    """All addresses, with what was told them last."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="hooks_list", responses=HookOut(many=True))
    def get(self, request: Request) -> Response:
        bench = membership(request.user).bench
        require(request.user, bench, Role.OWNER)
        return Response(HookOut(find_hooks(bench), many=True).data)

    @extend_schema(operation_id="hook_add", request=HookIn, responses={201: NewHookOut})
    def post(self, request: Request) -> Response:
        told = valid(HookIn, request)
        bench = membership(request.user).bench
        made = hooks.add_hook(request.user, bench, told["address"], told["events"])
        return Response({"id": made.pk, "secret": made.secret}, status=201)


class HookView(APIView):
    """One of them."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="hook_try", request=None, responses={201: TellingOut})
    def post(self, request: Request, hook_id: int) -> Response:
        made = hooks.try_hook(request.user, membership(request.user).bench, hook_id)
        return Response(TellingOut(made).data, status=201)

    @extend_schema(operation_id="hook_remove", responses={204: None})
    def delete(self, request: Request, hook_id: int) -> Response:
        hooks.remove_hook(request.user, membership(request.user).bench, hook_id)
        return Response(status=204)
