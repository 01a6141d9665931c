"""Other programs that a bench tells of what happened, and what was told them."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.server.accounts.models import Bench
from glenhail.server.studies.models import Study


class Event(models.TextChoices):
    """What a program may want to be told of."""

    READINGS = "readings ready"
    EDITION = "edition published"
    FINDING = "finding raised"


class Hook(models.Model):
    """An address that is told of events.

    ``secret`` signs what is sent there, and so is kept as it is; it is shown once.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="hooks")
    address = models.URLField(max_length=500)
    events = models.JSONField(default=list)
    secret = models.CharField(max_length=80)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.address


class Telling(models.Model):
    """One event on its way to one address.

    ``due`` is when it is tried next: None once it has arrived or was given up.
    ``status`` is what was answered last, ``problem`` why that is no arrival.
    """

    hook = models.ForeignKey(Hook, on_delete=models.CASCADE, related_name="tellings")
    event = models.CharField(max_length=30, choices=Event.choices)
    body = models.TextField()
    created = models.DateTimeField(auto_now_add=True)
    due = models.DateTimeField(null=True, db_index=True)
    arrived = models.DateTimeField(null=True)
    tries = models.IntegerField(default=0)
    status = models.IntegerField(null=True)
    problem = models.CharField(max_length=300, blank=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return f"{self.event} to {self.hook}"


class Announced(models.Model):
    """What of a study was told last: a print of its readings, and findings by name."""

    study = models.OneToOneField(Study, on_delete=models.CASCADE, related_name="announced")
    readings = models.CharField(max_length=80, blank=True)
    findings = models.JSONField(default=list)

    def __str__(self) -> str:
        return f"what was told of {self.study}"
