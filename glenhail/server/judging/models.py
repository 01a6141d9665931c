"""Verdicts by use, remarks at spots, and sittings with their answers."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db import models

from glenhail.core.judging.setup import SittingKind
from glenhail.core.judging.verdicts import Judged
from glenhail.core.judging.words import how_shown
from glenhail.core.looking.remark_kinds import RemarkKind
from glenhail.server.material.models import Frame
from glenhail.server.storage.models import StoredFile
from glenhail.server.studies.models import Contender, Patch, Study


class Verdict(models.Model):
    """What the reviewer concludes for one use and kind of scene, or for all scenes
    where none is named: a large print, the web, lamps at night.

    ``marks`` tells by letter how contenders stand against the reference; ``evidence``
    names what it rests on (glenhail.server.judging.evidence).
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="verdicts")
    use = models.CharField(max_length=80)
    scene = models.CharField(max_length=40, blank=True, default="")
    text = models.CharField(max_length=400)
    marks = models.JSONField(default=dict)
    evidence = models.JSONField(default=list)
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


class NamedCall(models.Model):
    """What somebody who saw the names called a contender's patch against another's, the
    reference.
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="named_calls")
    patch = models.ForeignKey(Patch, on_delete=models.CASCADE, related_name="named_calls")
    contender = models.ForeignKey(Contender, on_delete=models.CASCADE, related_name="named_calls")
    against = models.ForeignKey(Contender, on_delete=models.CASCADE, related_name="+")
    answer = models.CharField(max_length=16, choices=[(m.value, m.value) for m in Judged])
    author = models.ForeignKey(User, on_delete=models.CASCADE, related_name="named_calls")
    given = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["patch", "contender", "author"], name="a_named_call_once"
            )
        ]

    def __str__(self) -> str:
        return f"{self.contender.letter} {self.answer}"


class SittingState(models.TextChoices):
    """How far a sitting is."""

    PREPARING = "preparing"
    OPEN = "open"
    CLOSED = "closed"
    FAILED = "failed"


class Sitting(models.Model):
    """One question put to judges who do not learn whose picture they see.

    ``contenders`` lists letter, title and id, ``spots`` name, role, frame and place of
    each, as they were when the crops were frozen; ``showing`` is how they are shown
    (core.judging.setup). ``seed`` and a judge's number draw what that judge is shown.
    Once it is closed, ``results`` are what all answers carry, and ``said`` the same in
    a sentence.
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="sittings")
    number = models.IntegerField()
    question = models.CharField(max_length=200)
    kind = models.CharField(max_length=8, choices=[(k.value, k.value) for k in SittingKind])
    state = models.CharField(
        max_length=10, choices=SittingState.choices, default=SittingState.PREPARING
    )
    problem = models.CharField(max_length=300, blank=True)
    count = models.IntegerField()
    seed = models.BigIntegerField()
    contenders = models.JSONField()
    spots = models.JSONField()
    showing = models.JSONField()
    obvious = models.JSONField(default=list)
    simulated = models.BooleanField(default=False)
    said = models.TextField(blank=True)
    results = models.JSONField(null=True)
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="sittings")
    created = models.DateTimeField(auto_now_add=True)
    closed = models.DateTimeField(null=True)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["study", "number"], name="a_sitting_number_once")
        ]

    def __str__(self) -> str:
        return f"sitting {self.number}: {self.question}"

    @property
    def how(self) -> str:
        """What its judges are shown, in words."""
        letters = [c["letter"] for c in self.contenders]
        return how_shown(self.kind, self.count, letters, len(self.spots), self.showing)


class SittingCrop(models.Model):
    """One contender's picture of one spot, frozen: kept with the originals, whatever
    becomes of the output. All of a sitting are of one length in bytes.
    """

    sitting = models.ForeignKey(Sitting, on_delete=models.CASCADE, related_name="crops")
    spot = models.IntegerField()
    letter = models.CharField(max_length=1)
    file = models.ForeignKey(StoredFile, on_delete=models.PROTECT, related_name="sitting_crops")
    width = models.IntegerField()
    height = models.IntegerField()

    class Meta:
        ordering = ["spot", "letter"]
        constraints = [
            models.UniqueConstraint(
                fields=["sitting", "spot", "letter"], name="a_crop_once_per_sitting"
            )
        ]

    def __str__(self) -> str:
        return f"{self.letter} at {self.spot}"


class SittingLink(models.Model):
    """Lets guests sit without an account, so many of them and so long."""

    sitting = models.ForeignKey(Sitting, on_delete=models.CASCADE, related_name="links")
    name = models.CharField(max_length=80, blank=True)
    most = models.IntegerField()
    ends = models.DateTimeField()
    revoked = models.DateTimeField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.name or f"link {self.pk}"


class Judge(models.Model):
    """Somebody who sits: a member, or a guest by a link.

    ``places`` is what is shown to them, in order; ``screen`` what their check of screen
    and room told.
    """

    sitting = models.ForeignKey(Sitting, on_delete=models.CASCADE, related_name="judges")
    number = models.IntegerField()
    user = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="judged")
    link = models.ForeignKey(
        SittingLink, on_delete=models.SET_NULL, null=True, related_name="judges"
    )
    nickname = models.CharField(max_length=40, blank=True)
    places = models.JSONField()
    screen = models.JSONField(default=dict)
    begun = models.DateTimeField(auto_now_add=True)
    finished = models.DateTimeField(null=True)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["sitting", "number"], name="a_judge_number_once"),
            models.UniqueConstraint(fields=["sitting", "user"], name="a_member_sits_once"),
        ]

    def __str__(self) -> str:
        return f"judge {self.number}"


class Call(models.Model):
    """One answer in a sitting. ``answer`` is as its kind has it; ``kinds`` why."""

    judge = models.ForeignKey(Judge, on_delete=models.CASCADE, related_name="calls")
    place = models.IntegerField()
    answer = models.JSONField()
    kinds = models.JSONField(default=list)
    took_ms = models.IntegerField(default=0)
    given = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(fields=["judge", "place"], name="a_call_once_per_place")
        ]

    def __str__(self) -> str:
        return f"call {self.place}"
