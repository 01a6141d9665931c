"""What the audit rests on: points placed by hand, what was found by examining outputs,
and what was decided about findings.
"""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.server.accounts.models import Bench
from glenhail.server.material.models import Picture
from glenhail.server.studies.models.study import Study


class HandPoints(models.Model):
    """Two or three places that a person of a bench found in both pictures, from which
    their line-up begins there.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="hand_points")
    source = models.ForeignKey(Picture, on_delete=models.CASCADE, related_name="hand_points")
    output = models.ForeignKey(
        Picture, on_delete=models.CASCADE, related_name="hand_points_as_output"
    )
    pairs = models.JSONField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["bench", "source", "output"], name="points_once_per_pair"
            )
        ]

    def __str__(self) -> str:
        return f"points of {self.output} on {self.source}"


class Examined(models.Model):
    """What was found by examining one picture against another (core.audit.examine);

    ``key`` names all it depends on.
    """

    source = models.ForeignKey(Picture, on_delete=models.CASCADE, related_name="examined")
    output = models.ForeignKey(Picture, on_delete=models.CASCADE, related_name="examined_as_output")
    key = models.CharField(max_length=64)
    told = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["key"], name="examined_once")]

    def __str__(self) -> str:
        return f"{self.output} examined on {self.source}"


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
