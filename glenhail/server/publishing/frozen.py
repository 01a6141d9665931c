"""What an edition's folder holds, written down: nothing in it may ever be another."""

from __future__ import annotations

from collections.abc import Iterator

from django.core.files.storage import storages

from glenhail.server.publishing.models import Edition
from glenhail.server.storage.durable import sha256_of
from glenhail.server.storage.files import local_copy


def record_missing() -> int:
    """Write down the files of editions that were printed before this was kept; returns how many those are."""
    editions = Edition.objects.select_related("report").filter(files=[])
    for edition in editions:
        edition.files = [_told(edition, name) for name in _names(edition.folder)]
        edition.save(update_fields=["files"])
    return len(editions)


def _names(folder: str, below: str = "") -> Iterator[str]:
    store = storages["editions"]
    try:
        folders, files = store.listdir(f"{folder}/{below}")
    except FileNotFoundError:
        return
    for name in sorted(files):
        yield f"{below}{name}"
    for name in sorted(folders):
        yield from _names(folder, f"{below}{name}/")


def _told(edition: Edition, name: str) -> dict[str, object]:
    with local_copy(storages["editions"], f"{edition.folder}/{name}") as path:
        return {"name": name, "sha256": sha256_of(path), "size": path.stat().st_size}
