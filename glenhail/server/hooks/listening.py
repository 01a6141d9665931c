"""What happens that programs are told of."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db.models.signals import post_save
from django.dispatch import receiver

from glenhail.server.hooks.actions.hooks import listens, tell
from glenhail.server.hooks.jobs import LOOK, MEASURE
from glenhail.server.hooks.models import Event
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.models import Job
from glenhail.server.jobs.registry import job_ended
from glenhail.server.publishing.models import Edition


@receiver(post_save, sender=Edition)
def edition_kept(sender: type[Edition], instance: Edition, created: bool, **_: Any) -> None:
    """Tell of an edition in the transaction that publishes it."""
    if not created:
        return
    study = instance.report.study
    told = {
        "study": study.pk,
        "question": study.question,
        "edition": instance.number,
        "note": instance.note,
        "address": f"{settings.ADDRESS}{instance.address}",
    }
    tell(study.bench, Event.EDITION, told)


@receiver(job_ended, sender=Job)
def measured(sender: type[Job], job: Job, **_: Any) -> None:
    """Have it looked what is new once an output was measured, where anybody wants to
    know.
    """
    if job.kind != MEASURE or job.study_id is None:
        return
    if listens(job.bench_id, (Event.READINGS, Event.FINDING)):
        arguments = {"study": job.study_id}
        enqueue(
            job.bench,
            LOOK,
            f"{LOOK}:{job.study_id}",
            "Looking what is new",
            arguments,
            job.study_id,
        )
