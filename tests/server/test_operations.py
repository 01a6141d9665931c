"""What an administrator counts on: files verified, cleared away, backed up, brought
back, and made again.
"""

from __future__ import annotations

import shutil
import tempfile
from datetime import timedelta
from io import StringIO
from pathlib import Path

from django.core.files.storage import storages
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection
from django.utils import timezone

from glenhail.server.jobs.models import Job, State
from glenhail.server.material.models import Frame, Picture
from glenhail.server.measuring.models import Reading
from glenhail.server.operations.backup import read_backup
from glenhail.server.operations.purge import purge
from glenhail.server.operations.verify import verify
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition
from glenhail.server.storage.durable import ASIDE
from glenhail.server.storage.models import StoredFile, Upload
from glenhail.server.studies.models import Study
from glenhail.server.viewing.tiles import _read_index
from tests.seeds import drawn
from tests.server.base import ServerTest, tiff, upload, work

AT_ONCE = timedelta(0)


def original(file: StoredFile) -> Path:
    return Path(storages["originals"].path(file.path))


def command(*arguments: str) -> str:
    said = StringIO()
    call_command(*arguments, stdout=said)
    return said.getvalue()


class OperationsTest(ServerTest):
    """With stores that hold nothing of other tests."""

    def setUp(self) -> None:
        super().setUp()
        for name in ("originals", "derived", "editions"):
            shutil.rmtree(storages[name].path(""), ignore_errors=True)
        _read_index.cache_clear()


class Derived(OperationsTest):
    def test_all_of_it_can_be_deleted_at_any_time_and_is_made_again_by_whoever_misses_it(
        self,
    ) -> None:
        study = self.make_study()
        work()
        picture = Frame.objects.get().picture
        tile = f"/api/pictures/{picture.pk}/tiles/0/0_0.png"
        before = self.owner.get(tile).content
        derived = Path(storages["derived"].path(""))
        for broken in ("deleted", "cut short", "other bytes"):
            with self.subTest(broken):
                place = derived / picture.pyramid
                if broken == "deleted":
                    shutil.rmtree(derived)
                else:
                    raw = place.read_bytes()
                    place.write_bytes(
                        raw[: len(raw) // 2] if broken == "cut short" else b"x" * len(raw)
                    )
                answer = self.owner.get(tile)
                self.assertEqual((answer.status_code, answer["Retry-After"]), (503, "2"))
                self.assertIn("made again", answer.json()["detail"])
                work()
                self.assertEqual(self.owner.get(tile).content, before)
        # An edition is printed without any of it.
        shutil.rmtree(derived)
        self.assertEqual(
            self.owner.post(
                f"/api/studies/{study.pk}/editions", {"note": ""}, "application/json"
            ).status_code,
            202,
        )
        work()
        self.assertEqual(Edition.objects.count(), 1)

    def test_preparing_asks_for_what_is_missing_and_sending_the_same_file_again_does_too(
        self,
    ) -> None:
        self.make_study()
        work()
        derived = Path(storages["derived"].path(""))
        shutil.rmtree(derived)
        command("prepare")
        asked = Job.objects.filter(kind="display", state=State.QUEUED).count()
        self.assertEqual(asked, Picture.objects.count())
        work()
        picture = Frame.objects.get().picture
        (derived / picture.pyramid).unlink()
        self.owner.post("/api/frames", upload("frame"))
        work()
        self.assertTrue((derived / picture.pyramid).exists())


class Verified(OperationsTest):
    def test_each_damaged_file_is_named_with_who_can_mend_it_and_the_same_file_sent_again_does(
        self,
    ) -> None:
        self.make_study()
        work()
        self.assertIn("as they were written", command("verify"))
        frame = Frame.objects.get()
        path = original(frame.picture.file)
        whole = path.read_bytes()
        for label, rng in drawn(4):
            flipped = bytearray(whole)
            flipped[int(rng.integers(len(whole)))] ^= 1 << int(rng.integers(8))
            for damaged, words in (
                (None, "gone"),
                (whole[: int(rng.integers(len(whole)))], "bytes instead of"),
                (flipped, "not what"),
            ):
                with self.subTest(f"{words}, {label}"):
                    path.unlink() if damaged is None else path.write_bytes(damaged)
                    faults = [fault for _, fault in verify() if fault is not None]
                    self.assertEqual(len(faults), 1)
                    self.assertIn(words, str(faults[0]))
                    self.assertIn("frame “frame” (frame.tif)", str(faults[0]))
                    with self.assertRaisesRegex(CommandError, "1 of 3 files"):
                        command("verify", "--set-aside")
                    self.owner.post("/api/frames", upload("frame"))
                    self.assertEqual(path.read_bytes(), whole)
                    self.assertIn("as they were written", command("verify"))

    def test_an_edition_that_somebody_touched_is_found(self) -> None:
        study = self.make_study()
        work()
        self.owner.post(f"/api/studies/{study.pk}/editions", {"note": ""}, "application/json")
        work()
        edition = Edition.objects.get()
        page = Path(storages["editions"].path(f"{edition.folder}/index.html"))
        page.write_text(page.read_text().replace("Which", "What", 1))
        with self.assertRaises(CommandError):
            command(
                "verify", "--set-aside"
            )  # only a backup mends it, so it stays where readers find it
        wrong = [str(fault) for _, fault in verify() if fault is not None]
        self.assertEqual(len(wrong), 1)
        self.assertIn("index.html", wrong[0])
        self.assertIn("manage.py restore", wrong[0])
        # One that was printed before its files were written down gets that by preparing.
        Edition.objects.update(files=[])
        command("prepare")
        self.assertEqual([fault for _, fault in verify() if fault is not None], [])


class Cleared(OperationsTest):
    def test_a_removed_frame_keeps_its_bytes_for_a_while_and_then_they_go(self) -> None:
        kept = self.owner.post("/api/frames", upload("frame")).json()["id"]
        gone = self.owner.post("/api/frames", upload("other")).json()["id"]
        work()
        file = Frame.objects.get(pk=gone).picture.file
        self.assertEqual(self.owner.delete(f"/api/frames/{gone}").status_code, 204)
        purge()
        self.assertTrue(original(file).exists())
        # Needed again in the meantime, it stays however long ago that was.
        StoredFile.objects.filter(pk=file.pk).update(
            unused_since=timezone.now() - timedelta(days=30)
        )
        again = self.owner.post("/api/frames", upload("other")).json()["id"]
        purge()
        self.assertTrue(original(file).exists())
        self.owner.delete(f"/api/frames/{again}")
        purge()
        StoredFile.objects.filter(pk=file.pk).update(
            unused_since=timezone.now() - timedelta(days=8)
        )
        self.assertIn("1 unused originals", command("purge", "--dry-run"))
        self.assertTrue(original(file).exists())
        cleared = purge()
        self.assertEqual(
            (cleared.files, cleared.bytes),
            ({"unused originals": 1}, {"unused originals": file.size}),
        )
        self.assertFalse(original(file).exists())
        self.assertFalse(StoredFile.objects.filter(pk=file.pk).exists())
        # The same file can come again, and what is used was never touched.
        self.owner.post("/api/frames", upload("other"))
        work()
        self.assertEqual({f.picture.state for f in Frame.objects.all()}, {"ready"})
        self.assertTrue(original(Frame.objects.get(pk=kept).picture.file).exists())

    def test_a_frame_that_was_measured_goes_as_well_with_all_that_was_worked_out_of_it(
        self,
    ) -> None:
        study = self.make_study()
        work()
        frame, outputs = (
            study.study_frames.get().frame,
            list(Output.objects.values_list("picture__file", flat=True)),
        )
        self.owner.post(f"/api/pictures/{frame.picture_id}/as/tif")
        self.owner.post(f"/api/frames/{frame.pk}/suggestions")
        work()
        derived = Path(storages["derived"].path(""))
        self.assertEqual(len([*derived.rglob(f"{frame.picture.file_id}.*")]), 2)
        self.owner.delete(f"/api/studies/{study.pk}/frames/{frame.pk}")
        self.assertEqual(self.owner.delete(f"/api/frames/{frame.pk}").status_code, 204)
        purge()
        StoredFile.objects.update(unused_since=timezone.now() - timedelta(days=8))
        purge()
        self.assertEqual((StoredFile.objects.count(), Picture.objects.count()), (0, 0))
        self.assertEqual([p for name in outputs for p in derived.rglob(f"{name}.*")], [])

    def test_what_editions_outputs_and_truths_need_is_never_cleared(self) -> None:
        study = self.make_study()
        work()
        self.owner.post(f"/api/studies/{study.pk}/editions", {"note": ""}, "application/json")
        work()
        StoredFile.objects.update(unused_since=timezone.now() - timedelta(days=99))
        files = StoredFile.objects.count()
        self.assertEqual(purge(grace=AT_ONCE).files, {})
        self.assertEqual(StoredFile.objects.count(), files)
        self.assertEqual([fault for _, fault in verify() if fault], [])

    def test_what_killed_work_left_behind_goes_and_what_is_under_way_stays(self) -> None:
        from django.conf import settings

        incoming = Path(settings.FILE_UPLOAD_TEMP_DIR)
        aside = Path(storages["originals"].path(ASIDE))
        orphan = Path(storages["originals"].path("ab/cd/abcd"))
        for path in (
            incoming / "tmpjob" / "pyramid.zip",
            incoming / "parts" / "given-up",
            aside / "short",
            orphan,
        ):
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_bytes(b"left")
        open_part = incoming / "parts" / "00000000-0000-4000-8000-000000000001"
        open_part.write_bytes(b"half")
        owner = self.users["owner"]
        Upload.objects.create(
            pk=open_part.name,
            bench=self.bench,
            actor=owner,
            name="a",
            size=9,
            delivery={"kind": "frame"},
        )
        self.assertEqual(purge().files, {})
        cleared = purge(left_behind=AT_ONCE)
        self.assertEqual(cleared.files["parts of uploads given up"], 1)
        self.assertGreaterEqual(cleared.files["left behind"], 2)
        self.assertEqual(cleared.files["originals without a row"], 1)
        self.assertTrue(open_part.exists())
        self.assertFalse(
            (incoming / "tmpjob").exists() or orphan.exists() or (aside / "short").exists()
        )


class Backups(OperationsTest):
    def setUp(self) -> None:
        super().setUp()
        self.home = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.home, ignore_errors=True)

    def everything(self) -> dict[str, object]:
        """What a bench holds, in rows and bytes."""
        return {
            "studies": list(Study.objects.values_list("question", flat=True)),
            "readings": sorted(
                map(
                    str,
                    Reading.objects.values_list("output__contender__letter", "measure", "value"),
                )
            ),
            "outputs": sorted(Output.objects.values_list("contender__letter", "file_name")),
            "files": {f.pk: original(f).read_bytes() for f in StoredFile.objects.all()},
            "editions": {
                f"{e.folder}/{part['name']}": Path(
                    storages["editions"].path(f"{e.folder}/{part['name']}")
                ).read_bytes()
                for e in Edition.objects.all()
                for part in e.files
            },
        }

    def test_a_bench_comes_back_as_it_was_with_every_file_and_shows_its_pictures(self) -> None:
        study = self.make_study()
        work()
        self.owner.post(f"/api/studies/{study.pk}/editions", {"note": ""}, "application/json")
        work()
        before = self.everything()
        self.assertIn("found whole", command("backup", str(self.home)))
        # Everything that can be lost, and something that came later.
        later = self.owner.post("/api/frames", upload("other")).json()["id"]
        work()
        Reading.objects.all().delete()
        for folder in ("originals", "derived", "editions"):
            shutil.rmtree(storages[folder].path(""))
        with self.assertRaisesRegex(CommandError, "--replace"):
            command("restore", str(self.home))
        connection.close()
        self.assertIn("as it was at", command("restore", str(self.home), "--replace"))
        self.assertEqual(self.everything(), before)
        self.assertFalse(Frame.objects.filter(pk=later).exists())
        self.assertIn("as they were written", command("verify"))
        self.owner = self.client_of("owner")
        picture = Frame.objects.get().picture
        tile = f"/api/pictures/{picture.pk}/tiles/0/0_0.png"
        self.assertEqual(self.owner.get(tile).status_code, 503)
        work()
        self.assertEqual(self.owner.get(tile).status_code, 200)

    def test_a_second_backup_holds_only_what_is_new(self) -> None:
        self.owner.post("/api/frames", upload("frame"))
        work()
        command("backup", str(self.home))
        first = {p: p.stat().st_mtime_ns for p in (self.home / "files").rglob("*") if p.is_file()}
        self.owner.post("/api/frames", upload("other"))
        work()
        command("backup", str(self.home))
        second = {p: p.stat().st_mtime_ns for p in (self.home / "files").rglob("*") if p.is_file()}
        self.assertEqual({p: second[p] for p in first}, first)
        self.assertEqual(len(second), len(first) + 1)

    def test_backups_made_within_one_second_are_kept_apart_and_in_order(self) -> None:
        for count in (1, 2, 3):
            command("backup", str(self.home))
            kept = sorted(self.home.glob("[0-9]*/list.json"))
            self.assertEqual(len(kept), count)
            self.assertEqual(
                read_backup(self.home).folder,
                max((p.parent for p in kept), key=lambda p: p.stat().st_mtime_ns),
            )

    def test_neither_a_damaged_bench_nor_a_damaged_backup_is_taken_for_whole(self) -> None:
        self.owner.post("/api/frames", upload("frame"))
        work()
        command("backup", str(self.home))
        path = original(StoredFile.objects.get())
        copy = next(p for p in (self.home / "files").rglob("*") if p.is_file())
        copy.write_bytes(copy.read_bytes()[:-1] + b"?")
        with self.assertRaisesRegex(CommandError, "damaged, so nothing was changed"):
            command("restore", str(self.home), "--replace")
        self.assertEqual(path.read_bytes(), tiff("frame"))
        copy.unlink()
        path.write_bytes(path.read_bytes()[:-1] + b"?")
        with self.assertRaisesRegex(CommandError, "Send the same file again"):
            command("backup", str(self.home))
        self.assertEqual(len([*self.home.glob("unfinished-*")]), 1)
        with self.assertRaisesRegex(CommandError, "no finished backup"):
            command("restore", str(self.home / "files"))
