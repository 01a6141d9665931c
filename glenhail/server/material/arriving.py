"""Taking in files that came in pieces and are too large for a request to hash and keep."""

from __future__ import annotations

import time
from typing import Any
from uuid import UUID

from django.dispatch import receiver

from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.storage import uploads
from glenhail.server.storage.models import Upload
from glenhail.server.storage.signals import upload_arrived

TOLD_EVERY = 0.5  # seconds


@receiver(upload_arrived)
def on_upload_arrived(sender: object, upload: Upload, **_: object) -> None:
    """Queue it; what a study waits for is shown with the study."""
    study = upload.delivery.get("study")
    enqueue(
        upload.bench,
        "take upload",
        f"upload:{upload.pk}",
        f"Storing {upload.name}",
        {"upload": str(upload.pk)},
        study,
    )


def not_taken(arguments: dict[str, Any], problem: str) -> None:
    """Its sender may finish it again."""
    uploads.give_back(UUID(arguments["upload"]), problem)


@does("take upload", settle=not_taken)
def take_upload(progress: Progress, arguments: dict[str, Any]) -> None:
    """Hash it, keep it, and hand it to what it is for."""
    upload_id = UUID(arguments["upload"])
    size = Upload.objects.filter(pk=upload_id).values_list("size", flat=True).first()
    last = 0.0

    def told(done: int) -> None:
        nonlocal last
        if time.monotonic() - last > TOLD_EVERY:
            last = time.monotonic()
            progress.tell(0.95 * done / max(1, size or 1), "keeping its bytes")

    uploads.take(upload_id, told)
