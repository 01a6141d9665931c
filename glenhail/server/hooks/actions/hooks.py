"""Who is told of what: addresses entered and removed by owners, events handed over."""

from __future__ import annotations

import json
import secrets
from collections.abc import Mapping, Sequence
from typing import Any
from urllib.parse import urlsplit

from django.db import transaction
from django.utils import timezone

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.hooks.models import Event, Hook, Telling
from glenhail.server.hooks.sending import check_address
from glenhail.server.jobs.actions.queue import enqueue

JOB = "tell a program"
MOST = 20
KEPT = 50  # tellings of each address


@transaction.atomic
def add_hook(actor: Actor, bench: Bench, address: str, events: Sequence[str]) -> Hook:
    """Have an address told of events from now on.

    Raises
    ------
    ActionError
        If it is no address, no event is chosen, or there are too many.
    """
    require(actor, bench, Role.OWNER)
    check_address(address)
    if not events:
        raise ActionError("Choose at least one event that is told.")
    if bench.hooks.count() >= MOST:
        raise ActionError(f"{MOST} addresses are the most. Remove those that nobody needs.")
    made = Hook.objects.create(
        bench=bench,
        address=address,
        events=[e for e in Event.values if e in events],
        secret=secrets.token_urlsafe(32),
        made_by_id=actor.pk,
    )
    record(actor, bench, "add hook", address)
    return made


@transaction.atomic
def remove_hook(actor: Actor, bench: Bench, pk: int) -> None:
    """Tell an address nothing any more.

    Raises
    ------
    Missing
        If there is none such.
    """
    require(actor, bench, Role.OWNER)
    hook = bench.hooks.filter(pk=pk).first()
    if hook is None:
        raise Missing("There is no such address, or it was removed.")
    record(actor, bench, "remove hook", hook.address)
    hook.delete()


@transaction.atomic
def try_hook(actor: Actor, bench: Bench, pk: int) -> Telling:
    """Send an address an event that says of itself that it is a trial.

    Raises
    ------
    Missing
        If there is none such.
    """
    require(actor, bench, Role.OWNER)
    hook = bench.hooks.filter(pk=pk).first()
    if hook is None:
        raise Missing("There is no such address, or it was removed.")
    return _hand_over(hook, Event(hook.events[0]), {"trial": True})


def tell(bench: Bench, event: Event, told: Mapping[str, Any]) -> None:
    """Hand an event over to every address that is to be told of it, within the
    transaction in which it happened: it is told if and only if that holds.
    """
    for hook in bench.hooks.all():
        if event in hook.events:
            _hand_over(hook, event, told)


def listens(bench_id: int, events: Sequence[Event]) -> bool:
    """Whether anybody is to be told of one of these."""
    kept = Hook.objects.filter(bench_id=bench_id).values_list("events", flat=True)
    return any(event in of for of in kept for event in events)


def _hand_over(hook: Hook, event: Event, told: Mapping[str, Any]) -> Telling:
    now = timezone.now()
    body = {"event": event, "at": now.isoformat(timespec="seconds"), **told}
    made = Telling.objects.create(hook=hook, event=event, body=json.dumps(body), due=now)
    old = list(hook.tellings.filter(due=None).values_list("pk", flat=True)[KEPT:])
    Telling.objects.filter(pk__in=old).delete()
    send_soon(made)
    return made


def send_soon(telling: Telling) -> None:
    """Queue one try."""
    # Everybody sees the queue; what follows the host is between the owner and the program.
    label = f"Telling {urlsplit(telling.hook.address).hostname} of “{telling.event}”"
    enqueue(telling.hook.bench, JOB, f"{JOB}:{telling.pk}", label, {"telling": telling.pk})
