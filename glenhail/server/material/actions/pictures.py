"""Taking a file in as a picture."""

from __future__ import annotations

from pathlib import PurePosixPath

from django.db import transaction

from glenhail.server.accounts.models import Bench
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.material import display
from glenhail.server.material.models import Picture, PictureState
from glenhail.server.storage.files import Source, kept


def clean_name(name: str) -> str:
    """A file's own name: no folders, no control characters, at most 200 characters."""
    base = PurePosixPath(name.replace("\\", "/")).name
    return "".join(c for c in base if c.isprintable())[-200:] or "unnamed"


def take_in(bench: Bench, source: Source, name: str, study_id: int | None = None) -> Picture:
    """Keep a file's bytes and queue its decoding; bytes that are ready to be shown and
    measured are not worked on again.
    """
    name = clean_name(name)
    stored = kept(source, name)
    with transaction.atomic():
        picture, _ = Picture.objects.get_or_create(file=stored, defaults={"name": name})
        if not display.ask_for(bench, picture) and picture.state != PictureState.READY:
            enqueue(
                bench,
                "decode",
                f"decode:{stored.pk}",
                f"Reading {name}",
                {"picture": picture.pk},
                study_id,
            )
    return picture
