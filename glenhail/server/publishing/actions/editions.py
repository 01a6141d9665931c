"""What is done to editions that are published: they never change, but may be withdrawn."""

from __future__ import annotations

from django.core.files.storage import storages
from django.db import transaction
from django.utils import timezone

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError
from glenhail.server.publishing.frozen import names_in
from glenhail.server.publishing.models import Edition
from glenhail.server.publishing.pushing import ask_for_push


@transaction.atomic
def withdraw(actor: Actor, edition: Edition, reason: str) -> Edition:
    """Say at an edition's address that it was withdrawn and why, and serve nothing else
    there; its bytes stay.

    Raises
    ------
    ActionError
        Without a reason, or where it was withdrawn before.
    """
    bench = edition.report.study.bench
    require(actor, bench, Role.OWNER)
    edition = Edition.objects.select_for_update().get(pk=edition.pk)
    reason = reason.strip()
    if not reason:
        raise ActionError("State why the edition is withdrawn; its readers see it.")
    if edition.withdrawn:
        raise ActionError(f"Edition {edition.number} was withdrawn before.")
    edition.withdrawn, edition.withdrawn_because = timezone.now(), reason
    edition.save(update_fields=["withdrawn", "withdrawn_because"])
    record(actor, bench, "withdraw edition", f"{edition}: {reason}")
    ask_for_push(bench)
    return edition


def erase(actor: Actor, edition: Edition, reason: str) -> int:
    """Delete a withdrawn edition's bytes, since the law asks; returns how many files
    went. Its row, number and reason stay.

    Raises
    ------
    ActionError
        Without a reason, or where it was not withdrawn first.
    """
    bench = edition.report.study.bench
    require(actor, bench, Role.OWNER)
    if not reason.strip():
        raise ActionError("State which demand the edition is erased for; the trail keeps it.")
    if not edition.withdrawn:
        raise ActionError("Withdraw the edition first: its readers have to know.")
    record(actor, bench, "erase edition", f"{edition}: {reason.strip()}")
    # The row first: work that dies leaves bytes that nothing serves, and runs again.
    if edition.erased is None:
        edition.erased = timezone.now()
        edition.save(update_fields=["erased"])
    # Whatever lies there, not only what is listed: printing that died may have left more.
    names = list(names_in(edition.folder))
    for name in names:
        storages["editions"].delete(f"{edition.folder}/{name}")
    edition.files = []
    edition.manifest = []
    edition.save(update_fields=["files", "manifest"])
    return len(names)
