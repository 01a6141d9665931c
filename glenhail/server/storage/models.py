"""Originals: immutable, addressed by their SHA-256."""

from __future__ import annotations

from django.db import models


class StoredFile(models.Model):
    """One original. The same bytes are kept once, whoever uploads them."""

    sha256 = models.CharField(max_length=64, primary_key=True)
    size = models.BigIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.sha256[:12]

    @property
    def path(self) -> str:
        """Where the bytes lie within the originals' storage."""
        return f"{self.sha256[:2]}/{self.sha256[2:4]}/{self.sha256}"
