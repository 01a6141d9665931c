"""Benches, who works at them, and the trail of what they did."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Role(models.TextChoices):
    """What a member may do: look, work, or manage."""

    VIEWER = "viewer"
    EDITOR = "editor"
    OWNER = "owner"


class Bench(models.Model):
    """A group of reviewers who share studies, frames and tools."""

    name = models.CharField(max_length=120)
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """One person at one bench."""

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="memberships")
    user = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships"
    )
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.VIEWER)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["bench", "user"], name="one_membership_per_bench")
        ]

    def __str__(self) -> str:
        return f"{self.user}, {self.role} of {self.bench}"


class Trail(models.Model):
    """One thing that somebody did."""

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="trail")
    actor = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    at = models.DateTimeField(auto_now_add=True)
    action = models.CharField(max_length=60)
    subject = models.CharField(max_length=300)

    class Meta:
        ordering = ["-at", "-pk"]

    def __str__(self) -> str:
        return f"{self.action}: {self.subject}"


class LinkKind(models.TextChoices):
    """What a link that an owner hands over is for."""

    INVITE = "invite"
    RESET = "reset"


class Link(models.Model):
    """A link that lets somebody in once: to join a bench, or to set a forgotten
    password. Only its token's hash is kept.
    """

    kind = models.CharField(max_length=10, choices=LinkKind.choices)
    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="links")
    token_hash = models.CharField(max_length=64, unique=True)
    role = models.CharField(max_length=10, choices=Role.choices, blank=True)
    user = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="links"
    )
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    expires = models.DateTimeField()
    used = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.kind} for {self.user or self.role}"


class Token(models.Model):
    """By which a person's scripts sign in.

    ``scope`` is the most that they may do with it; only the token's hash is kept.
    """

    bench = models.ForeignKey(Bench, on_delete=models.CASCADE, related_name="tokens")
    user = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tokens"
    )
    name = models.CharField(max_length=60)
    scope = models.CharField(max_length=10, choices=Role.choices)
    token_hash = models.CharField(max_length=64, unique=True)
    made = models.DateTimeField(auto_now_add=True)
    used = models.DateTimeField(null=True)
    expires = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.name
