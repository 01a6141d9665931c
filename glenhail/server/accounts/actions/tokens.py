"""Tokens by which a person's scripts sign in: made with a scope, told once, ended at
will.
"""

from __future__ import annotations

import hashlib
import secrets
from datetime import datetime, timedelta

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from glenhail.server.accounts.models import Bench, Role, Token
from glenhail.server.accounts.permissions import record, require
from glenhail.server.common.errors import ActionError, Missing

PREFIX = "glenhail_"  # by which a token that leaked is found
MOST = 50
NOTED_EVERY = timedelta(minutes=1)


@transaction.atomic
def make_token(
    user: User, bench: Bench, name: str, scope: Role, expires: datetime | None
) -> tuple[Token, str]:
    """A token for one's own scripts, and its text, which is told this once.

    Raises
    ------
    NotAllowed
        If the scope goes beyond one's own role.
    ActionError
        If it runs out before it begins, or there are too many.
    """
    require(user, bench, scope)
    if expires is not None and expires <= timezone.now():
        raise ActionError("A token runs out in the future, or never.")
    if Token.objects.filter(user=user).count() >= MOST:
        raise ActionError(f"{MOST} tokens are the most. End those that are not used.")
    text = PREFIX + secrets.token_urlsafe(32)
    token = Token.objects.create(
        bench=bench,
        user=user,
        name=name.strip(),
        scope=scope,
        token_hash=_hashed(text),
        expires=expires,
    )
    record(user, bench, "make token", f"{token.name}, {scope}")
    return token, text


@transaction.atomic
def end_token(user: User, pk: int) -> None:
    """End one of one's own tokens.

    Raises
    ------
    Missing
        If there is none such.
    """
    token = Token.objects.select_related("bench").filter(pk=pk, user=user).first()
    if token is None:
        raise Missing("There is no such token, or it was ended.")
    record(user, token.bench, "end token", token.name)
    token.delete()


def owner_of(text: str) -> Token | None:
    """The token of a text that holds; when it was last used is noted to the minute."""
    rows = Token.objects.select_related("user").filter(
        token_hash=_hashed(text), user__is_active=True
    )
    token = rows.first()
    now = timezone.now()
    if token is None or (token.expires is not None and token.expires <= now):
        return None
    if token.used is None or token.used < now - NOTED_EVERY:
        Token.objects.filter(pk=token.pk).update(used=now)
    return token


def _hashed(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()
