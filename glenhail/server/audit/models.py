"""What was decided about findings."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.server.studies.models import Study


class Decided(models.TextChoices):
    """What a reviewer did about a finding."""

    ACCEPTED = "accepted"
    MATCHED = "matched"
    AGAIN = "made again"


class Decision(models.Model):
    """What was decided about a finding, by whom and when.

    ``about`` names what was found then: another finding reopens it.
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="decisions")
    finding = models.CharField(max_length=60)
    about = models.CharField(max_length=64)
    kind = models.CharField(max_length=12, choices=Decided.choices)
    reason = models.CharField(max_length=300, blank=True)
    actor = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.finding} {self.kind}"
