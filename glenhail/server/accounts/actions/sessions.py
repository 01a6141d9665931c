"""A person's sessions and password."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime

from django.contrib.auth import SESSION_KEY
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.utils import timezone

from glenhail.server.common.errors import ActionError, Missing


@dataclass(frozen=True)
class Open:
    """A session: a name that gives nothing away, when it runs out, and whether it is
    the one that asks.
    """

    id: str
    expires: datetime
    this: bool


def open_sessions(user: User, own_key: str | None) -> list[Open]:
    """All of a person's sessions, those that last longest first."""
    found = [Open(_named(s), s.expire_date, s.session_key == own_key) for s in _of(user)]
    return sorted(found, key=lambda s: s.expires, reverse=True)


def end_session(user: User, name: str) -> None:
    """End one of a person's own sessions.

    Raises
    ------
    Missing
        If there is none by that name.
    """
    found = next((s for s in _of(user) if _named(s) == name), None)
    if found is None:
        raise Missing("This session has ended.")
    found.delete()


def end_all_sessions(user: User, but: str | None = None) -> None:
    """End them all, but one where that is told."""
    for session in _of(user):
        if session.session_key != but:
            session.delete()


def change_password(user: User, old: str, new: str, own_key: str | None) -> None:
    """Set one's own password; all other sessions end.

    Raises
    ------
    ActionError
        If the old one is not right, or the new one too weak.
    """
    from glenhail.server.accounts.actions.people import check_password

    if not user.check_password(old):
        raise ActionError("The password you have now is another one.")
    check_password(new, user)
    user.set_password(new)
    user.save(update_fields=["password"])
    end_all_sessions(user, own_key)


def _of(user: User) -> Iterator[Session]:
    # A session's owner is within what it holds; a bench has some dozens of them.
    for session in Session.objects.filter(expire_date__gt=timezone.now()):
        if session.get_decoded().get(SESSION_KEY) == str(user.pk):
            yield session


def _named(session: Session) -> str:
    return hashlib.sha256(session.session_key.encode()).hexdigest()[:24]
