"""Reports and their editions."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.utils import timezone

from glenhail.server.studies.models import Patch, Study

# Names below the site that no report may have.
RESERVED = ("tools", "bodies", "assets")


class Report(models.Model):
    """The article under work."""

    study = models.OneToOneField(Study, on_delete=models.PROTECT, related_name="report")
    slug = models.SlugField(max_length=80, unique=True)
    summary = models.TextField(blank=True)
    method = models.TextField(blank=True)
    disclosure = models.TextField(blank=True)
    # Kinds in their order, headings and texts with their words; none is the usual order.
    blocks = models.JSONField(default=list)

    def __str__(self) -> str:
        return self.slug


class ReportVersion(models.Model):
    """The article as somebody left it: what was saved without being asked for becomes
    one version for as long as that person goes on.
    """

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="versions")
    texts = models.JSONField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    auto = models.BooleanField(default=False)
    created = models.DateTimeField(default=timezone.now)
    saved = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return f"{self.report}, as of {self.saved:%Y-%m-%d %H:%M}"


class Comment(models.Model):
    """What an editor says to the others about a part of the report, or all of it."""

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="comments")
    about = models.CharField(max_length=200, blank=True)
    text = models.TextField()
    author = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    created = models.DateTimeField(auto_now_add=True)
    settled = models.DateTimeField(null=True)
    settled_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.report}, {self.about or 'all of it'}"


class Proof(models.Model):
    """What an owner asked to be published, fixed at that moment: the printing takes
    nothing else.

    ``places`` has for each output that is shown the SHA-256 of its file and its
    mapping, from which the crops are cut; ``sha256`` is of the document as it stands
    here.
    """

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="proofs")
    number = models.IntegerField()
    document = models.JSONField()
    csv = models.TextField()
    places = models.JSONField()
    sha256 = models.CharField(max_length=64)
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    public_from = models.DateTimeField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"{self.report}, proof of edition {self.number}"


class Correction(models.Model):
    """What was wrong in an edition, and where: it stands in every edition from the one
    that puts it right.

    It is about a block, a patch's figure, or one reading of that; ``where`` says so in
    words that stay, and ``anchor`` is its place on the page of the edition that was
    wrong.
    """

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="corrections")
    edition = models.IntegerField()
    block = models.CharField(max_length=20, blank=True)
    patch = models.ForeignKey(Patch, on_delete=models.SET_NULL, null=True)
    measure = models.CharField(max_length=40, blank=True)
    letter = models.CharField(max_length=1, blank=True)
    where = models.CharField(max_length=200)
    anchor = models.CharField(max_length=40, blank=True)
    text = models.TextField()
    # The edition that put it right; none before that is published.
    corrected_in = models.IntegerField(null=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.report}, edition {self.edition}: {self.where}"


class Edition(models.Model):
    """One published, frozen state of a report; rows and files are only ever added."""

    report = models.ForeignKey(Report, on_delete=models.PROTECT, related_name="editions")
    number = models.IntegerField()
    note = models.CharField(max_length=400, blank=True)
    published = models.DateTimeField(auto_now_add=True)
    publisher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    # Name in the download, SHA-256 and size of every original that belongs to it.
    manifest = models.JSONField(default=list)
    # Name, SHA-256 and size of every file in its own folder.
    files = models.JSONField(default=list)
    # What the site's pages tell of it.
    about = models.JSONField(default=dict)
    # Until then nobody reads it but the bench.
    public_from = models.DateTimeField(null=True)
    # From then on its address says so, and serves nothing else; its bytes stay.
    withdrawn = models.DateTimeField(null=True)
    withdrawn_because = models.CharField(max_length=400, blank=True)
    # Its bytes are gone too, since the law asked.
    erased = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-number"]
        constraints = [
            models.UniqueConstraint(fields=["report", "number"], name="one_edition_per_number")
        ]

    def __str__(self) -> str:
        return f"{self.report}, edition {self.number}"

    @property
    def under_embargo(self) -> bool:
        """Whether nobody but its bench reads it yet."""
        return self.public_from is not None and self.public_from > timezone.now()

    @property
    def folder(self) -> str:
        """Where its files lie within the editions' storage, and below /reports/."""
        return f"{self.report.slug}/{self.number}"

    @property
    def address(self) -> str:
        """Its public address on this host."""
        return f"/reports/{self.folder}/"
