"""Long work as a person sees it: what, how far, how it ended."""

from __future__ import annotations

from django.db import models

from glenhail.server.accounts.models import Bench


class State(models.TextChoices):
    """A job's life."""

    QUEUED = "queued"
    RUNNING = "running"
    DONE = "done"
    FAILED = "failed"
    CANCELLED = "cancelled"


ACTIVE = (State.QUEUED, State.RUNNING)


class Job(models.Model):
    """One piece of long work.

    ``key`` names what is worked on: one job with a key runs at a time, and one more may
    wait.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="jobs")
    kind = models.CharField(max_length=40)
    key = models.CharField(max_length=120)
    label = models.CharField(max_length=300)
    arguments = models.JSONField(default=dict)
    study_id = models.BigIntegerField(null=True, db_index=True)
    state = models.CharField(max_length=10, choices=State.choices, default=State.QUEUED)
    progress = models.FloatField(default=0)
    message = models.CharField(max_length=300, blank=True)
    problem = models.TextField(blank=True)
    attempts = models.IntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    started = models.DateTimeField(null=True)
    finished = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-created", "-pk"]
        indexes = [models.Index(fields=["state", "-created"])]
        constraints = [
            models.UniqueConstraint(
                fields=["key"], condition=models.Q(state="queued"), name="one_waiting_job_per_key"
            )
        ]

    def __str__(self) -> str:
        return f"{self.label} ({self.state})"
