"""Studies: contenders, outputs, line-ups, patches, readings."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.core.measures.table import ROLES
from glenhail.core.picture import Mapping, Rect
from glenhail.server.accounts.models import Bench
from glenhail.server.material.models import Frame, Picture
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
    """One question put to the test."""

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="studies")
    question = models.CharField(max_length=200)
    factor = models.CharField(max_length=20, choices=Factor.choices)
    letters_given = models.IntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        ordering = ["-pk"]
        verbose_name_plural = "studies"

    def __str__(self) -> str:
        return self.question


class StudyFrame(models.Model):
    """A frame's place in a study."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="study_frames")
    frame = models.ForeignKey(Frame, on_delete=models.PROTECT, related_name="study_frames")
    order = models.IntegerField(default=0)

    class Meta:
        ordering = ["order", "pk"]
        constraints = [models.UniqueConstraint(fields=["study", "frame"], name="a_frame_once_per_study")]

    def __str__(self) -> str:
        return f"{self.frame} in {self.study}"


class Kind(models.TextChoices):
    """What stands in a contender's column."""

    TRUTH = "truth"
    UNPROCESSED = "unprocessed"
    TREATMENT = "treatment"


TRUTH_LETTER, UNPROCESSED_LETTER = "T", "U"
LETTERS = "ABCDEFGHIJKLMNOPQRSVWXYZ"  # without T and U, which are taken


class Contender(models.Model):
    """A treatment entered under a letter; truth and unprocessed have theirs by right."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="contenders")
    letter = models.CharField(max_length=1)
    kind = models.CharField(max_length=12, choices=Kind.choices, default=Kind.TREATMENT)
    treatment = models.ForeignKey(Treatment, on_delete=models.PROTECT, null=True, related_name="contenders")
    order = models.IntegerField(default=0)

    class Meta:
        ordering = ["order", "pk"]
        constraints = [models.UniqueConstraint(fields=["study", "letter"], name="a_letter_once_per_study")]

    def __str__(self) -> str:
        return f"{self.letter}, {self.title}"

    @property
    def title(self) -> str:
        """What it is called."""
        return self.treatment.told.title if self.treatment else self.get_kind_display()

    @property
    def manner(self) -> str:
        """Mode and settings in words."""
        return self.treatment.told.manner if self.treatment else ""


class Output(models.Model):
    """What one contender made of one frame, or why there is nothing.

    ``made_with`` is the treatment (and its commands) by which it was made here, as it stood then; None for a file brought in.
    ``preview`` is what the tool showed on screen, captured, and ``preview_told`` how that differs from the output.
    """

    contender = models.ForeignKey(Contender, on_delete=models.CASCADE, related_name="outputs")
    frame = models.ForeignKey(Frame, on_delete=models.PROTECT, related_name="outputs")
    picture = models.ForeignKey(Picture, on_delete=models.PROTECT, null=True, related_name="outputs")
    file_name = models.CharField(max_length=255, blank=True)
    absence = models.CharField(max_length=300, blank=True)
    made_with = models.JSONField(null=True)
    preview = models.ForeignKey(Picture, on_delete=models.PROTECT, null=True, related_name="previews")
    preview_name = models.CharField(max_length=255, blank=True)
    preview_told = models.JSONField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["contender", "frame"], name="one_output_per_cell")]

    def __str__(self) -> str:
        return f"{self.contender.letter} of {self.frame}"


class Outcome(models.TextChoices):
    """How a run ended."""

    MADE = "made"
    FAILED = "failed"
    TOLD = "told"  # times told by hand, of an output made elsewhere


class Run(models.Model):
    """One making of one output, ended: what it was made with, what it took. Times in seconds, memory in MB.

    ``number`` counts the repeats of one asking, ``same`` says whether a repeat gave the same bytes as the one before.
    """

    contender = models.ForeignKey(Contender, on_delete=models.CASCADE, related_name="runs")
    frame = models.ForeignKey(Frame, on_delete=models.CASCADE, related_name="runs")
    outcome = models.CharField(max_length=8, choices=Outcome.choices)
    problem = models.TextField(blank=True)
    said = models.TextField(blank=True)
    number = models.IntegerField(default=1)
    same = models.BooleanField(null=True)
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
    """A folder with inputs for a contender whose tool a person runs by hand; what is put beside them is picked up."""

    contender = models.OneToOneField(Contender, on_delete=models.CASCADE, related_name="hot_folder")
    open = models.BooleanField(default=True)
    inputs = models.JSONField(default=list)
    note = models.TextField(blank=True)
    actor = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"hot folder of {self.contender}"


class FolderState(models.TextChoices):
    """What became of a folder of outputs."""

    OPEN = "open"
    CONFIRMED = "confirmed"
    UNDONE = "undone"


class Folder(models.Model):
    """A folder of outputs named in the reviewer's own way, on its way into a study's cells."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="folders")
    name = models.CharField(max_length=120)
    state = models.CharField(max_length=10, choices=FolderState.choices, default=FolderState.OPEN)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return self.name


class FileUse(models.TextChoices):
    """What a file of a folder is taken for."""

    EXPORT = "export"
    PREVIEW = "preview"
    NONE = "none"


class FolderFile(models.Model):
    """One file of a folder: what it is proposed to be (core.naming), or what the reviewer says it is.

    ``replaced`` keeps what the cell held before, so that a confirmed folder can be undone.
    """

    folder = models.ForeignKey(Folder, on_delete=models.CASCADE, related_name="files")
    path = models.CharField(max_length=400)
    picture = models.ForeignKey(Picture, on_delete=models.PROTECT, related_name="folder_files")
    use = models.CharField(max_length=8, choices=FileUse.choices, default=FileUse.EXPORT)
    frame = models.ForeignKey(Frame, on_delete=models.SET_NULL, null=True, related_name="folder_files")
    contender = models.ForeignKey(Contender, on_delete=models.SET_NULL, null=True, related_name="folder_files")
    confidence = models.FloatField(default=0)
    why = models.JSONField(default=list)
    rest = models.CharField(max_length=400, blank=True)
    by_hand = models.BooleanField(default=False)
    replaced = models.JSONField(null=True)

    class Meta:
        ordering = ["path"]
        constraints = [models.UniqueConstraint(fields=["folder", "path"], name="a_path_once_per_folder")]

    def __str__(self) -> str:
        return self.path


class NamingPattern(models.Model):
    """A reviewer's way of naming, kept: what a name says besides the frame, to the contender's words."""

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="naming_patterns")
    rest = models.CharField(max_length=400)
    words = models.TextField()
    title = models.TextField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["bench", "rest"], name="a_name_means_one_thing_on_a_bench")]

    def __str__(self) -> str:
        return f"{self.rest}: {self.words}"


class LineUp(models.Model):
    """How one picture lies on another; keyed by the two and the method's version, found once."""

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

    class Meta:
        constraints = [models.UniqueConstraint(fields=["source", "output", "version"], name="one_line_up_per_pair")]

    def __str__(self) -> str:
        return f"{self.output} on {self.source}"

    @property
    def mapping(self) -> Mapping:
        """As the core speaks of it."""
        return Mapping(self.sx, self.sy, self.dx, self.dy)


class Patch(models.Model):
    """A matched rectangle on a frame, in the frame's pixels, with a role."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="patches")
    frame = models.ForeignKey(Frame, on_delete=models.PROTECT, related_name="patches")
    name = models.CharField(max_length=60)
    role = models.CharField(max_length=12, choices=[(r, r) for r in ROLES])
    x = models.FloatField()
    y = models.FloatField()
    w = models.FloatField()
    h = models.FloatField()
    order = models.IntegerField(default=0)

    class Meta:
        ordering = ["order", "pk"]
        verbose_name_plural = "patches"

    def __str__(self) -> str:
        return self.name

    @property
    def rect(self) -> Rect:
        """As the core speaks of it."""
        return Rect(self.x, self.y, self.w, self.h)


class Reading(models.Model):
    """One measure of one output on one patch, or on the whole frame; ``key`` names all it depends on."""

    output = models.ForeignKey(Output, on_delete=models.CASCADE, related_name="readings")
    patch = models.ForeignKey(Patch, on_delete=models.CASCADE, null=True, related_name="readings")
    measure = models.CharField(max_length=20)
    value = models.FloatField(null=True)
    low = models.FloatField(null=True)
    high = models.FloatField(null=True)
    unit = models.CharField(max_length=20, blank=True)
    version = models.CharField(max_length=10)
    grid = models.CharField(max_length=80, blank=True)
    reason = models.CharField(max_length=300, blank=True)
    details = models.JSONField(default=dict)
    key = models.CharField(max_length=64)
    taken = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["output", "patch", "measure"], name="one_reading_per_place", nulls_distinct=False)
        ]

    def __str__(self) -> str:
        return f"{self.measure} of {self.output}"
