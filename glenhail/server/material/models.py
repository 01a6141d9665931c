"""Pictures, the frames they belong to, and what those show: scenes, bodies, targets."""

from __future__ import annotations

from django.db import models

from glenhail.core.articles.licences import Terms
from glenhail.core.files import full_depth, pyramid
from glenhail.core.sensor.size import SensorSize
from glenhail.server.accounts.models import Bench
from glenhail.server.storage.models import StoredFile

FULL_DEPTH_FOLDER = f"full-depth/v{full_depth.VERSION}"


class PictureState(models.TextChoices):
    """Whether a file was taken in."""

    WAITING = "waiting"
    READY = "ready"
    REFUSED = "refused"


class Picture(models.Model):
    """A file taken in as a picture: what it says of itself, and whether it can be shown
    and measured.

    ``thumb`` is the picture in a handful of numbers (core.naming.thumb), by which
    others of the same thing are known.
    """

    file = models.OneToOneField(StoredFile, on_delete=models.PROTECT, related_name="picture")
    name = models.CharField(max_length=255)
    state = models.CharField(
        max_length=10, choices=PictureState.choices, default=PictureState.WAITING
    )
    problem = models.TextField(blank=True)
    width = models.IntegerField(default=0)
    height = models.IntegerField(default=0)
    facts = models.JSONField(default=dict)
    thumb = models.JSONField(null=True)

    def __str__(self) -> str:
        return self.name

    def problem_as(self, name: str) -> str:
        """Why it was refused, told of the name that a bench knows it by: another may
        have sent the same bytes under another.
        """
        return (
            self.problem.replace(self.name, name, 1)
            if name and self.problem.startswith(self.name)
            else self.problem
        )

    @property
    def pyramid(self) -> str:
        """Where the display pyramid lies within the derived storage."""
        return f"pyramids/v{pyramid.VERSION}/{self.file_id[:2]}/{self.file_id}.zip"

    @property
    def full_depth(self) -> str:
        """Where the full-depth copy lies within the derived storage."""
        return f"{FULL_DEPTH_FOLDER}/{self.file_id[:2]}/{self.file_id}.raw"

    @property
    def levels(self) -> int:
        """How many levels that pyramid has; 0 before the picture is ready."""
        return pyramid.level_count(self.width, self.height) if self.width else 0


class SceneKind(models.TextChoices):
    """What a scene asks of a tool; a good set of frames spans many of these."""

    FINE_TEXTURE = "fine texture"
    HARD_EDGES = "hard edges"
    PLAIN = "plain areas"
    DEEP_SHADOW = "deep shadow"
    HIGHLIGHTS = "highlights"
    NIGHT_LIGHTS = "lights at night"
    OUT_OF_FOCUS = "out of focus"
    MOVING = "moving"
    FACE = "face"


class Scene(models.Model):
    """What was photographed: of which kinds it is, and what is known of it beforehand
    (core.measures.landmarks).
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="scenes")
    name = models.CharField(max_length=120)
    kinds = models.JSONField(default=list)
    known = models.JSONField(null=True)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(
                fields=["bench", "name"], name="a_scene_has_one_name_on_a_bench"
            )
        ]

    def __str__(self) -> str:
        return self.name


class Body(models.Model):
    """A camera body, named as its files name it: that is how frames find it.

    Full well in electrons at ISO 100, read noise in electrons below and from the ISO of
    the second gain stage on; None where they are not known.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="bodies")
    name = models.CharField(max_length=120)
    width_mm = models.FloatField()
    height_mm = models.FloatField()
    width = models.IntegerField()
    height = models.IntegerField()
    cfa = models.CharField(max_length=40)
    full_well = models.FloatField(null=True)
    read_noise = models.FloatField(null=True)
    second_gain_iso = models.FloatField(null=True)
    second_read_noise = models.FloatField(null=True)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["bench", "name"], name="a_body_has_one_name_on_a_bench")
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def sensor(self) -> SensorSize:
        """What follows from its size and pixels."""
        return SensorSize(self.width_mm, self.height_mm, self.width, self.height)


class Licensed(models.Model):
    """What is passed on under terms of its own (core.articles.licences)."""

    licence = models.CharField(max_length=40, blank=True)
    source = models.CharField(max_length=400, blank=True)
    credit = models.CharField(max_length=200, blank=True)

    class Meta:
        abstract = True

    @property
    def terms(self) -> Terms:
        """Licence, source and credit."""
        return Terms(self.licence, self.source, self.credit)


class FrameKind(models.TextChoices):
    """What a frame shows: a scene, evenly lit ground, or nothing, with the cap on."""

    SCENE = "scene"
    FLAT = "flat"
    DARK = "dark"


class Frame(Licensed):
    """One source file of a scene, with the truth it is measured against where there is
    one. Flat and dark frames serve to measure a body.

    ``truth_made`` says how the truth came about where it was made here: from a base-ISO
    twin, or as a burst's mean.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="frames")
    name = models.CharField(max_length=120)
    picture = models.ForeignKey(Picture, on_delete=models.PROTECT, related_name="frames")
    truth = models.ForeignKey(Picture, on_delete=models.PROTECT, related_name="truth_of", null=True)
    scene = models.ForeignKey(Scene, on_delete=models.PROTECT, related_name="frames", null=True)
    kind = models.CharField(max_length=8, choices=FrameKind.choices, default=FrameKind.SCENE)
    made_from = models.ForeignKey(
        "self", on_delete=models.PROTECT, related_name="degraded", null=True
    )
    recipe = models.JSONField(null=True)
    made_by = models.TextField(blank=True)
    file_name = models.CharField(max_length=255)
    truth_name = models.CharField(max_length=255, blank=True)
    truth_made = models.JSONField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["bench", "picture"], name="a_file_is_one_frame_of_a_bench"
            )
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def pristine(self) -> Picture:
        """What a known degradation starts from: the truth where there is one, else the
        frame itself.
        """
        return self.truth or self.picture


class Target(models.Model):
    """A target sheet (core.targets) and, once it is painted, its frame.

    ``number`` is the one in its strip.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="targets")
    name = models.CharField(max_length=120)
    sheet = models.JSONField()
    number = models.BigIntegerField()
    frame = models.OneToOneField(Frame, on_delete=models.PROTECT, related_name="target", null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["bench", "number"], name="a_sheet_is_one_target_of_a_bench"
            )
        ]

    def __str__(self) -> str:
        return self.name


class Finding(models.Model):
    """A target found in a frame: where its corners lie there, and what its fields tell;

    ``reason`` where they can not be read.
    """

    frame = models.OneToOneField(Frame, on_delete=models.CASCADE, related_name="finding")
    target = models.ForeignKey(Target, on_delete=models.CASCADE, related_name="findings")
    corners = models.JSONField()
    turn = models.FloatField()
    scale = models.FloatField()
    readings = models.JSONField(default=list)
    curves = models.JSONField(default=list)
    reason = models.TextField(blank=True)
    version = models.CharField(max_length=10)
    taken = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"{self.target} in {self.frame}"
