"""Signing in by a token, and where none will do."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import BaseAuthentication
from rest_framework.exceptions import AuthenticationFailed
from rest_framework.permissions import BasePermission
from rest_framework.request import Request

from glenhail.server.accounts.actions import tokens
from glenhail.server.accounts.models import Role, Token

SCHEME = "Bearer"


class ByToken(BaseAuthentication):
    """``Authorization: Bearer ...`` (RFC 6750).

    The person can then do what both their role and the token's scope allow.
    """

    def authenticate(self, request: Request) -> tuple[User, Token] | None:
        """The token's person; None where none was sent."""
        scheme, _, text = request.headers.get("Authorization", "").partition(" ")
        if scheme.lower() != SCHEME.lower():
            return None
        token = tokens.owner_of(text.strip())
        if token is None:
            raise AuthenticationFailed("This token was ended, has run out, or never was one.")
        token.user.scope = Role(token.scope)  # type: ignore[attr-defined]  # permissions look for it
        return token.user, token

    def authenticate_header(self, request: Request) -> str:
        """What a request without a token is told to send."""
        return SCHEME


class ByTokenInDocument(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    target_class = ByToken
    name = "token"

    def get_security_definition(self, auto_schema: Any) -> dict[str, str]:
        """How the OpenAPI document tells it."""
        return {"type": "http", "scheme": "bearer"}


class InPerson(BasePermission):
    """Passwords, sessions and tokens are changed by the person alone, never by a token:
    one that leaked must not make others.
    """

    message = "Sign in with your password for this; a token does not do."

    def has_permission(self, request: Request, view: Any) -> bool:
        """Whether no token is used."""
        return request.auth is None
