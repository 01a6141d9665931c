"""Making accounts and giving them a role."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db import transaction

from glenhail.server.accounts.models import Bench, Membership, Role


@transaction.atomic
def add_member(bench: Bench, username: str, password: str, role: Role) -> User:
    """Add an account, or set role and password of the one there is; called from the
    command line only.
    """
    user, _ = User.objects.get_or_create(username=username)
    user.set_password(password)
    user.save()
    Membership.objects.update_or_create(bench=bench, user=user, defaults={"role": role})
    return user
