"""How pictures lie on each other, what examining them found, and the readings taken of
them.
"""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.core.lineup.bend import turn_of
from glenhail.core.picture import Bend, Mapping
from glenhail.server.accounts.models import Bench
from glenhail.server.material.models import Picture
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Patch

AS_MADE, MATCHED = "", "matched"


BASES = [(AS_MADE, "as made"), (MATCHED, "matched")]


class Reading(models.Model):
    """One measure of one output on one patch, or on the whole frame;

    ``key`` names all it depends on.

    ``basis`` tells the two sets apart: outputs as they were made, or matched as the
    study says. ``parts`` are its pseudo-values by part of the patch, for paired
    comparisons. ``concerns`` is False where the measure asks what the output was never
    meant to do.
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
    concerns = models.BooleanField(default=True)
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
    """Patches that a frame suggests by itself (core.measures.suggested_patches), made
    once for a picture.
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


class LineUp(models.Model):
    """How one picture lies on another; keyed by the two, the method's version and
    hand-placed points, found once.

    ``cells`` are the places it was measured in, as x, y, left-over shift across and
    down (frame px) and likeness; ``points`` the hand-placed pairs that it was begun
    from.
    """

    source = models.ForeignKey(Picture, on_delete=models.CASCADE, related_name="lineups")
    output = models.ForeignKey(Picture, on_delete=models.CASCADE, related_name="lineups_as_output")
    version = models.CharField(max_length=10)
    refused = models.TextField(blank=True)
    sx = models.FloatField(default=1)
    sy = models.FloatField(default=1)
    dx = models.FloatField(default=0)
    dy = models.FloatField(default=0)
    left = models.IntegerField(default=0)
    top = models.IntegerField(default=0)
    right = models.IntegerField(default=0)
    bottom = models.IntegerField(default=0)
    residual = models.FloatField(default=0)
    likeness = models.FloatField(default=0)
    bend = models.JSONField(null=True)
    doubts = models.JSONField(default=list)
    cells = models.JSONField(default=list)
    points = models.JSONField(default=list)
    points_key = models.CharField(max_length=64, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["source", "output", "version", "points_key"], name="one_line_up_per_pair"
            )
        ]

    def __str__(self) -> str:
        return f"{self.output} on {self.source}"

    @property
    def mapping(self) -> Mapping:
        """As the core speaks of it."""
        bend = (
            Bend(
                **{
                    **self.bend,
                    "across": tuple(self.bend["across"]),
                    "down": tuple(self.bend["down"]),
                }
            )
            if self.bend
            else None
        )
        return Mapping(self.sx, self.sy, self.dx, self.dy, bend)

    @property
    def turn(self) -> float:
        """Degrees clockwise."""
        bend = self.mapping.bend
        return turn_of(bend) if bend else 0.0


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
