"""A bench's own uses: added and taken away."""

from __future__ import annotations

from typing import Any

from django.db import IntegrityError, transaction

from glenhail.core.errors import BadRequest
from glenhail.core.uses.own import own_use
from glenhail.core.uses.table import USES
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.studies.models import OwnUse

MOST = 100  # of a bench


def add_use(actor: Actor, bench: Bench, told: dict[str, Any]) -> OwnUse:
    """Add one, by the fields of `core.uses.own`.

    Raises
    ------
    ActionError
        If it makes no sense, or there are many already.
    Conflict
        If there is one of that name.
    """
    require(actor, bench, Role.EDITOR)
    try:
        use = own_use("own", told)
    except BadRequest as error:
        raise ActionError(str(error)) from error
    if bench.own_uses.count() >= MOST:
        raise ActionError(f"A bench has at most {MOST} uses of its own. Take some away first.")
    taken = Conflict(f"There is a use named “{use.name}” already. Choose another name.")
    if use.name in {u.name for u in USES.values()}:
        raise taken
    fields = ("name", "width", "height", "enlarge", "jpeg", "ppi", "distance_cm", "part")
    try:
        with transaction.atomic():
            row = OwnUse.objects.create(bench=bench, **{f: getattr(use, f) for f in fields})
            record(actor, bench, "add use", row)
    except IntegrityError as error:
        raise taken from error
    return row


@transaction.atomic
def remove_use(actor: Actor, row: OwnUse) -> None:
    """Take it away; what was judged or written of it keeps its name."""
    require(actor, row.bench, Role.EDITOR)
    record(actor, row.bench, "remove use", row)
    row.delete()
