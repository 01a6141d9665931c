"""What contenders made, the runs that made it, hot folders, and folders of outputs."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.server.accounts.models import Bench
from glenhail.server.material.models import Frame, Picture
from glenhail.server.studies.models import Contender, Study


class Output(models.Model):
    """What one contender made of one frame, or why there is nothing.

    ``made_with`` is the treatment (and its commands) by which it was made here, as it
    stood then; None for a file brought in. ``made_from`` names the other contender's
    output that it was made of, where it was (`actions.treated`). ``trouble`` is why it
    could not be measured, where that had nothing to do with its files. ``preview`` is
    what the tool showed on screen, captured, and ``preview_told`` how that differs from
    the output.
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
    made_from = models.JSONField(null=True)
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


class FolderState(models.TextChoices):
    """What became of a folder of outputs."""

    OPEN = "open"
    CONFIRMED = "confirmed"
    UNDONE = "undone"


class Folder(models.Model):
    """A folder of outputs named in the reviewer's own way, on its way into a study's
    cells.
    """

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
    """One file of a folder: what it is proposed to be (core.naming), or what the
    reviewer says it is.

    ``replaced`` keeps what the cell held before, so that a confirmed folder can be
    undone.
    """

    folder = models.ForeignKey(Folder, on_delete=models.CASCADE, related_name="files")
    path = models.CharField(max_length=400)
    picture = models.ForeignKey(Picture, on_delete=models.PROTECT, related_name="folder_files")
    use = models.CharField(max_length=8, choices=FileUse.choices, default=FileUse.EXPORT)
    frame = models.ForeignKey(
        Frame, on_delete=models.SET_NULL, null=True, related_name="folder_files"
    )
    contender = models.ForeignKey(
        Contender, on_delete=models.SET_NULL, null=True, related_name="folder_files"
    )
    confidence = models.FloatField(default=0)
    why = models.JSONField(default=list)
    rest = models.CharField(max_length=400, blank=True)
    by_hand = models.BooleanField(default=False)
    replaced = models.JSONField(null=True)

    class Meta:
        ordering = ["path"]
        constraints = [
            models.UniqueConstraint(fields=["folder", "path"], name="a_path_once_per_folder")
        ]

    def __str__(self) -> str:
        return self.path


class NamingPattern(models.Model):
    """A reviewer's way of naming, kept: what a name says besides the frame, to the
    contender's words.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="naming_patterns")
    rest = models.CharField(max_length=400)
    words = models.TextField()
    title = models.TextField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["bench", "rest"], name="a_name_means_one_thing_on_a_bench"
            )
        ]

    def __str__(self) -> str:
        return f"{self.rest}: {self.words}"


class StudyPlan(models.Model):
    """The plan by which a study was begun, and what of it the bench had not when it was
    last looked for: frames, and the truths of those that are there.
    """

    study = models.OneToOneField(Study, on_delete=models.CASCADE, related_name="plan")
    text = models.TextField()
    name = models.CharField(max_length=200)
    missing = models.JSONField(default=list)
    other_truth = models.JSONField(default=list)
    looked = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.name} of {self.study}"

    @property
    def key(self) -> str:
        """Of the work that looks for its frames."""
        return f"plan:{self.study_id}"
