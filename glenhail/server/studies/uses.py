"""The uses that a bench chooses from: those that ship, and its own."""

from __future__ import annotations

from glenhail.core.uses.own import own_use
from glenhail.core.uses.table import USES, Use
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Missing
from glenhail.server.common.query import number_of
from glenhail.server.studies.models import OwnUse

OWN = "own-"  # before the number of an own use, in its id


def uses_of(bench: Bench) -> list[Use]:
    """All of them, its own last."""
    return [*USES.values(), *(use_of(row) for row in bench.own_uses.all())]


def use_of(row: OwnUse) -> Use:
    """As the core speaks of it."""
    return own_use(f"{OWN}{row.pk}", vars(row))


def find_use(bench: Bench, key: str) -> Use:
    """The use of an id.

    Raises
    ------
    Missing
        If the bench has none such.
    """
    number = number_of(key.removeprefix(OWN)) if key.startswith(OWN) else None
    row = None if number is None else bench.own_uses.filter(pk=number).first()
    use = USES.get(key) if row is None else use_of(row)
    if use is None:
        raise Missing("There is no such use, or it was taken away.")
    return use


def find_own_use(actor: Actor, use_id: int) -> OwnUse:
    """An own use that the actor may see."""
    row = OwnUse.objects.select_related("bench").filter(pk=use_id).first()
    if row is None:
        raise Missing("There is no such use, or it was taken away.")
    require(actor, row.bench, Role.VIEWER)
    return row
