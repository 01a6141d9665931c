"""The question, its frames and patches, and who contends under which letter."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.core.measures.catalogue import ROLES
from glenhail.core.picture import Rect
from glenhail.core.tone.matching import WORDS, Match, Size
from glenhail.server.accounts.models import Bench
from glenhail.server.material.models import Frame, Licensed
from glenhail.server.tools.models import Treatment


class Factor(models.TextChoices):
    """The one thing that varies."""

    TOOL = "tool"
    RELEASE = "release"
    MODE = "mode"
    SETTING = "setting"
    ORDER = "order of steps"
    BODY = "body"
    ISO = "ISO"


class Study(models.Model):
    """One question put to the test.

    ``match`` and ``size`` say how a second set of readings is taken, beside the one of
    outputs as they were made.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="studies")
    question = models.CharField(max_length=200)
    factor = models.CharField(max_length=20, choices=Factor.choices)
    letters_given = models.IntegerField(default=0)
    letters_published = models.JSONField(default=list)
    match = models.CharField(
        max_length=20, choices=[(m.value, m.value) for m in Match], default=Match.NONE.value
    )
    size = models.CharField(
        max_length=10, choices=[(s.value, s.value) for s in Size], default=Size.NATIVE.value
    )
    created = models.DateTimeField(auto_now_add=True)
    archived = models.DateTimeField(null=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        ordering = ["-pk"]
        verbose_name_plural = "studies"

    def __str__(self) -> str:
        return self.question

    @property
    def matched(self) -> str:
        """The second set of readings in words; empty where there is none."""
        match = WORDS.get(Match(self.match), "")
        size = f"brought to the {self.size} size (Lanczos)" if self.size != Size.NATIVE else ""
        return ", ".join(w for w in (match, size) if w)


class StudyFrame(models.Model):
    """A frame's place in a study."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="study_frames")
    frame = models.ForeignKey(Frame, on_delete=models.PROTECT, related_name="study_frames")
    order = models.IntegerField(default=0)

    class Meta:
        ordering = ["order", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["study", "frame"], name="a_frame_once_per_study")
        ]

    def __str__(self) -> str:
        return f"{self.frame} in {self.study}"


class Kind(models.TextChoices):
    """What stands in a contender's column."""

    TRUTH = "truth"
    UNPROCESSED = "unprocessed"
    TREATMENT = "treatment"
    BODY = "body"  # what another body recorded of the frame's scene, beside "unprocessed"


TRUTH_LETTER, UNPROCESSED_LETTER = "T", "U"


LETTERS = "ABCDEFGHIJKLMNOPQRSVWXYZ"  # without T and U, which are taken


class Contender(Licensed):
    """A treatment entered under a letter; truth and unprocessed have theirs by right.

    Where bodies are compared, the unprocessed frames are one body's, and bear its name.

    Where its outputs have terms of their own, these hold beside those of their frames.
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="contenders")
    letter = models.CharField(max_length=1)
    kind = models.CharField(max_length=12, choices=Kind.choices, default=Kind.TREATMENT)
    treatment = models.ForeignKey(
        Treatment, on_delete=models.PROTECT, null=True, related_name="contenders"
    )
    body = models.CharField(max_length=80, blank=True)
    # The contender whose treatment it has, with another release.
    follows = models.ForeignKey(
        "self", on_delete=models.SET_NULL, null=True, related_name="followers"
    )
    order = models.IntegerField(default=0)

    class Meta:
        ordering = ["order", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["study", "letter"], name="a_letter_once_per_study")
        ]

    def __str__(self) -> str:
        return f"{self.letter}, {self.title}"

    @property
    def title(self) -> str:
        """What it is called."""
        return self.treatment.told.title if self.treatment else self.body or self.get_kind_display()

    @property
    def manner(self) -> str:
        """Mode and settings in words."""
        if self.treatment:
            return self.treatment.told.manner
        if not self.body:
            return ""
        held = self.kind == Kind.UNPROCESSED
        return "its shots are the frames" if held else "another body's shot of the scene"


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


class OwnUse(models.Model):
    """A bench's own use of pictures (core.uses.own has what the fields mean)."""

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="own_uses")
    name = models.CharField(max_length=80)
    width = models.IntegerField()
    height = models.IntegerField()
    enlarge = models.BooleanField(default=False)
    jpeg = models.IntegerField(null=True)
    ppi = models.FloatField()
    distance_cm = models.FloatField()
    part = models.FloatField(default=1)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["bench", "name"], name="one_use_of_a_name_per_bench")
        ]

    def __str__(self) -> str:
        return self.name
