"""Enqueue, cancel and retry."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import IntegrityError, connection, transaction
from django.utils import timezone

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Conflict, Missing
from glenhail.server.jobs.models import ACTIVE, Job, State
from glenhail.server.jobs.registry import RIGHTS, finish
from glenhail.server.jobs.tasks import defer, run_job

CANCELLED = "It was cancelled. It can be tried again in the queue."


@dataclass(frozen=True)
class Work:
    """Something to be queued: one waiting job per key, its label as the queue shows it."""

    key: str
    label: str
    arguments: dict[str, Any]


def enqueue(
    bench: Bench,
    kind: str,
    key: str,
    label: str,
    arguments: dict[str, Any],
    study_id: int | None = None,
) -> Job:
    """Queue one piece of work, as `enqueue_all` does many."""
    return enqueue_all(bench, kind, [Work(key, label, arguments)], study_id)[0]


@transaction.atomic
def enqueue_all(
    bench: Bench, kind: str, works: Sequence[Work], study_id: int | None = None
) -> list[Job]:
    """Queue work in the transaction of the rows it is about, in a fixed number of
    statements; a waiting job with the same key serves for both.

    A waiting job that serves is locked until the caller's transaction ends: it must not
    start before it can see what the caller wrote.
    """
    wanted = {work.key: work for work in works}
    if not wanted:
        return []
    while True:
        waiting = Job.objects.select_for_update().filter(key__in=wanted, state=State.QUEUED)
        there = {job.key: job for job in waiting.order_by("pk")}
        new = [_job(bench, kind, w, study_id) for key, w in wanted.items() if key not in there]
        try:
            with transaction.atomic():
                Job.objects.bulk_create(new)
        except IntegrityError:
            continue  # somebody else queued one between the two statements
        if new:
            defer(*new)
        there |= {job.key: job for job in new}
        return [there[work.key] for work in works]


def _job(bench: Bench, kind: str, work: Work, study_id: int | None) -> Job:
    return Job(
        bench=bench,
        kind=kind,
        key=work.key,
        label=work.label[:300],
        arguments=work.arguments,
        study_id=study_id,
    )


def bring_forward(keys: Sequence[str]) -> int:
    """Let waiting jobs with these keys go before all others; returns how many there
    are.

    The queue's own table is told: its library sets a priority only when a job is handed
    over.
    """
    waiting = list(
        Job.objects.filter(key__in=keys, state=State.QUEUED).values_list("pk", flat=True)
    )
    if not waiting:
        return 0
    raise_them = (
        "UPDATE procrastinate_jobs SET priority = 1 + (SELECT coalesce(max(priority), 0) FROM"
        " procrastinate_jobs WHERE status = 'todo') WHERE status = 'todo' AND task_name = %s AND"
        " (args->>'job_id')::bigint = ANY(%s)"
    )
    with connection.cursor() as cursor:
        cursor.execute(raise_them, [run_job.name, waiting])
    return len(waiting)


@transaction.atomic
def cancel(actor: Actor, job_id: int) -> Job:
    """Stop a job: at once if it waits, at its next step if it runs."""
    job = _mine(actor, job_id)
    if job.state not in ACTIVE:
        raise Conflict(f"“{job.label}” has ended already.")
    finish(job.pk, State.CANCELLED, CANCELLED, of=State(job.state))
    job.refresh_from_db()
    return job


@transaction.atomic
def cancel_all(actor: Actor, bench: Bench, **which: Any) -> int:
    """Stop all jobs of a bench that fit, in one go; returns how many those were."""
    require(actor, bench, Role.EDITOR)
    active = Job.objects.select_for_update().filter(bench=bench, state__in=ACTIVE, **which)
    return sum(finish(job.pk, State.CANCELLED, CANCELLED, of=State(job.state)) for job in active)


@transaction.atomic
def retry(actor: Actor, job_id: int) -> Job:
    """Run a failed or cancelled job again."""
    job = _mine(actor, job_id)
    if job.state not in (State.FAILED, State.CANCELLED):
        raise Conflict(f"“{job.label}” has neither failed nor been cancelled.")
    return enqueue(job.bench, job.kind, job.key, job.label, job.arguments, job.study_id)


def _mine(actor: Actor, job_id: int) -> Job:
    job = Job.objects.select_for_update().filter(pk=job_id).first()
    if job is None:
        raise Missing("There is no such job.")
    require(actor, job.bench, RIGHTS.get(job.kind, Role.EDITOR))
    return job


# What a transaction that ends now calls finished may lie this much before its end.
OVERLAP = timedelta(seconds=3)
MOST_ENDED = 500
RATE_OVER = timedelta(seconds=90)
FEWEST = 3


def ended_since(bench: Bench, since: datetime) -> list[Job]:
    """Jobs that ended after a moment, the newest first; some of just before it again."""
    rows = Job.objects.filter(bench=bench, finished__gte=since - OVERLAP).exclude(state__in=ACTIVE)
    return list(rows.only("pk", "kind", "study_id").order_by("-finished")[:MOST_ENDED])


def seconds_left(bench: Bench) -> float | None:
    """Until the queue is empty at the pace of the last minute and a half; None while
    nothing is known of it.
    """
    waiting = Job.objects.filter(bench=bench, state__in=ACTIVE).count()
    done = Job.objects.filter(
        bench=bench, state=State.DONE, finished__gte=timezone.now() - RATE_OVER
    ).count()
    return waiting * RATE_OVER.total_seconds() / done if waiting and done >= FEWEST else None
