"""Signing in and out."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import authenticate, login, logout
from django.middleware.csrf import get_token
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import NotAllowed


class SessionOut(serializers.Serializer[Any]):
    signed_in = serializers.BooleanField()
    user = serializers.CharField()
    role = serializers.CharField()
    bench = serializers.CharField()
    csrf = serializers.CharField()


class Credentials(serializers.Serializer[Any]):
    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200)


class SessionView(APIView):
    """Who is signed in."""

    permission_classes = (AllowAny,)

    @extend_schema(operation_id="session_read", responses=SessionOut)
    def get(self, request: Request) -> Response:
        return Response(_session(request))

    @extend_schema(operation_id="session_begin", request=Credentials, responses=SessionOut)
    def post(self, request: Request) -> Response:
        given = Credentials(data=request.data)
        given.is_valid(raise_exception=True)
        user = authenticate(request._request, **given.validated_data)
        if user is None:
            raise NotAllowed("Name and password do not match an account here.")
        login(request, user)
        request.user = user
        return Response(_session(request))

    @extend_schema(operation_id="session_end", request=None, responses=SessionOut)
    def delete(self, request: Request) -> Response:
        logout(request)
        return Response(_session(request))


def _session(request: Request) -> dict[str, object]:
    token = get_token(request)
    if not request.user.is_authenticated:
        return {"signed_in": False, "user": "", "role": "", "bench": "", "csrf": token}
    mine = membership(request.user)
    return {
        "signed_in": True,
        "user": request.user.username,
        "role": mine.role,
        "bench": mine.bench.name,
        "csrf": token,
    }
