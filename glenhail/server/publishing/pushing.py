"""Queueing that the public site is brought to where readers get it."""

from __future__ import annotations

from django.conf import settings
from django.db import close_old_connections
from django.db.models import Max
from procrastinate.contrib.django import app

from glenhail.server.accounts.models import Bench
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.models import Job
from glenhail.server.publishing.queries import benches_with_ended_embargo


@app.periodic(cron="*/5 * * * *")
@app.task(name="glenhail.embargoes", queue="work", queueing_lock="embargoes")
def push_after_embargoes(timestamp: int) -> None:
    """Editions become public by themselves here, and have to elsewhere too."""
    close_old_connections()
    last = Job.objects.filter(kind="push").aggregate(at=Max("started"))["at"]
    for bench in benches_with_ended_embargo(since=last):
        ask_for_push(bench)


def ask_for_push(bench: Bench) -> None:
    """Queue it where the bench has such a place; one that waits serves for all."""
    if settings.PUSH:
        enqueue(bench, "push", "push", "Bringing the site to its readers", {})
