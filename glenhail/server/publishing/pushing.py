"""Queueing that the public site is brought to where readers get it."""

from __future__ import annotations

from django.conf import settings

from glenhail.server.accounts.models import Bench
from glenhail.server.jobs.actions.queue import enqueue


def ask_for_push(bench: Bench) -> None:
    """Queue it where the bench has such a place; one that waits serves for all."""
    if settings.PUSH:
        enqueue(bench, "push", "push", "Bringing the site to its readers", {})
