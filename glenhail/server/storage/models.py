"""Originals: immutable, addressed by their SHA-256; and files that are still on their
way.
"""

from __future__ import annotations

from django.conf import settings
from django.db import models

from glenhail.server.accounts.models import Bench


class StoredFile(models.Model):
    """One original. The same bytes are kept once, whoever uploads them.

    ``unused_since`` is when nothing was first found to need it; it goes some time after
    (operations.purge).
    """

    sha256 = models.CharField(max_length=64, primary_key=True)
    size = models.BigIntegerField()
    created = models.DateTimeField(auto_now_add=True)
    unused_since = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.sha256[:12]

    @property
    def path(self) -> str:
        """Where the bytes lie within the originals' storage."""
        return f"{self.sha256[:2]}/{self.sha256[2:4]}/{self.sha256}"


class UploadState(models.TextChoices):
    """How a file on its way fares."""

    OPEN = "open"
    TAKING = "taking"
    DONE = "done"
    REFUSED = "refused"


class Upload(models.Model):
    """A file on its way in pieces, under a name that its sender made up: it can be gone
    on with from where it broke off.

    ``delivery`` says what it is for (`storage.uploads.DELIVERIES`), ``result`` what
    came of it.
    """

    id = models.UUIDField(primary_key=True)
    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="uploads")
    actor = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="uploads"
    )
    name = models.CharField(max_length=255)
    size = models.BigIntegerField()
    received = models.BigIntegerField(default=0)
    delivery = models.JSONField()
    state = models.CharField(max_length=10, choices=UploadState.choices, default=UploadState.OPEN)
    result = models.JSONField(null=True)
    problem = models.TextField(blank=True)
    touched = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["touched"]

    def __str__(self) -> str:
        return self.name
