"""Who works at a bench: invited by a link, given a role, shut out; and how a forgotten
password is set anew.
"""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.utils import timezone

from glenhail.server.accounts.actions.sessions import end_all_sessions
from glenhail.server.accounts.models import Bench, Link, LinkKind, Membership, Role, Token
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict, Missing

LASTS = {LinkKind.INVITE: timedelta(days=7), LinkKind.RESET: timedelta(days=1)}
STALE = "This link was used, has run out, or never was one. Ask an owner of the bench for another."


@transaction.atomic
def change_role(actor: Actor, bench: Bench, user_id: int, role: Role) -> Membership:
    """Give a member another role.

    Raises
    ------
    Conflict
        If the bench would be left without an owner.
    """
    require(actor, bench, Role.OWNER)
    member = _member(bench, user_id)
    if role != Role.OWNER:
        _keep_an_owner(bench, member)
    member.role = role
    member.save(update_fields=["role"])
    record(actor, bench, "change role", f"{member.user}, now {role}")
    return member


@transaction.atomic
def shut_out(actor: Actor, bench: Bench, user_id: int) -> None:
    """Take a member from the bench and end their sessions at once; what they did stays
    theirs.

    Raises
    ------
    Conflict
        If the bench would be left without an owner.
    """
    require(actor, bench, Role.OWNER)
    member = _member(bench, user_id)
    _keep_an_owner(bench, member)
    member.delete()
    Link.objects.filter(bench=bench, user_id=user_id, used=None).delete()
    Token.objects.filter(bench=bench, user_id=user_id).delete()
    end_all_sessions(member.user)
    record(actor, bench, "shut out", member.user)


@transaction.atomic
def invite(actor: Actor, bench: Bench, role: Role) -> str:
    """A token by which one person can join with a role; it is told this once."""
    require(actor, bench, Role.OWNER)
    record(actor, bench, "invite", role)
    return _make_link(actor, bench, LinkKind.INVITE, role=role)


@transaction.atomic
def make_reset(actor: Actor, bench: Bench, user_id: int) -> str:
    """A token by which a member can set a new password; it is told this once."""
    require(actor, bench, Role.OWNER)
    member = _member(bench, user_id)
    record(actor, bench, "offer new password", member.user)
    return _make_link(actor, bench, LinkKind.RESET, user=member.user)


@transaction.atomic
def join(token: str, username: str, password: str) -> User:
    """Make an account by an invitation.

    Raises
    ------
    Missing
        If the link holds no longer.
    ActionError
        If the name is taken, or the password is too weak.
    """
    link = _open_link(token, LinkKind.INVITE)
    user = User(username=username.strip())
    check_password(password, user)
    try:
        with transaction.atomic():
            user.full_clean(exclude=["password"])
            user.set_password(password)
            user.save()
    except (IntegrityError, ValidationError) as error:
        raise ActionError(
            "This name can not be had: it is taken, or holds signs other than letters, digits and @"
            " . + - _"
        ) from error
    Membership.objects.create(bench=link.bench, user=user, role=link.role)
    _use(link)
    record(user, link.bench, "join", user)
    return user


@transaction.atomic
def reset(token: str, password: str) -> User:
    """Set a new password by a link, and end all sessions and tokens that the old one
    began.

    Raises
    ------
    Missing
        If the link holds no longer.
    ActionError
        If the password is too weak.
    """
    link = _open_link(token, LinkKind.RESET)
    user = link.user
    if user is None:
        raise Missing(STALE)
    check_password(password, user)
    user.set_password(password)
    user.save(update_fields=["password"])
    end_all_sessions(user)
    # Whoever knew the old password may have made some.
    Token.objects.filter(user=user).delete()
    _use(link)
    record(user, link.bench, "set password", user)
    return user


def check_password(password: str, user: User) -> None:
    """Refuse a password that is too easily found.

    Raises
    ------
    ActionError
        With what is wrong with it.
    """
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise ActionError(" ".join(error.messages)) from error


def _make_link(
    actor: Actor, bench: Bench, kind: LinkKind, role: Role | str = "", user: User | None = None
) -> str:
    token = secrets.token_urlsafe(24)
    Link.objects.create(
        kind=kind,
        bench=bench,
        token_hash=_hashed(token),
        role=role,
        user=user,
        made_by_id=actor.pk,
        expires=timezone.now() + LASTS[kind],
    )
    return token


def _open_link(token: str, kind: LinkKind) -> Link:
    rows = Link.objects.select_for_update(of=("self",)).select_related("bench", "user")
    found = rows.filter(
        kind=kind, token_hash=_hashed(token), used=None, expires__gt=timezone.now()
    ).first()
    if found is None:
        raise Missing(STALE)
    return found


def _use(link: Link) -> None:
    link.used = timezone.now()
    link.save(update_fields=["used"])


def _hashed(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def _member(bench: Bench, user_id: int) -> Membership:
    found = (
        Membership.objects.select_for_update(of=("self",))
        .select_related("user")
        .filter(bench=bench, user_id=user_id)
        .first()
    )
    if found is None:
        raise Missing("Nobody like that works at this bench.")
    return found


def _keep_an_owner(bench: Bench, leaving: Membership) -> None:
    """Locked together, so that two owners can not take the role from each other at
    once.
    """
    owners = (
        Membership.objects.select_for_update().filter(bench=bench, role=Role.OWNER).order_by("pk")
    )
    if leaving.role == Role.OWNER and {o.pk for o in owners} == {leaving.pk}:
        raise Conflict("This is the only owner. Make somebody else an owner first.")
