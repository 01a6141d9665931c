"""Originals are whole or absent, whatever breaks off while they are written."""

from __future__ import annotations

import hashlib
import io
import os
import resource
import signal
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
from django.core.files.storage import storages
from django.db import connection

from glenhail.server.common.errors import NoRoom
from glenhail.server.storage import durable
from glenhail.server.storage.files import keep, put, size_in
from glenhail.server.storage.models import StoredFile
from tests.seeds import drawn
from tests.server.base import ServerTest

ROOT = Path(__file__).resolve().parents[2]
# Keeps a file and kills itself with SIGKILL once so many bytes have been read, or between two of
# the last steps.
DYING = """
import os, signal, sys, io
import django; django.setup()
from glenhail.server.storage import durable
from glenhail.server.storage.files import keep

def die(*_): os.kill(os.getpid(), signal.SIGKILL)

class Dying(io.BytesIO):
    def read(self, size=-1):
        if self.tell() >= after: die()
        return super().read(min(size, 65536))

where, after = sys.argv[1], int(sys.argv[2])
if where == "placing": durable.place = die
if where == "syncing": durable.sync_folder = die
keep(Dying(sys.stdin.buffer.read()), "a.tif")
"""


@contextmanager
def full_after(size: int) -> Iterator[None]:
    """No file can be written beyond so many bytes: what a full disk does to a writer."""
    before = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (size, before[1]))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, before)


def left_aside() -> list[Path]:
    """What lies under way in the originals' store."""
    return [*Path(storages["originals"].path(durable.ASIDE)).glob("*")]


class Originals(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        for path in left_aside():
            path.unlink()

    def raw(self, rng: np.random.Generator) -> bytes:
        return rng.bytes(int(rng.integers(200_000, 3_000_000)))

    def whole(self, raw: bytes) -> bool:
        row = StoredFile(sha256=hashlib.sha256(raw).hexdigest(), size=len(raw))
        path = Path(storages["originals"].path(row.path))
        return path.exists() and path.read_bytes() == raw

    def test_a_disk_that_fills_up_at_any_byte_leaves_nothing_and_the_next_try_succeeds(
        self,
    ) -> None:
        for label, rng in drawn(12):
            with self.subTest(label):
                raw = self.raw(rng)
                with (
                    full_after(int(rng.integers(0, len(raw)))),
                    self.assertRaisesRegex(NoRoom, "a.tif: the disk of this bench"),
                ):
                    keep(io.BytesIO(raw), "a.tif")
                self.assertFalse(self.whole(raw))
                self.assertEqual(left_aside(), [])
                self.assertFalse(StoredFile.objects.filter(size=len(raw)).exists())
                keep(io.BytesIO(raw), "a.tif")
                self.assertTrue(self.whole(raw))

    def test_killed_while_it_writes_places_or_syncs_it_is_kept_whole_by_the_next_try(self) -> None:
        for label, rng in drawn(3):
            for where in ("writing", "placing", "syncing"):
                raw = self.raw(rng)
                with self.subTest(f"{where}, {label}"):
                    after = int(rng.integers(0, len(raw))) if where == "writing" else len(raw) + 1
                    died = subprocess.run(
                        [sys.executable, "-c", DYING, where, str(after)],
                        input=raw,
                        cwd=ROOT,
                        env=self.environment(),
                        check=False,
                    )
                    self.assertEqual(died.returncode, -signal.SIGKILL)
                    # Under its name lies all of it, or nothing.
                    name = hashlib.sha256(raw).hexdigest()
                    self.assertIn(
                        size_in(storages["originals"], StoredFile(sha256=name).path),
                        (None, len(raw)),
                    )
                    keep(io.BytesIO(raw), "a.tif")
                    self.assertTrue(self.whole(raw))

    def environment(self) -> dict[str, str]:
        from django.conf import settings

        database = str(connection.settings_dict["NAME"])
        names = {
            "DJANGO_SETTINGS_MODULE": "glenhail.server.settings",
            "GLENHAIL_VAR": str(settings.VAR),
        }
        return {**os.environ, **names, "GLENHAIL_DB_NAME": database}

    def test_what_a_crash_left_short_under_the_name_is_replaced_by_the_same_file_sent_again(
        self,
    ) -> None:
        for label, rng in drawn(6):
            with self.subTest(label):
                raw = self.raw(rng)
                row = keep(io.BytesIO(raw), "a.tif")
                path = Path(storages["originals"].path(row.path))
                path.write_bytes(raw[: int(rng.integers(0, len(raw)))])
                keep(io.BytesIO(raw), "a.tif")
                self.assertTrue(self.whole(raw))

    def test_what_has_a_name_stays_when_its_successor_finds_no_room(self) -> None:
        store = storages["derived"]
        folder = Path(store.path("")) / "trial"
        folder.mkdir(parents=True, exist_ok=True)
        (folder / "new").write_bytes(b"new" * 1000)
        (folder / "old").write_bytes(b"old")
        shm = Path("/dev/shm")  # noqa: S108  (another file system, where there is one: it is copied then)
        made = (shm if shm.is_dir() else folder) / "glenhail-trial-new"
        made.write_bytes(b"new" * 1000)
        if made.stat().st_dev != folder.stat().st_dev:
            with full_after(100), self.assertRaises(NoRoom):
                put(store, "trial/old", made)
            self.assertEqual((folder / "old").read_bytes(), b"old")
        put(store, "trial/old", made)
        self.assertEqual((folder / "old").read_bytes(), b"new" * 1000)
        self.assertFalse(made.exists())
