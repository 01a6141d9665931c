"""Reading the queue."""

from __future__ import annotations

from django.db.models import Count, QuerySet

from glenhail.server.accounts.models import Bench
from glenhail.server.jobs.models import ACTIVE, Job


def active_of(bench: Bench) -> QuerySet[Job]:
    """What runs and waits, what runs first."""
    return Job.objects.filter(bench=bench, state__in=ACTIVE).order_by("-state", "created")


def ended_of(bench: Bench) -> QuerySet[Job]:
    """What ended, the newest first."""
    return Job.objects.filter(bench=bench).exclude(state__in=ACTIVE)


def active_jobs(key: str) -> bool:
    """Whether work with this key runs or waits."""
    return Job.objects.filter(key=key, state__in=ACTIVE).exists()


def active_by_kind() -> list[tuple[str, str, int]]:
    """Kinds and states of jobs that run or wait, over all benches, and how many."""
    rows = Job.objects.filter(state__in=ACTIVE).values("kind", "state")
    return list(rows.annotate(count=Count("pk")).values_list("kind", "state", "count"))
