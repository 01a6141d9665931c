"""Reading people's tokens, memberships and the trail of what was done."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db.models import QuerySet

from glenhail.server.accounts.models import Bench, Membership, Token, Trail

MOST_SHOWN = 200  # the web part's accounts/queries.ts goes on after as many


def tokens_of(user: User) -> QuerySet[Token]:
    """A person's tokens, the newest first."""
    return Token.objects.filter(user=user).order_by("-made")


def membership_of(user: User) -> Membership:
    """A person's place at a bench."""
    return Membership.objects.get(user=user)


def trail_of(bench: Bench, before: int | None = None) -> QuerySet[Trail]:
    """Who did what, the newest first; ``before`` is the last one of the page before."""
    rows = Trail.objects.select_related("actor").filter(bench=bench)
    if before is not None:
        rows = rows.filter(pk__lt=before)
    return rows.order_by("-pk")[:MOST_SHOWN]
