"""Tools, their releases, and treatments: ordered steps of releases with settings."""

from __future__ import annotations

from django.db import models

from glenhail.core.execution.command import Command, command_of
from glenhail.core.methods.catalogue import METHODS
from glenhail.core.parameters import Parameter, parameter_of
from glenhail.core.treatments import step as core
from glenhail.core.treatments.release import ReleaseFacts
from glenhail.server.accounts.models import Bench


class ToolKind(models.TextChoices):
    """What a tool is for."""

    DENOISE = "denoise"
    SHARPEN = "sharpen"
    ENLARGE = "enlarge"
    DEVELOP = "develop"
    SEVERAL = "several"


class Licence(models.TextChoices):
    """How one comes to use it."""

    FREE = "free"
    ONE_OFF = "one-off"
    SUBSCRIPTION = "subscription"
    TRIAL = "trial"


class Takes(models.TextChoices):
    """Which files it takes."""

    ANY = "any"
    RAW_ONLY = "raw only"


class Disclosure(models.TextChoices):
    """How the reviewer came by it."""

    BOUGHT = "bought"
    LENT = "lent"
    GIVEN = "given"
    AFFILIATE = "affiliate"


PLATFORMS = ("Linux", "macOS", "Windows", "Android", "iOS", "web")
WAYS = ("alone", "from another program", "command line", "web page")


class Tool(models.Model):
    """A program, or a method anybody has.

    ``largest`` is the largest enlargement; what is not known is empty or None.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="tools")
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=10, choices=ToolKind.choices, blank=True)
    maker = models.CharField(max_length=120, blank=True)
    licence = models.CharField(max_length=12, choices=Licence.choices, blank=True)
    platforms = models.JSONField(default=list)
    ways = models.JSONField(default=list)
    takes = models.CharField(max_length=10, choices=Takes.choices, default=Takes.ANY)
    largest = models.FloatField(null=True)
    batch = models.BooleanField(null=True)
    notes = models.TextField(blank=True)
    disclosure = models.CharField(max_length=10, choices=Disclosure.choices, blank=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["bench", "name"], name="one_tool_per_name")]

    def __str__(self) -> str:
        return self.name


class Price(models.Model):
    """What a tool cost on the day it was looked up."""

    tool = models.ForeignKey(Tool, on_delete=models.CASCADE, related_name="prices")
    what = models.CharField(max_length=60)
    amount = models.DecimalField(max_digits=10, decimal_places=2)
    currency = models.CharField(max_length=3)
    checked = models.DateField()

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.amount} {self.currency} for {self.what}"


class Release(models.Model):
    """One version of a tool: its date, its modes and settings, and how it is run.

    ``method`` is a built-in method's id; ``command`` a program's command template
    (core.execution.command). ``raw_modes`` are the modes that take raw files only.
    """

    tool = models.ForeignKey(Tool, on_delete=models.CASCADE, related_name="releases")
    name = models.CharField(max_length=40, blank=True)
    released = models.DateField(null=True)
    news = models.TextField(blank=True)
    modes = models.JSONField(default=list)
    raw_modes = models.JSONField(default=list)
    strength = models.BooleanField(default=True)
    settings = models.JSONField(default=list)
    command = models.JSONField(null=True)
    method = models.CharField(max_length=20, blank=True)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["tool", "name"], name="one_release_per_name")
        ]

    def __str__(self) -> str:
        return f"{self.tool} {self.name}".strip()

    @property
    def parameters(self) -> tuple[Parameter, ...]:
        """Its settings with their types; none where nobody has written them down."""
        return (
            METHODS[self.method].parameters
            if self.method
            else tuple(parameter_of(s) for s in self.settings)
        )

    @property
    def facts(self) -> ReleaseFacts:
        """What core has to know of it."""
        method = METHODS[self.method] if self.method else None
        return ReleaseFacts(
            str(self),
            tuple(self.modes),
            tuple(self.raw_modes),
            self.strength,
            self.parameters,
            builtin=method is not None,
            keeps_size=method is not None and method.work is not None,
            raw_only=self.tool.takes == "raw only",
            largest=self.tool.largest or 0.0,
        )

    @property
    def template(self) -> Command | None:
        """How a program is run for it; None where none is."""
        return command_of(self.command) if self.command else None

    @property
    def runs(self) -> bool:
        """Whether it can be run here without a person."""
        return bool(self.method or self.command)


class Treatment(models.Model):
    """What is done to a frame: steps in their order.

    One that is kept for reuse has a name.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="treatments")
    feed = models.CharField(max_length=20, default=core.RENDERED)
    saved_as = models.CharField(max_length=80, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["bench", "saved_as"],
                condition=~models.Q(saved_as=""),
                name="one_saved_treatment_per_name",
            )
        ]

    def __str__(self) -> str:
        return self.told.words

    @property
    def told(self) -> core.Treatment:
        """As the core speaks of it: complete in itself."""
        return core.Treatment(tuple(s.told for s in self.steps.all()), self.feed)


class Step(models.Model):
    """One release with a mode and settings, automatic or by hand
    (core.treatments.step).
    """

    treatment = models.ForeignKey(Treatment, on_delete=models.CASCADE, related_name="steps")
    order = models.IntegerField()
    release = models.ForeignKey(Release, on_delete=models.PROTECT, related_name="steps")
    mode = models.CharField(max_length=80, blank=True)
    settings = models.JSONField(default=list)
    strength = models.FloatField(null=True)
    automatic = models.BooleanField(default=False)
    limit = models.CharField(max_length=120, blank=True)
    part = models.JSONField(null=True)

    class Meta:
        ordering = ["order"]

    def __str__(self) -> str:
        return self.told.words

    @property
    def told(self) -> core.Step:
        """As the core speaks of it."""
        return core.step_of(
            {
                "tool": self.release.tool.name,
                "release": self.release.name,
                "mode": self.mode,
                "settings": self.settings,
                "strength": self.strength,
                "automatic": self.automatic,
                "limit": self.limit,
                "part": self.part,
                "method": self.release.method,
            }
        )
