"""Patches, and the readings taken on them."""

from __future__ import annotations

from django.db import models

from glenhail.core.measures.catalogue import ROLES
from glenhail.core.picture import Rect
from glenhail.server.material.models import Frame, Picture
from glenhail.server.studies.models.outputs import Output
from glenhail.server.studies.models.study import Study


class Patch(models.Model):
    """A matched rectangle on a frame, in the frame's pixels, with a role;

    ``doubt`` is what makes a flat one less than plain.
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="patches")
    frame = models.ForeignKey(Frame, on_delete=models.PROTECT, related_name="patches")
    name = models.CharField(max_length=60)
    role = models.CharField(max_length=12, choices=[(r, r) for r in ROLES])
    x = models.FloatField()
    y = models.FloatField()
    w = models.FloatField()
    h = models.FloatField()
    order = models.IntegerField(default=0)
    doubt = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["order", "pk"]
        verbose_name_plural = "patches"

    def __str__(self) -> str:
        return self.name

    @property
    def drawn(self) -> list[object]:
        """What of it is edited."""
        return [self.name, self.role, self.x, self.y, self.w, self.h]

    @property
    def rect(self) -> Rect:
        """As the core speaks of it."""
        return Rect(self.x, self.y, self.w, self.h)


AS_MADE, MATCHED = "", "matched"
BASES = [(AS_MADE, "as made"), (MATCHED, "matched")]


class Reading(models.Model):
    """One measure of one output on one patch, or on the whole frame;

    ``key`` names all it depends on.

    ``basis`` tells the two sets apart: outputs as they were made, or matched as the
    study says. ``parts`` are its pseudo-values by part of the patch, for paired
    comparisons.
    """

    output = models.ForeignKey(Output, on_delete=models.CASCADE, related_name="readings")
    patch = models.ForeignKey(Patch, on_delete=models.CASCADE, null=True, related_name="readings")
    measure = models.CharField(max_length=20)
    value = models.FloatField(null=True)
    low = models.FloatField(null=True)
    high = models.FloatField(null=True)
    unit = models.CharField(max_length=20, blank=True)
    version = models.CharField(max_length=10)
    grid = models.CharField(max_length=200, blank=True)
    reason = models.CharField(max_length=300, blank=True)
    details = models.JSONField(default=dict)
    parts = models.JSONField(default=list)
    key = models.CharField(max_length=64)
    basis = models.CharField(max_length=8, choices=BASES, default=AS_MADE, blank=True)
    taken = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["output", "patch", "measure", "basis"],
                name="one_reading_per_place",
                nulls_distinct=False,
            )
        ]

    def __str__(self) -> str:
        return f"{self.measure} of {self.output}"


class Suggested(models.Model):
    """Patches that a frame suggests by itself (core.measures.suggested_patches), made once for a
    picture.
    """

    picture = models.ForeignKey(Picture, on_delete=models.CASCADE, related_name="suggested")
    version = models.CharField(max_length=10)
    made = models.JSONField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["picture", "version"], name="suggested_once_a_version")
        ]

    def __str__(self) -> str:
        return f"patches of {self.picture}"
