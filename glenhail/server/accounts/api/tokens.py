"""The tokens that a person has for scripts."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import IsAuthenticated
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.actions import tokens
from glenhail.server.accounts.authentication import InPerson
from glenhail.server.accounts.models import Role, Token
from glenhail.server.accounts.permissions import membership
from glenhail.server.accounts.queries import tokens_of
from glenhail.server.common.requests import valid


class TokenIn(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=60)
    scope = serializers.ChoiceField(choices=Role.choices)
    expires = serializers.DateTimeField(allow_null=True, default=None)


class TokenOut(serializers.ModelSerializer[Token]):
    class Meta:
        model = Token
        fields = ["id", "name", "scope", "made", "used", "expires"]


class NewTokenOut(TokenOut):
    """With the token itself, told this once."""

    token = serializers.CharField()

    class Meta(TokenOut.Meta):
        fields = [*TokenOut.Meta.fields, "token"]


class TokensView(APIView):
    """One's own tokens."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="tokens_list", responses=TokenOut(many=True))
    def get(self, request: Request) -> Response:
        return Response(TokenOut(tokens_of(person(request)), many=True).data)

    @extend_schema(operation_id="token_make", request=TokenIn, responses={201: NewTokenOut})
    def post(self, request: Request) -> Response:
        told = valid(TokenIn, request)
        bench = membership(request.user).bench
        made, text = tokens.make_token(
            person(request), bench, told["name"], Role(told["scope"]), told["expires"]
        )
        return Response({**TokenOut(made).data, "token": text}, status=201)


class TokenView(APIView):
    """One of them."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="token_end", responses={204: None})
    def delete(self, request: Request, token_id: int) -> Response:
        tokens.end_token(person(request), token_id)
        return Response(status=204)


def person(request: Request) -> User:
    """Who signed in."""
    assert isinstance(request.user, User)  # IsAuthenticated
    return request.user
