"""Clearing away what nothing needs: originals of removed frames, what killed work left
behind, derived files of old versions.
"""

from __future__ import annotations

import shutil
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.core.files.storage import storages
from django.db import models, transaction
from django.utils import timezone

from glenhail.server.material.models import Picture
from glenhail.server.operations.database import clearing
from glenhail.server.publishing.models import Edition
from glenhail.server.storage.durable import ASIDE
from glenhail.server.storage.files import lock_original, root_of
from glenhail.server.storage.models import StoredFile, Upload

GRACE = timedelta(days=7)  # that an original is kept after nothing needs it any more
LEFT_BEHIND = timedelta(days=1)  # after which a file under way is no longer under way
PARTS = "parts"


@dataclass
class Cleared:
    """How many files, and bytes, of each kind were (or would be) cleared away."""

    files: dict[str, int] = field(default_factory=dict)
    bytes: dict[str, int] = field(default_factory=dict)

    def count(self, kind: str, size: int) -> None:
        """Add one."""
        self.files[kind] = self.files.get(kind, 0) + 1
        self.bytes[kind] = self.bytes.get(kind, 0) + size


def purge(
    dry_run: bool = False, grace: timedelta = GRACE, left_behind: timedelta = LEFT_BEHIND
) -> Cleared:
    """Clear away what nothing needs; with `dry_run`, only tell what that is."""
    with clearing() as may:
        return _purge(dry_run, grace, left_behind) if may else Cleared()


def _purge(dry_run: bool, grace: timedelta, left_behind: timedelta) -> Cleared:
    cleared = Cleared()
    _mark_unused(dry_run)
    for file in _unused(grace, dry_run):
        cleared.count("unused originals", file.size)
        if not dry_run:
            _remove_original(file)
    for kind, path in _left_behind(time.time() - left_behind.total_seconds()):
        cleared.count(kind, _size(path))
        if not dry_run:
            _remove(path)
    return cleared


def unused_pictures() -> models.QuerySet[Picture]:
    """Pictures that no frame, output or folder holds.

    What was only worked out of one (line-ups, suggestions) goes with it.
    """
    holders = [r for r in Picture._meta.related_objects if r.on_delete is models.PROTECT]
    return Picture.objects.filter(**{f"{holder.name}__isnull": True for holder in holders})


def _published() -> set[str]:
    """Hashes of originals that belong to an edition."""
    manifests = Edition.objects.values_list("manifest", flat=True)
    return {entry["sha256"] for manifest in manifests for entry in manifest if "sha256" in entry}


def _needed_by_nothing() -> models.QuerySet[StoredFile]:
    free = models.Q(picture__isnull=True) | models.Q(picture__in=unused_pictures())
    return StoredFile.objects.filter(free, sitting_crops=None).exclude(pk__in=_published())


def _mark_unused(dry_run: bool) -> None:
    """Note when a file was first found to be needed by nothing; what is needed again is
    not unused.
    """
    if dry_run:
        return
    free = set(_needed_by_nothing().values_list("pk", flat=True))
    StoredFile.objects.filter(pk__in=free, unused_since=None).update(unused_since=timezone.now())
    StoredFile.objects.exclude(unused_since=None).exclude(pk__in=free).update(unused_since=None)


def _unused(grace: timedelta, dry_run: bool) -> list[StoredFile]:
    since = models.Q(unused_since__lte=timezone.now() - grace)
    if dry_run and grace == timedelta(0):
        since |= models.Q(unused_since=None)
    return list(_needed_by_nothing().filter(since))


@transaction.atomic
def _remove_original(file: StoredFile) -> None:
    """Row and bytes together: whoever keeps the same bytes at this moment waits, and
    then finds neither.
    """
    lock_original(file.pk)
    if not _needed_by_nothing().filter(pk=file.pk).exists():
        return
    Picture.objects.filter(file=file).delete()
    derived = root_of(storages["derived"])
    # Display pyramids and exports, by whatever version.
    for path in derived.glob(f"*/*/{file.pk[:2]}/{file.pk}.*") if derived else ():
        path.unlink(missing_ok=True)
    name = file.path
    file.delete()
    storages["originals"].delete(name)


def _left_behind(before: float) -> Iterator[tuple[str, Path]]:
    """Files and folders that work which was killed has left: by kind, those not touched
    since.
    """
    incoming = Path(settings.FILE_UPLOAD_TEMP_DIR)
    for path in incoming.iterdir() if incoming.exists() else ():
        if path.name != PARTS and _touched(path) < before:
            yield "left behind", path
    known = {str(pk) for pk in Upload.objects.values_list("pk", flat=True)}
    for path in (incoming / PARTS).glob("*"):
        if path.name not in known and _touched(path) < before:
            yield "parts of uploads given up", path
    for name in ("originals", "derived", "editions"):
        root = root_of(storages[name])
        for path in (root / ASIDE).glob("*") if root else ():
            if _touched(path) < before:
                yield "left behind", path
    yield from _without_row(before)


def _without_row(before: float) -> Iterator[tuple[str, Path]]:
    """Originals that got their place and never a row: what a crash between the two
    leaves.
    """
    root = root_of(storages["originals"])
    # Asked for after the files: one that gets its row meanwhile is known.
    paths = [path for path in root.glob("??/??/*") if _touched(path) < before] if root else []
    known = set(StoredFile.objects.values_list("pk", flat=True)) if paths else set()
    for path in paths:
        if path.name.partition(".")[0] not in known:
            yield "originals without a row", path


def _touched(path: Path) -> float:
    try:
        return max(p.lstat().st_mtime for p in (path, *path.rglob("*")))
    except FileNotFoundError:
        return time.time()


def _size(path: Path) -> int:
    return sum(p.stat().st_size for p in (path, *path.rglob("*")) if p.is_file())


def _remove(path: Path) -> None:
    if path.is_dir():
        shutil.rmtree(path, ignore_errors=True)
    else:
        path.unlink(missing_ok=True)
