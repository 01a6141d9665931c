"""Verdicts by use, and remarks at spots."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db import models

from glenhail.core.looking.remark_kinds import RemarkKind
from glenhail.server.material.models import Frame
from glenhail.server.studies.models import Contender, Study


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


class Remark(models.Model):
    """What somebody saw at a spot of a frame, in the contenders it holds for, or in
    all.

    ``number`` is its own within the study, also after others are gone; ``x`` and ``y``
    are frame px.
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="remarks")
    frame = models.ForeignKey(Frame, on_delete=models.CASCADE, related_name="remarks")
    number = models.IntegerField()
    x = models.FloatField()
    y = models.FloatField()
    kind = models.CharField(max_length=20, choices=[(k.value, k.value) for k in RemarkKind])
    text = models.CharField(max_length=400, blank=True)
    of_all = models.BooleanField(default=False)
    contenders = models.ManyToManyField(Contender, related_name="remarks")
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="remarks")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["study", "number"], name="a_remark_number_once")
        ]

    def __str__(self) -> str:
        return f"{self.number}: {self.kind}"
