"""The queue's own tasks: run a job, and pick up jobs whose worker died."""

from __future__ import annotations

import logging
from datetime import timedelta

from asgiref.sync import sync_to_async
from django.db import close_old_connections, connection, transaction
from django.utils import timezone
from procrastinate import JobContext, builtin_tasks
from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector
from procrastinate.manager import JobManager

from glenhail.core.errors import CoreError
from glenhail.server.common.errors import ActionError
from glenhail.server.common.logs import about
from glenhail.server.jobs.alone import machine, to_be_alone
from glenhail.server.jobs.models import ACTIVE, Job, State
from glenhail.server.jobs.registry import KINDS, Cancelled, Progress, finish
from glenhail.server.storage.durable import is_full
from glenhail.server.storage.uploads import forget_old

log = logging.getLogger(__name__)
MOST_ATTEMPTS = 3
STALLED_AFTER = 20.0  # seconds without a sign of life from the worker
DIED = "The worker died each time it tried this. Look at its log, then retry."
NO_MEMORY = (
    "This needs more memory than there is. Nothing was lost: try a smaller picture, or retry when"
    " less is going on."
)
DISK_FULL = "The disk of this bench is full. Nothing was lost: free some room, then retry."
UNFORESEEN = "Something unforeseen went wrong; the worker's log says what. Nothing was lost: retry."


@app.task(name="glenhail.run_job", queue="work")
def run_job(job_id: int) -> None:
    """Run one job to a clear end: done, failed with a reason, or cancelled."""
    close_old_connections()
    job = _claim(job_id)
    if job is None:
        return
    with about(job=job.pk, kind=job.kind):
        _run(job)


def _run(job: Job) -> None:
    job_id = job.pk
    alone = to_be_alone(job.kind, job.arguments)
    if alone:
        Job.objects.filter(pk=job_id, state=State.RUNNING).update(
            message="waiting to have the machine to itself"
        )
    try:
        with machine(alone):
            KINDS[job.kind](Progress(job), job.arguments)
    except Cancelled:
        return
    except (CoreError, ActionError) as error:
        finish(job_id, State.FAILED, str(error))
    except MemoryError:
        log.exception("job %s needs more memory than there is", job_id)
        finish(job_id, State.FAILED, NO_MEMORY)
    except OSError as error:
        log.exception("job %s failed", job_id)
        finish(job_id, State.FAILED, DISK_FULL if is_full(error) else UNFORESEEN)
    except Exception:
        log.exception("job %s failed", job_id)
        finish(job_id, State.FAILED, UNFORESEEN)
    else:
        finish(job_id, State.DONE)


@transaction.atomic
def _claim(job_id: int) -> Job | None:
    """The job, now running; None where it was cancelled, has ended, or is given up.

    Cancelling and this exclude each other.
    """
    job = Job.objects.select_for_update().filter(pk=job_id, state__in=ACTIVE).first()
    if job is None:
        return None
    if job.attempts >= MOST_ATTEMPTS:
        finish(job_id, State.FAILED, DIED, of=State(job.state))
        return None
    job.state, job.started, job.attempts = State.RUNNING, timezone.now(), job.attempts + 1
    job.save(update_fields=["state", "started", "attempts"])
    return job


def defer(*jobs: Job) -> None:
    """Hand jobs to the queue within the caller's transaction, in one statement.

    In a worker the queue has a connection of its own; a job handed over on it could be
    fetched, and found missing, before the transaction that makes the job's row ends. So
    Django's connection is named here.
    """
    manager = JobManager(DjangoConnector())
    manager.batch_defer_jobs(
        [run_job.configure(lock=job.key).make_new_job(job_id=job.pk) for job in jobs]
    )


def put_back_lost(older_than: float = STALLED_AFTER) -> int:
    """Hand over again every active job that the queue does not know, whatever came
    between; returns how many there were.
    """
    since = timezone.now() - timedelta(seconds=older_than)
    handed = (
        "SELECT (args->>'job_id')::bigint FROM procrastinate_jobs WHERE status IN ('todo', 'doing')"
        " AND task_name = %s"
    )
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(handed, [run_job.name])
        known = {row[0] for row in cursor.fetchall()}
        lost = (
            Job.objects.select_for_update(skip_locked=True)
            .filter(state__in=ACTIVE, created__lt=since)
            .exclude(pk__in=known)
        )
        for job in lost:
            log.warning("job %s was lost to the queue; handing it over again", job.pk)
            defer(job)
        return len(lost)


@app.periodic(cron="* * * * * */15")
@app.task(name="glenhail.rescue", queue="work", queueing_lock="rescue", pass_context=True)
async def rescue(context: JobContext, timestamp: int) -> None:
    """Put back jobs whose worker was killed."""
    manager = context.app.job_manager
    for stalled in await manager.get_stalled_jobs(
        queue="work", seconds_since_heartbeat=STALLED_AFTER
    ):
        log.warning("rescuing job %s", stalled.task_kwargs)
        await manager.retry_job(stalled)
    await sync_to_async(put_back_lost)()


@app.periodic(cron="17 * * * *")
@app.task(name="glenhail.tidy", queue="work", queueing_lock="tidy", pass_context=True)
async def tidy(context: JobContext, timestamp: int) -> None:
    """Forget the queue's record of work finished three days ago, and uploads left
    unfinished for a week.
    """
    await builtin_tasks.remove_old_jobs(context, max_hours=72)
    await sync_to_async(forget_old)()
