"""What was read of sensors: of a body by itself, and of the bodies of a study."""

from __future__ import annotations

from django.db import models

from glenhail.server.material.models import Body
from glenhail.server.studies.models import Patch, Study


class Measured(models.Model):
    """What all raw files of something say (core.sensor.told); ``key`` names all it
    depends on, ``problem`` is why nothing could be read.
    """

    key = models.CharField(max_length=64)
    found = models.JSONField(null=True)
    problem = models.TextField(blank=True)
    taken = models.DateTimeField(auto_now=True)

    class Meta:
        abstract = True


class BodyMeasured(Measured):
    """A body's sensor by its raw files; ``frames`` how many these were."""

    body = models.OneToOneField(Body, on_delete=models.CASCADE, related_name="measured")
    frames = models.IntegerField(default=0)

    def __str__(self) -> str:
        return f"sensor of {self.body}"


class StudySeries(Measured):
    """The bodies of a study against each other, over ISO."""

    study = models.OneToOneField(Study, on_delete=models.CASCADE, related_name="series")

    def __str__(self) -> str:
        return f"series of {self.study}"


class MeteredSpot(models.Model):
    """A spot's luminance by a meter, cd/m2, and the T-number of each body's lens by the
    body's name: what saturation-based speed takes beside the mosaics.
    """

    study = models.OneToOneField(Study, on_delete=models.CASCADE, related_name="metered")
    patch = models.ForeignKey(Patch, on_delete=models.CASCADE, related_name="metered")
    luminance = models.FloatField()
    t_numbers = models.JSONField(default=dict)

    def __str__(self) -> str:
        return f"{self.luminance:g} cd/m² at {self.patch.name}"
