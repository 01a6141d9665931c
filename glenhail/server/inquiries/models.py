"""What is asked of a whole study, and what came of it."""

from __future__ import annotations

from django.db import models

from glenhail.server.sensors.models import Measured
from glenhail.server.studies.models import Study


class About(models.TextChoices):
    """What an inquiry is about."""

    VISIBILITY = "visibility"
    STRENGTH = "strength"
    LEVEL = "level"
    ORDER = "order"
    RELEASES = "releases"


class Inquiry(Measured):
    """One question asked of a whole study; ``subject`` is which of its kind: of a
    visibility the contender that others are held against.
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="inquiries")
    about = models.CharField(max_length=12, choices=About.choices)
    subject = models.CharField(max_length=60, blank=True)

    class Meta:
        ordering = ["pk"]
        verbose_name_plural = "inquiries"
        constraints = [
            models.UniqueConstraint(
                fields=["study", "about", "subject"], name="one_inquiry_of_a_subject_per_study"
            )
        ]

    def __str__(self) -> str:
        return f"{self.about} in {self.study}"
