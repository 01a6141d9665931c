"""Which function does which kind of job."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.utils import timezone

from glenhail.server.jobs.models import Job, State


class Cancelled(Exception):
    """The job was cancelled while it ran."""


class Progress:
    """What a running job tells, and where it learns that it was cancelled."""

    def __init__(self, job: Job) -> None:
        self.job = job

    def tell(self, share: float, message: str) -> None:
        """Write how far the work is, 0..1, and what is being done.

        Raises
        ------
        Cancelled
            If somebody cancelled the job meanwhile.
        """
        running = Job.objects.filter(pk=self.job.pk, state=State.RUNNING)
        if not running.update(progress=share, message=message[:300]):
            raise Cancelled(str(self.job))


Work = Callable[[Progress, dict[str, Any]], None]
KINDS: dict[str, Work] = {}


def does(kind: str) -> Callable[[Work], Work]:
    """Register the function that does a kind of job. It must be idempotent: a job may run again."""

    def register(work: Work) -> Work:
        KINDS[kind] = work
        return work

    return register


def finish(job_id: int, state: State, problem: str = "") -> None:
    """Close a running job."""
    changes = {"state": state, "problem": problem, "finished": timezone.now()}
    if state == State.DONE:
        changes["progress"] = 1.0
    Job.objects.filter(pk=job_id, state=State.RUNNING).update(**changes)
