"""Asking a frame for patches."""

from __future__ import annotations

from django.db import transaction

from glenhail.core.measures.suggested_patches import VERSION as SUGGEST_VERSION
from glenhail.server.jobs.actions.queue import bring_forward, enqueue
from glenhail.server.material.models import Frame
from glenhail.server.measuring.models import Suggested


@transaction.atomic
def ask_suggestions(frame: Frame) -> None:
    """Queue looking for patches in a frame, before all else since somebody waits for
    it; unless that was done already.
    """
    if not Suggested.objects.filter(picture=frame.picture, version=SUGGEST_VERSION).exists():
        key = f"suggest:{frame.pk}"
        enqueue(
            frame.bench,
            "suggest",
            key,
            f"Looking for patches in “{frame.name}”",
            {"frame": frame.pk},
        )
        bring_forward([key])
