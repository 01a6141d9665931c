"""What contenders made: outputs, how they line up, the runs that made them, hot
folders.
"""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.core.lineup.bend import turn_of
from glenhail.core.picture import Bend, Mapping
from glenhail.server.material.models import Frame, Picture
from glenhail.server.studies.models.study import Contender


class Output(models.Model):
    """What one contender made of one frame, or why there is nothing.

    ``made_with`` is the treatment (and its commands) by which it was made here, as it
    stood then; None for a file brought in. ``trouble`` is why it could not be measured,
    where that had nothing to do with its files. ``preview`` is what the tool showed on
    screen, captured, and ``preview_told`` how that differs from the output.
    """

    contender = models.ForeignKey(Contender, on_delete=models.CASCADE, related_name="outputs")
    frame = models.ForeignKey(Frame, on_delete=models.PROTECT, related_name="outputs")
    picture = models.ForeignKey(
        Picture, on_delete=models.PROTECT, null=True, related_name="outputs"
    )
    file_name = models.CharField(max_length=255, blank=True)
    absence = models.CharField(max_length=300, blank=True)
    trouble = models.TextField(blank=True)
    made_with = models.JSONField(null=True)
    preview = models.ForeignKey(
        Picture, on_delete=models.PROTECT, null=True, related_name="previews"
    )
    preview_name = models.CharField(max_length=255, blank=True)
    preview_told = models.JSONField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["contender", "frame"], name="one_output_per_cell")
        ]

    def __str__(self) -> str:
        return f"{self.contender.letter} of {self.frame}"


class Outcome(models.TextChoices):
    """How a run ended."""

    MADE = "made"
    FAILED = "failed"
    TOLD = "told"  # times told by hand, of an output made elsewhere


class Run(models.Model):
    """One making of one output, ended: what it was made with, what it took.

    Times in seconds, memory in MB.

    ``number`` counts the repeats of one asking, ``same`` says whether a repeat gave the
    same bytes as the one before, ``alone`` whether it had the machine to itself.
    """

    contender = models.ForeignKey(Contender, on_delete=models.CASCADE, related_name="runs")
    frame = models.ForeignKey(Frame, on_delete=models.CASCADE, related_name="runs")
    outcome = models.CharField(max_length=8, choices=Outcome.choices)
    problem = models.TextField(blank=True)
    said = models.TextField(blank=True)
    number = models.IntegerField(default=1)
    same = models.BooleanField(null=True)
    alone = models.BooleanField(default=False)
    made_with = models.JSONField(null=True)
    steps = models.JSONField(default=list)
    load_s = models.FloatField(null=True)
    process_s = models.FloatField(null=True)
    export_s = models.FloatField(null=True)
    wall_s = models.FloatField(null=True)
    cpu_s = models.FloatField(null=True)
    peak_mb = models.FloatField(null=True)
    out_bytes = models.BigIntegerField(null=True)
    megapixels = models.FloatField(default=0)
    machine = models.CharField(max_length=200, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.contender.letter} on {self.frame}, {self.outcome}"


class HotFolder(models.Model):
    """A folder with inputs for a contender whose tool a person runs by hand; what is
    put beside them is picked up.
    """

    contender = models.OneToOneField(Contender, on_delete=models.CASCADE, related_name="hot_folder")
    open = models.BooleanField(default=True)
    inputs = models.JSONField(default=list)
    note = models.TextField(blank=True)
    actor = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"hot folder of {self.contender}"


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
