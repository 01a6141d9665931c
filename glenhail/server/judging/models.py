"""Verdicts by use."""

from __future__ import annotations

from django.db import models

from glenhail.server.studies.models import Study


class Verdict(models.Model):
    """What the reviewer concludes for one use: a large print, the web, lamps at night."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="verdicts")
    use = models.CharField(max_length=80)
    text = models.CharField(max_length=400)
    order = models.IntegerField(default=0)

    class Meta:
        ordering = ["order", "pk"]

    def __str__(self) -> str:
        return f"{self.use}: {self.text}"
