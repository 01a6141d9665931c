"""Folders of outputs on their way into a study's cells, and ways of naming that were
kept.
"""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.server.accounts.models import Bench
from glenhail.server.material.models import Frame, Picture
from glenhail.server.studies.models.study import Contender, Study


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
