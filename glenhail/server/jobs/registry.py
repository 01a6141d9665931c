"""Which function does which kind of job, and what a running job may count on."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from django.db import transaction
from django.dispatch import Signal
from django.utils import timezone

from glenhail.server.accounts.models import Role
from glenhail.server.jobs.models import Job, State


class Cancelled(Exception):
    """The job was cancelled while it ran."""


class Progress:
    """What a running job tells, and where it learns that it was cancelled."""

    def __init__(self, job: Job, low: float = 0.0, high: float = 1.0) -> None:
        self.job = job
        self.low, self.high = low, high

    def within(self, low: float, high: float) -> Progress:
        """For a part of the work that takes a job from one share of the whole to
        another, each 0..1.
        """
        span = self.high - self.low
        return Progress(self.job, self.low + span * low, self.low + span * high)

    def tell(self, share: float, message: str) -> None:
        """Write how far the work (or this part of it) is, 0..1, and what is being done.

        Raises
        ------
        Cancelled
            If somebody cancelled the job meanwhile.
        """
        running = Job.objects.filter(pk=self.job.pk, state=State.RUNNING)
        whole = self.low + (self.high - self.low) * share
        if not running.update(progress=whole, message=message[:300]):
            raise Cancelled(str(self.job))

    @contextmanager
    def settling(self) -> Iterator[None]:
        """A transaction in which a job writes down what came of it, as its last step,
        and is done with its end.

        Cancelling waits for that end and is too late, or came before and nothing is
        written.

        Raises
        ------
        Cancelled
            If the job was cancelled before.
        """
        with transaction.atomic():
            if (
                not Job.objects.select_for_update()
                .filter(pk=self.job.pk, state=State.RUNNING)
                .exists()
            ):
                raise Cancelled(str(self.job))
            yield
            finish(self.job.pk, State.DONE)


# Sent with ``job`` in the transaction that ends it, however it ended.
job_ended = Signal()

Work = Callable[[Progress, dict[str, Any]], None]
Settle = Callable[[dict[str, Any], str], None]
KINDS: dict[str, Work] = {}
SETTLERS: dict[str, Settle] = {}
RIGHTS: dict[str, Role] = {}


def does(
    kind: str, settle: Settle | None = None, least: Role = Role.EDITOR
) -> Callable[[Work], Work]:
    """Register the function that does a kind of job.

    It must be idempotent: a job may run again.

    `least` is the role that asking for it takes, and so cancelling and retrying it.
    `settle` is told the arguments and the reason when a job fails or is cancelled, in
    the transaction that says so: what it was about must not go on waiting for it.
    """

    def register(work: Work) -> Work:
        KINDS[kind] = work
        RIGHTS[kind] = least
        if settle is not None:
            SETTLERS[kind] = settle
        return work

    return register


@transaction.atomic
def finish(job_id: int, state: State, problem: str = "", of: State = State.RUNNING) -> bool:
    """Close a job that is in a state, and settle what it was about where it came to
    nothing; whether it was in that state.
    """
    changes: dict[str, Any] = {"state": state, "problem": problem, "finished": timezone.now()}
    if state == State.DONE:
        changes["progress"] = 1.0
    if not Job.objects.filter(pk=job_id, state=of).update(**changes):
        return False
    job = Job.objects.select_related("bench").get(pk=job_id)
    if state in (State.FAILED, State.CANCELLED) and job.kind in SETTLERS:
        SETTLERS[job.kind](job.arguments, problem)
    job_ended.send(sender=Job, job=job)
    return True
