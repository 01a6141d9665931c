"""Tools, their releases, and treatments: ordered steps of releases with settings."""

from __future__ import annotations

from django.db import models

from glenhail.server.accounts.models import Bench


class Tool(models.Model):
    """A program, or a method anybody has."""

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="tools")
    name = models.CharField(max_length=80)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["bench", "name"], name="one_tool_per_name")]

    def __str__(self) -> str:
        return self.name


class Release(models.Model):
    """One version of a tool."""

    tool = models.ForeignKey(Tool, on_delete=models.CASCADE, related_name="releases")
    name = models.CharField(max_length=40, blank=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["tool", "name"], name="one_release_per_name")]

    def __str__(self) -> str:
        return f"{self.tool} {self.name}".strip()


class Treatment(models.Model):
    """What is done to a frame: steps in their order."""

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="treatments")

    def __str__(self) -> str:
        return self.words

    @property
    def title(self) -> str:
        """The releases, in order."""
        return ", then ".join(str(s.release) for s in self.steps.all())

    @property
    def manner(self) -> str:
        """Mode and settings of every step, in words."""
        return ", then ".join(s.manner for s in self.steps.all() if s.manner)

    @property
    def words(self) -> str:
        """All of it on one line."""
        return ", ".join(part for part in (self.title, self.manner) if part)


class Step(models.Model):
    """One release with a mode and settings, automatic or by hand."""

    treatment = models.ForeignKey(Treatment, on_delete=models.CASCADE, related_name="steps")
    order = models.IntegerField()
    release = models.ForeignKey(Release, on_delete=models.PROTECT, related_name="steps")
    mode = models.CharField(max_length=80, blank=True)
    settings = models.CharField(max_length=300, blank=True)
    automatic = models.BooleanField(default=False)

    class Meta:
        ordering = ["order"]

    def __str__(self) -> str:
        return f"{self.release} {self.manner}".strip()

    @property
    def manner(self) -> str:
        """Mode and settings in words."""
        parts = [self.mode, self.settings, "automatic" if self.automatic else ""]
        return ", ".join(p for p in parts if p)
