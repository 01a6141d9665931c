"""People, links that let them in, sessions, passwords, and the trail of what was done."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import login, update_session_auth_hash
from django.contrib.auth.models import User
from django.db import transaction
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny, IsAuthenticated
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.actions import people, sessions
from glenhail.server.accounts.authentication import InPerson
from glenhail.server.accounts.mail import send_link
from glenhail.server.accounts.models import Bench, Membership, Role, Trail
from glenhail.server.accounts.permissions import membership, require
from glenhail.server.accounts.queries import membership_of, trail_of
from glenhail.server.common.errors import NotAllowed
from glenhail.server.common.query import whole_number
from glenhail.server.common.requests import valid

BACKEND = "django.contrib.auth.backends.ModelBackend"


class MemberOut(serializers.ModelSerializer[Membership]):
    id = serializers.IntegerField(source="user_id")
    name = serializers.CharField(source="user.username")
    last_login = serializers.DateTimeField(source="user.last_login", allow_null=True)

    class Meta:
        model = Membership
        fields = ["id", "name", "role", "last_login"]


class RoleIn(serializers.Serializer[Any]):
    role = serializers.ChoiceField(choices=Role.choices)


class InviteIn(RoleIn):
    """`mail` is where to send the link, if this bench sends mail; left out, whoever
    asks hands it over.
    """

    mail = serializers.EmailField(allow_blank=True, default="")


class MailIn(serializers.Serializer[Any]):
    mail = serializers.EmailField(allow_blank=True, default="")


class LinkOut(serializers.Serializer[Any]):
    """Where the link leads, told this once."""

    address = serializers.CharField()


class JoinIn(serializers.Serializer[Any]):
    token = serializers.CharField(max_length=100)
    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200)


class ResetIn(serializers.Serializer[Any]):
    token = serializers.CharField(max_length=100)
    password = serializers.CharField(max_length=200)


class PasswordIn(serializers.Serializer[Any]):
    old = serializers.CharField(max_length=200)
    new = serializers.CharField(max_length=200)


class OpenSessionOut(serializers.Serializer[Any]):
    id = serializers.CharField()
    expires = serializers.DateTimeField()
    this = serializers.BooleanField()


class TrailOut(serializers.ModelSerializer[Trail]):
    who = serializers.CharField(source="actor.username", default="")

    class Meta:
        model = Trail
        fields = ["id", "at", "who", "action", "subject"]


class PeopleView(APIView):
    """Who works at the bench."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="people_list", responses=MemberOut(many=True))
    def get(self, request: Request) -> Response:
        bench = _owned(request)
        return Response(
            MemberOut(
                bench.memberships.select_related("user").order_by("user__username"), many=True
            ).data
        )


class PersonView(APIView):
    """One member."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="person_change", request=RoleIn, responses=MemberOut)
    def patch(self, request: Request, user_id: int) -> Response:
        role = Role(valid(RoleIn, request)["role"])
        return Response(
            MemberOut(
                people.change_role(request.user, membership(request.user).bench, user_id, role)
            ).data
        )

    @extend_schema(operation_id="person_shut_out", responses={204: None})
    def delete(self, request: Request, user_id: int) -> Response:
        people.shut_out(request.user, membership(request.user).bench, user_id)
        return Response(status=204)


class InvitationsView(APIView):
    """A link for one more person."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="person_invite", request=InviteIn, responses={201: LinkOut})
    def post(self, request: Request) -> Response:
        told, bench = valid(InviteIn, request), membership(request.user).bench
        with transaction.atomic():
            token = people.invite(request.user, bench, Role(told["role"]))
            return _handed(request, "invite", bench, told["mail"], f"/join#{token}")


class ResetLinkView(APIView):
    """A link for a member who forgot the password."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="person_offer_password", request=MailIn, responses={201: LinkOut})
    def post(self, request: Request, user_id: int) -> Response:
        told, bench = valid(MailIn, request), membership(request.user).bench
        with transaction.atomic():
            token = people.make_reset(request.user, bench, user_id)
            return _handed(request, "reset", bench, told["mail"], f"/new-password#{token}")


class JoinView(APIView):
    """Joining by a link, which signs in."""

    permission_classes = (AllowAny,)

    @extend_schema(operation_id="join", request=JoinIn, responses={201: MemberOut})
    def post(self, request: Request) -> Response:
        user = people.join(**valid(JoinIn, request))
        login(request, user, backend=BACKEND)
        return Response(MemberOut(membership_of(user)).data, status=201)


class ResetView(APIView):
    """A new password by a link."""

    permission_classes = (AllowAny,)

    @extend_schema(operation_id="password_reset", request=ResetIn, responses={204: None})
    def post(self, request: Request) -> Response:
        people.reset(**valid(ResetIn, request))
        return Response(status=204)


class PasswordView(APIView):
    """One's own password."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="password_change", request=PasswordIn, responses={204: None})
    def put(self, request: Request) -> Response:
        user = _person(request)
        sessions.change_password(
            user, **valid(PasswordIn, request), own_key=request.session.session_key
        )
        update_session_auth_hash(request, user)
        return Response(status=204)


class SessionsView(APIView):
    """One's own sessions."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="sessions_list", responses=OpenSessionOut(many=True))
    def get(self, request: Request) -> Response:
        return Response(
            OpenSessionOut(
                sessions.open_sessions(_person(request), request.session.session_key), many=True
            ).data
        )


class OneSessionView(APIView):
    """One of them."""

    permission_classes = (IsAuthenticated, InPerson)

    @extend_schema(operation_id="session_end_other", responses={204: None})
    def delete(self, request: Request, session_id: str) -> Response:
        sessions.end_session(_person(request), session_id)
        return Response(status=204)


class TrailView(APIView):
    """What was done at the bench, the newest first; for owners.

    `before` goes on from an entry.
    """

    @extend_schema(
        operation_id="trail_read",
        parameters=[OpenApiParameter("before", int)],
        responses=TrailOut(many=True),
    )
    def get(self, request: Request) -> Response:
        rows = trail_of(_owned(request), whole_number(request, "before"))
        return Response(TrailOut(rows, many=True).data)


def _handed(request: Request, kind: str, bench: Bench, mail: str, path: str) -> Response:
    """A link as it is told, and sent where an address was given; what can not be sent
    is not made.
    """
    if mail:
        send_link(kind, bench.name, mail, request.build_absolute_uri(path))
    return Response({"address": path}, status=201)


def _owned(request: Request) -> Bench:
    bench = membership(request.user).bench
    require(request.user, bench, Role.OWNER)
    return bench


def _person(request: Request) -> User:
    if not isinstance(request.user, User):
        raise NotAllowed("Sign in first.")
    return request.user
