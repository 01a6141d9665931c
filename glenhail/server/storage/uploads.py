"""Files that come in pieces: begun, gone on with after whatever broke them off, and
handed to what they are for.
"""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import IO, Any

from django.conf import settings
from django.db import IntegrityError, transaction
from django.utils import timezone

from glenhail.core.errors import CoreError
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import ActionError, Conflict, NoRoom
from glenhail.server.storage import durable
from glenhail.server.storage.durable import CHUNK, Told
from glenhail.server.storage.files import keep
from glenhail.server.storage.models import StoredFile, Upload, UploadState
from glenhail.server.storage.signals import upload_arrived

MOST_OPEN = 2_000  # files of one person on their way at once
KEPT = timedelta(days=7)
AT_ONCE = (
    8_000_000  # bytes up to which a file is taken in within the request: about a tenth of a second
)

Values = dict[str, Any]


@dataclass(frozen=True)
class Delivery:
    """What a file can be for.

    ``check`` raises before the first byte is sent if the actor may not, or what the
    file belongs to is not there; ``take`` does it, and may be called again for the same
    file.
    """

    check: Callable[[Actor, Bench, Values], None]
    take: Callable[[Actor, Bench, Values, StoredFile, str], Values]


DELIVERIES: dict[str, Delivery] = {}


def begin(
    actor: Actor, bench: Bench, upload_id: uuid.UUID, name: str, size: int, delivery: Values
) -> Upload:
    """Announce a file, or ask how far one is that was announced before.

    Raises
    ------
    ActionError
        If it is empty or larger than the bench takes, or is for nothing known.
    Conflict
        If the name stands for another file already, or too many are open.
    """
    require(actor, bench, Role.EDITOR)
    known = Upload.objects.filter(pk=upload_id).first()
    if known is None:
        _check(actor, bench, name, size, delivery)
        fields = {
            "bench": bench,
            "actor_id": actor.pk,
            "name": name[:255],
            "size": size,
            "delivery": delivery,
        }
        try:
            with transaction.atomic():
                return Upload.objects.create(pk=upload_id, **fields)
        except IntegrityError:  # the same call a moment ago
            known = Upload.objects.get(pk=upload_id)
    if (known.actor_id, known.size) != (actor.pk, size):
        raise Conflict(f"{name}: this upload was begun with another file. Send it anew.")
    return known


def _check(actor: Actor, bench: Bench, name: str, size: int, delivery: Values) -> None:
    if size < 1:
        raise ActionError(f"{name}: the file is empty. Export it again.")
    if size > settings.MAX_UPLOAD_BYTES:
        raise ActionError(
            f"{name}: larger than the {settings.MAX_UPLOAD_BYTES:,} bytes this bench takes."
            " Crop it."
        )
    if Upload.objects.filter(actor_id=actor.pk, state=UploadState.OPEN).count() >= MOST_OPEN:
        raise Conflict(
            f"{name}: {MOST_OPEN:,} files are on their way already. Wait until some have arrived."
        )
    _delivery(delivery).check(actor, bench, delivery)


def _delivery(values: Values) -> Delivery:
    found = DELIVERIES.get(str(values.get("kind")))
    if found is None:
        raise ActionError(f"A file can be for {', '.join(DELIVERIES)}.")
    return found


class Damaged(ActionError):
    """A piece whose bytes are not those that were sent (tus 1.0.0)."""

    status = 460
    title = "Checksum mismatch"


@dataclass(frozen=True)
class Checksum:
    """What a piece's bytes have to give."""

    hasher: hashlib._Hash
    wanted: bytes


def add_piece(
    actor: Actor,
    upload: Upload,
    offset: int,
    stream: IO[bytes],
    check: Checksum | None = None,
) -> Upload:
    """Add a piece at its place; what arrived of a piece that broke off counts, unless
    it has a checksum.

    Raises
    ------
    Conflict
        If the piece does not begin where the last one ended.
    NoRoom
        If the disk is full; what arrived before is kept.
    Damaged
        If the piece is not what its checksum says; nothing of it is kept.
    """
    if upload.state != UploadState.OPEN:
        return upload
    if offset != upload.received:
        raise Conflict(
            f"{upload.name}: {upload.received:,} bytes have arrived; the piece begins at"
            f" {offset:,}."
        )
    path, arrived = part_path(upload), offset
    path.parent.mkdir(parents=True, exist_ok=True)
    try:
        with path.open("r+b" if path.exists() else "wb") as part:
            # What the disk holds counts for more than what was written down: a lost disk begins
            # anew.
            arrived = min(offset, part.seek(0, 2))
            part.seek(arrived)
            part.truncate()
            if arrived == offset:
                arrived = _copy(stream, part, arrived, upload, check)
    except OSError as error:
        if durable.is_full(error):
            raise NoRoom(
                f"{upload.name}: the disk of this bench is full. Free some room; what arrived is"
                " kept."
            ) from error
        raise
    finally:
        Upload.objects.filter(pk=upload.pk, received=offset).update(
            received=arrived, touched=timezone.now()
        )
    upload.refresh_from_db()
    return upload


def _copy(
    stream: IO[bytes], part: IO[bytes], arrived: int, upload: Upload, check: Checksum | None
) -> int:
    while piece := _read(stream):
        if arrived + len(piece) > upload.size:
            raise ActionError(
                f"{upload.name}: more bytes came than its {upload.size:,}. It changed meanwhile:"
                " send it anew."
            )
        part.write(piece)
        arrived += len(piece)
        if check is not None:
            check.hasher.update(piece)
    if check is not None and check.hasher.digest() != check.wanted:
        raise Damaged(f"{upload.name}: a piece arrived damaged. Send it again.")
    return arrived


def _read(stream: IO[bytes]) -> bytes:
    """The next bytes; a connection that broke off ends the piece, and what came before
    it counts.
    """
    try:
        return stream.read(CHUNK)
    except OSError:
        return b""


def finish(actor: Actor, upload: Upload) -> Upload:
    """Have a file that has arrived whole taken in; asked again, tells what came of it.

    A large one is taken in by a job, since hashing and keeping it takes longer than a
    request may; it is `taking` until then.

    Raises
    ------
    Conflict
        If part of it is still missing.
    """
    path = part_path(upload)
    arrived = path.stat().st_size if path.exists() else 0
    if upload.state == UploadState.OPEN and arrived < upload.size:
        # Written down before the refusal, outside any transaction that it would undo: the sender
        # goes on from here.
        open_now = Upload.objects.filter(pk=upload.pk, state=UploadState.OPEN)
        if open_now.update(received=min(arrived, upload.received)):
            raise Conflict(f"{upload.name}: {arrived:,} of {upload.size:,} bytes have arrived.")
    _begin_taking(upload)
    if upload.size <= AT_ONCE:
        take(upload.pk)
    upload.refresh_from_db()
    return upload


@transaction.atomic
def _begin_taking(upload: Upload) -> None:
    claimed = Upload.objects.filter(pk=upload.pk, state=UploadState.OPEN).update(
        state=UploadState.TAKING, problem=""
    )
    if claimed and upload.size > AT_ONCE:
        upload_arrived.send(Upload, upload=upload)


def take(upload_id: uuid.UUID, told: Told = lambda done: None) -> None:
    """Keep the bytes of a file that has arrived, and hand it to what it is for; done
    before, it is left alone.

    The bytes are hashed and kept outside any transaction. `told` hears how many are
    done.

    Raises
    ------
    NoRoom
        If the disk is full; the file is open again, and can be finished once there is
        room.
    """
    upload = (
        Upload.objects.select_related("bench", "actor")
        .filter(pk=upload_id, state=UploadState.TAKING)
        .first()
    )
    if upload is None:
        return
    path = part_path(upload)
    try:
        with path.open("rb") as stream:
            stored = keep(stream, upload.name, told)
    except FileNotFoundError:
        give_back(upload_id, "its bytes are gone from this bench; send it anew", received=0)
        return
    except NoRoom as error:
        give_back(upload_id, str(error))
        raise
    _deliver(upload, stored)
    path.unlink(missing_ok=True)


@transaction.atomic
def _deliver(upload: Upload, stored: StoredFile) -> None:
    upload = Upload.objects.select_for_update().select_related("bench").get(pk=upload.pk)
    if upload.state != UploadState.TAKING:
        return
    try:
        with transaction.atomic():
            upload.result = _delivery(upload.delivery).take(
                upload.actor, upload.bench, upload.delivery, stored, upload.name
            )
        upload.state = UploadState.DONE
    except (ActionError, CoreError) as error:
        upload.state, upload.problem = UploadState.REFUSED, str(error)
    upload.save()


def give_back(upload_id: uuid.UUID, problem: str, received: int | None = None) -> None:
    """Open a file again whose taking in came to nothing: its sender can finish it once
    more.
    """
    changes: Values = {"state": UploadState.OPEN, "problem": problem}
    if received is not None:
        changes["received"] = received
    Upload.objects.filter(pk=upload_id, state=UploadState.TAKING).update(**changes)


def discard(upload: Upload) -> None:
    """Give a file up; what arrived of it goes.

    One that is given up already is no error.
    """
    part_path(upload).unlink(missing_ok=True)
    Upload.objects.filter(pk=upload.pk).delete()


def part_path(upload: Upload) -> Path:
    """Where the bytes lie that have arrived."""
    return Path(settings.FILE_UPLOAD_TEMP_DIR) / "parts" / str(upload.pk)


def forget_old() -> int:
    """Forget uploads that nobody touched for a week; returns how many."""
    old = Upload.objects.filter(touched__lt=timezone.now() - KEPT)
    for upload in old:
        discard(upload)
    return len(old)
