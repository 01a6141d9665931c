"""Who may do what: the one place that compares roles."""

from __future__ import annotations

from django.contrib.auth.models import AnonymousUser, User

from glenhail.server.accounts.models import Bench, Membership, Role, Trail
from glenhail.server.common.errors import Missing, NotAllowed

ORDER = [Role.VIEWER, Role.EDITOR, Role.OWNER]
Actor = User | AnonymousUser


def membership(actor: Actor) -> Membership:
    """The actor's own bench (the first, if there are several) and role there.

    Raises
    ------
    NotAllowed
        If the actor belongs to none.
    """
    found = (
        Membership.objects.select_related("bench")
        .filter(user_id=actor.pk or 0)
        .order_by("pk")
        .first()
    )
    if found is None:
        raise NotAllowed("This account belongs to no bench. Ask an owner to add it.")
    return _within(actor, found)


def _within(actor: Actor, found: Membership) -> Membership:
    """A membership as far as the token goes that the actor came with."""
    scope = getattr(actor, "scope", None)
    if scope is not None and ORDER.index(scope) < ORDER.index(Role(found.role)):
        found.role = scope
    return found


def belongs(actor: Actor, bench: Bench) -> bool:
    """Whether the actor has any role at the bench."""
    return Membership.objects.filter(user_id=actor.pk or 0, bench=bench).exists()


def require(actor: Actor, bench: Bench, least: Role) -> None:
    """Let pass an actor who has at least that role at the bench.

    Raises
    ------
    Missing
        For people of other benches, who must not learn that the thing exists.
    NotAllowed
        If the role does not reach.
    """
    found = Membership.objects.filter(user_id=actor.pk or 0, bench=bench).first()
    if found is None:
        raise Missing("There is no such thing, or it was removed.")
    own = found.role
    if ORDER.index(Role(_within(actor, found).role)) < ORDER.index(least):
        what = "Your role here is" if own == found.role else "This token's scope is"
        raise NotAllowed(f"{what} {found.role}; this takes an {least.value}.")


def record(actor: Actor, bench: Bench, action: str, subject: object) -> None:
    """Write down who did what."""
    Trail.objects.create(bench=bench, actor_id=actor.pk, action=action, subject=str(subject)[:300])
