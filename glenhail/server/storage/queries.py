"""Reading what is stored and what is on its way."""

from __future__ import annotations

import uuid
from typing import Any

from django.db.models import Count, QuerySet, Sum

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Missing
from glenhail.server.storage.models import StoredFile, Upload, UploadState


def originals() -> dict[str, Any]:
    """How many originals there are, and their bytes."""
    return StoredFile.objects.aggregate(files=Count("pk"), bytes=Sum("size", default=0))


def uploads_of(actor: Actor, bench: Bench) -> QuerySet[Upload]:
    """A person's own files on their way."""
    on_the_way = [UploadState.OPEN, UploadState.TAKING]
    return Upload.objects.filter(bench=bench, actor=actor.pk, state__in=on_the_way)


def find_upload(actor: Actor, upload_id: uuid.UUID) -> Upload:
    """An upload of the actor's own."""
    found = Upload.objects.select_related("bench").filter(pk=upload_id, actor_id=actor.pk).first()
    if found is None:
        raise Missing(
            "This upload is not known here, or lay unfinished for a week. Send the file anew."
        )
    require(actor, found.bench, Role.EDITOR)
    return found
