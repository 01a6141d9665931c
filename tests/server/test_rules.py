"""Rules of studies, frames, files and editions, one fact a test."""

from __future__ import annotations

import errno
import hashlib
import io
import zipfile
from unittest import mock

import imagecodecs
import numpy as np
from django.core.files.storage import storages
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.test import override_settings
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.server.jobs.models import Job, State
from glenhail.server.material.models import Frame, Picture
from glenhail.server.measuring.models import LineUp, Reading
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition
from glenhail.server.storage import durable
from glenhail.server.storage.models import StoredFile
from glenhail.server.viewing.crops import crop_codes, thumb_codes
from glenhail.server.viewing.tiles import tile
from tests.pictures import photograph
from tests.server.base import ServerTest, stream_of, tiff, upload, work

JSON = "application/json"


class Contenders(ServerTest):
    def enter(self, study_id: int, tool: str, **more: object) -> dict[str, object]:
        step = {"tool": tool, "release": "1", "mode": "", "settings": [], "automatic": False} | more
        return self.owner.post(
            f"/api/studies/{study_id}/contenders", {"steps": [step]}, JSON
        ).json()

    def test_a_letter_once_given_is_never_given_again(self) -> None:
        study = self.make_study()
        second = self.enter(study.pk, "Keenfold")
        self.assertEqual(second["letter"], "B")
        self.assertEqual(self.owner.delete(f"/api/contenders/{second['id']}").status_code, 204)
        self.assertEqual(self.enter(study.pk, "Mossgate")["letter"], "C")

    def test_steps_are_told_in_words_and_in_their_order(self) -> None:
        study = self.make_study()
        steps = [
            {
                "tool": "Sedgewash",
                "release": "3.0",
                "mode": "fine",
                "settings": [],
                "automatic": True,
            },
            {
                "tool": "Tarnlift",
                "release": "1.8",
                "mode": "",
                "settings": [{"name": "scale", "value": 2, "unit": "x"}],
            },
        ]
        made = self.owner.post(f"/api/studies/{study.pk}/contenders", {"steps": steps}, JSON).json()
        self.assertEqual(made["title"], "Sedgewash 3.0, then Tarnlift 1.8")
        self.assertEqual(made["manner"], "fine, automatic, then scale 2 x")
        changed = self.owner.put(
            f"/api/contenders/{made['id']}", {"steps": steps[::-1]}, JSON
        ).json()
        self.assertEqual(
            (changed["letter"], changed["title"]), ("B", "Tarnlift 1.8, then Sedgewash 3.0")
        )
        tools = self.owner.get("/api/tools").json()
        self.assertEqual(
            [(t["name"], [r["name"] for r in t["releases"]]) for t in tools],
            [("Sedgewash", ["3.0"]), ("Tarnlift", ["1.8"])],
        )

    def test_truth_and_unprocessed_can_not_be_changed_or_filled(self) -> None:
        study = self.make_study()
        frame = study.study_frames.get().frame
        for letter in "TU":
            contender = study.contenders.get(letter=letter)
            self.assertEqual(self.owner.delete(f"/api/contenders/{contender.pk}").status_code, 409)
            answer = self.owner.post(
                f"/api/contenders/{contender.pk}/outputs/{frame.pk}", upload("smooth")
            )
            self.assertEqual(answer.status_code, 409)

    def test_a_reason_for_no_output_stands_in_its_cell(self) -> None:
        study = self.make_study()
        made, frame = self.enter(study.pk, "Keenfold"), study.study_frames.get().frame
        cell = f"/api/contenders/{made['id']}/outputs/{frame.pk}"
        self.owner.put(cell, {"absence": "Takes raw files only."}, JSON)
        output = next(
            o
            for o in self.owner.get(f"/api/studies/{study.pk}").json()["outputs"]
            if o["contender"] == made["id"]
        )
        self.assertEqual((output["state"], output["problem"]), ("absent", "Takes raw files only."))
        self.owner.post(cell, upload("smooth"))
        self.assertEqual(Output.objects.get(contender=made["id"]).absence, "")


class Frames(ServerTest):
    def test_taking_a_frame_out_takes_its_outputs_and_patches_but_no_file(self) -> None:
        study = self.make_study()
        frame, files = study.study_frames.get().frame, StoredFile.objects.count()
        self.owner.delete(f"/api/studies/{study.pk}/frames/{frame.pk}")
        self.assertEqual((study.patches.count(), Output.objects.count()), (0, 0))
        self.assertEqual(StoredFile.objects.count(), files)
        self.assertEqual(self.owner.delete(f"/api/frames/{frame.pk}").status_code, 204)
        self.assertFalse(Frame.objects.exists())

    def test_an_upload_to_a_full_disk_says_so_and_keeps_nothing(self) -> None:
        full = OSError(errno.ENOSPC, "No space left on device")
        with mock.patch.object(durable, "write", side_effect=full):
            # Bytes that no other test has kept already.
            answer = self.owner.post(
                "/api/frames", {"file": SimpleUploadedFile("frame.tif", tiff("frame") + b"full")}
            )
        self.assertEqual(answer.status_code, 507)
        self.assertIn("frame.tif: the disk of this bench is full", answer.json()["detail"])
        self.assertFalse(
            StoredFile.objects.exists() or Frame.objects.exists() or Job.objects.exists()
        )
        self.assertEqual(self.owner.post("/api/frames", upload("frame")).status_code, 201)

    @override_settings(MAX_UPLOAD_BYTES=1000)
    def test_an_upload_larger_than_the_bench_takes_is_refused(self) -> None:
        answer = self.owner.post("/api/frames", upload("frame"))
        self.assertEqual(answer.status_code, 400)
        self.assertIn("larger than the 1,000 bytes", answer.json()["detail"])

    def test_names_of_uploads_lose_folders_and_control_characters(self) -> None:
        for given, kept in {
            "..\\..\\evil.tif": "evil.tif",
            "a/b/c.tif": "c.tif",
            "line\nbreak.tif": "linebreak.tif",
        }.items():
            Frame.objects.all().delete()
            self.owner.post("/api/frames", {"file": SimpleUploadedFile(given, tiff("frame"))})
            self.assertEqual(Frame.objects.get().file_name.rsplit("\n")[-1], kept)


class Scenes(ServerTest):
    KNOWN = b'{"width": 640, "height": 427, "lights": [{"x": 9, "y": 9, "peak": 1}], "edges": []}'

    def test_a_frame_shows_a_scene_whose_kinds_and_lights_come_with_it(self) -> None:
        frame = self.owner.post("/api/frames", upload("frame")).json()
        scene = self.owner.post(
            "/api/scenes", {"name": "Yard", "kinds": ["face", "lights at night", "face"]}, JSON
        ).json()
        self.assertEqual(scene["kinds"], ["lights at night", "face"])
        marks = {"file": SimpleUploadedFile("yard.json", self.KNOWN)}
        self.assertEqual(
            self.owner.post(f"/api/scenes/{scene['id']}/known", marks).json()["lights"], 1
        )
        shown = self.owner.patch(f"/api/frames/{frame['id']}", {"scene": scene["id"]}, JSON).json()[
            "scene"
        ]
        self.assertEqual((shown["name"], shown["lights"]), ("Yard", 1))
        self.assertEqual(
            self.owner.get(f"/api/scenes/{scene['id']}/known").json()["lights"][0]["x"], 9
        )
        self.assertEqual(self.owner.delete(f"/api/scenes/{scene['id']}").status_code, 409)
        self.owner.patch(f"/api/frames/{frame['id']}", {"scene": None}, JSON)
        self.assertEqual(self.owner.delete(f"/api/scenes/{scene['id']}").status_code, 204)

    def test_what_makes_no_sense_is_refused_and_changes_nothing(self) -> None:
        scene = self.owner.post("/api/scenes", {"name": "Yard", "kinds": []}, JSON).json()
        base = f"/api/scenes/{scene['id']}"
        stranger, viewer = self.client_of("stranger"), self.client_of("viewer")
        frame = self.owner.post("/api/frames", upload("frame")).json()
        theirs = stranger.post("/api/scenes", {"name": "Theirs", "kinds": []}, JSON).json()
        bad = {"file": SimpleUploadedFile("wrong.json", b"{}")}
        for what, answer, status in (
            ("same name", self.owner.post("/api/scenes", {"name": "Yard", "kinds": []}, JSON), 409),
            ("no name", self.owner.post("/api/scenes", {"name": " ", "kinds": []}, JSON), 400),
            (
                "no such kind",
                self.owner.post("/api/scenes", {"name": "x", "kinds": ["nice"]}, JSON),
                400,
            ),
            ("no marks", self.owner.post(f"{base}/known", bad), 400),
            ("a viewer", viewer.put(base, {"name": "Mine", "kinds": []}, JSON), 403),
            ("a stranger", stranger.put(base, {"name": "Mine", "kinds": []}, JSON), 404),
            (
                "another bench's scene",
                self.owner.patch(f"/api/frames/{frame['id']}", {"scene": theirs["id"]}, JSON),
                404,
            ),
            ("nothing known", self.owner.get(f"{base}/known"), 404),
        ):
            self.assertEqual(answer.status_code, status, what)
        self.assertEqual([s["name"] for s in self.owner.get("/api/scenes").json()], ["Yard"])


class Degrading(ServerTest):
    RECIPE = {
        "seed": 5,
        "steps": [{"kind": "gaussian_blur", "sigma": 1}, {"kind": "sensor_noise", "iso": 6400}],
    }

    def ask(self, frame: int, **body: object) -> object:
        return self.owner.post(
            f"/api/frames/{frame}/degradations", {"recipe": self.RECIPE} | body, JSON
        )

    def test_a_series_makes_frames_whose_truth_is_the_clean_one_and_the_same_recipe_nothing_new(
        self,
    ) -> None:
        clean = self.owner.post("/api/frames", upload("truth")).json()["id"]
        work()
        sweep = {"step": 1, "parameter": "iso", "values": [400, 6400]}
        self.assertEqual(self.ask(clean, sweep=sweep).json()["jobs"], 2)
        work()
        made = Frame.objects.exclude(pk=clean).order_by("pk")
        self.assertEqual(
            [f.name for f in made],
            ["truth, gaussian blur 1, ISO 400", "truth, gaussian blur 1, ISO 6,400"],
        )
        self.assertEqual({f.truth_id for f in made}, {Frame.objects.get(pk=clean).picture_id})
        self.assertEqual([f.picture.facts["iso"] for f in made], [400, 6400])
        self.ask(clean)
        work()
        self.assertEqual(Frame.objects.count(), 3)
        shown = next(f for f in self.owner.get("/api/frames").json() if f["id"] == made[1].pk)
        self.assertIn("Sensor noise, ISO 6,400", shown["made_by"])
        self.assertEqual(shown["recipe"]["seed"], 5)
        self.assertEqual(self.ask(made[1].pk).status_code, 409)
        self.assertEqual(self.owner.delete(f"/api/frames/{clean}").status_code, 409)

    def test_a_preview_shows_the_part_asked_for_and_bad_recipes_are_told_why(self) -> None:
        clean = self.owner.post("/api/frames", upload("truth")).json()["id"]
        self.assertEqual(self.ask(clean).status_code, 409)  # not taken in yet
        work()
        address = f"/api/frames/{clean}/degradations/preview"
        half = {"recipe": {"steps": [{"kind": "shrink"}]}, "x": 600, "y": 400}
        made = imagecodecs.png_decode(self.owner.post(address, half, JSON).content)
        self.assertEqual(made.shape, (180, 240, 3))
        answer = self.owner.post(
            address, {"recipe": {"steps": [{"kind": "magic"}]}, "x": 1, "y": 1}, JSON
        )
        self.assertEqual(
            (answer.status_code, "Choose among" in answer.json()["detail"]), (400, True)
        )
        self.assertEqual(
            self.ask(clean, sweep={"step": 1, "parameter": "iso", "values": [1e9]}).status_code, 400
        )
        self.assertEqual(
            self.client_of("viewer")
            .post(f"/api/frames/{clean}/degradations", {"recipe": self.RECIPE}, JSON)
            .status_code,
            403,
        )


class Published(ServerTest):
    def test_an_editions_download_tells_no_place_and_no_serial_number(self) -> None:
        study = self.make_study()
        contender = self.owner.post(
            f"/api/studies/{study.pk}/contenders",
            {
                "steps": [
                    {
                        "tool": "Keenfold",
                        "release": "5",
                        "mode": "",
                        "settings": [],
                        "automatic": False,
                    }
                ]
            },
            JSON,
        ).json()
        frame = study.study_frames.get().frame
        facts = Image.Exif()
        facts.get_ifd(0x8769)[0xA431] = "SN-4711"
        facts.get_ifd(0x8825).update({1: "N", 2: (47.0, 11.0, 53.25)})
        made = io.BytesIO()
        codes = np.round(srgb.encode(photograph("china")) * 255).astype(np.uint8)
        Image.fromarray(codes).save(made, "JPEG", quality=95, exif=facts)
        self.assertIn(b"SN-4711", made.getvalue())
        self.owner.post(
            f"/api/contenders/{contender['id']}/outputs/{frame.pk}",
            {"file": SimpleUploadedFile("out.jpg", made.getvalue())},
        )
        work()
        self.owner.post(f"/api/studies/{study.pk}/editions", {"note": ""}, JSON)
        work()
        edition = Edition.objects.get()
        with zipfile.ZipFile(
            stream_of(self.client.get(f"{edition.address}everything.zip"))
        ) as pack:
            sums = dict(
                reversed(line.split("  ")) for line in pack.read("SHA256SUMS").decode().splitlines()
            )
            name = next(n for n in pack.namelist() if n.endswith("out.jpg"))
            published = pack.read(name)
        self.assertEqual(sums[name], hashlib.sha256(published).hexdigest())
        self.assertNotIn(b"SN-4711", published)
        shown = Image.open(io.BytesIO(published))
        self.assertEqual(dict(shown.getexif().get_ifd(0x8825)), {})
        np.testing.assert_array_equal(np.asarray(shown), np.asarray(Image.open(made)))
        self.assertIn(b"SN-4711", made.getvalue())  # what the bench keeps is untouched


class Viewing(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.owner.post("/api/frames", upload("frame"))
        work()
        self.picture = Picture.objects.get()

    def test_a_tile_is_lossless_kept_for_ever_and_a_missing_one_is_missing(self) -> None:
        base = f"/api/pictures/{self.picture.pk}/tiles"
        answer = self.owner.get(f"{base}/0/1_0.png")
        self.assertEqual(answer.content, tile(self.picture.pyramid, 0, 1, 0))
        self.assertTrue(answer.content.startswith(b"\x89PNG"))
        self.assertIn("immutable", answer.headers["Cache-Control"])
        for path in ("/0/9_9.png", "/7/0_0.png"):
            self.assertEqual(self.owner.get(base + path).status_code, 404)

    def test_a_thumb_shows_the_whole_picture_in_few_bytes(self) -> None:
        answer = self.owner.get(f"/api/pictures/{self.picture.pk}/thumb.webp")
        self.assertEqual(answer.headers["Content-Type"], "image/webp")
        self.assertIn("immutable", answer.headers["Cache-Control"])
        self.assertLess(len(answer.content), 40_000)
        shown = np.asarray(Image.open(io.BytesIO(answer.content)), dtype=np.float64)
        # The coarsest level of 640 x 427 px is half of it.
        self.assertEqual(shown.shape, (214, 320, 3))
        want = thumb_codes(self.picture.pyramid, self.picture.levels)
        self.assertLess(np.abs(shown - want).mean(), 6)
        self.assertEqual(
            self.client_of("stranger")
            .get(f"/api/pictures/{self.picture.pk}/thumb.webp")
            .status_code,
            404,
        )

    def test_a_crop_across_tiles_is_what_the_file_shows(self) -> None:
        from glenhail.core.colour import srgb
        from glenhail.core.picture import Rect
        from glenhail.server.material.decoded import decoded

        rect = Rect(480, 100, 90, 60)
        want = srgb.to_display(decoded(self.picture).crop(rect))
        self.assertTrue((crop_codes(self.picture.pyramid, rect) == want).all())

    def test_a_display_copy_thrown_away_can_be_made_again(self) -> None:
        storages["derived"].delete(self.picture.pyramid)
        Picture.objects.update(state="waiting")
        self.owner.post("/api/frames", upload("frame"))
        work()
        self.assertTrue(storages["derived"].exists(self.picture.pyramid))


class Work(ServerTest):
    def test_line_ups_are_found_once_for_a_pair_of_files(self) -> None:
        study = self.make_study()
        work()
        found = set(LineUp.objects.values_list("pk", flat=True))
        Reading.objects.all().delete()
        call_command("prepare")
        for output in Output.objects.all():
            from glenhail.server.measuring.actions.queueing import queue_output

            queue_output(output)
        work()
        self.assertEqual(set(LineUp.objects.values_list("pk", flat=True)), found)
        self.assertEqual(
            self.owner.get(f"/api/studies/{study.pk}").json()["readings_there"],
            Reading.objects.count(),
        )

    def test_readings_of_an_older_measure_are_hidden_and_taken_again_at_the_next_start(
        self,
    ) -> None:
        study = self.make_study()
        work()
        whole = Reading.objects.count()
        Reading.objects.filter(measure="psnr").update(version="0", key="old")
        shown = self.owner.get(f"/api/studies/{study.pk}/readings").json()["readings"]
        self.assertNotIn("psnr", {r["measure"] for r in shown})
        call_command("prepare")
        work()
        self.assertEqual(Reading.objects.exclude(version="0").count(), whole)

    def test_one_reading_tells_what_stands_behind_it(self) -> None:
        self.make_study()
        work()
        row = Reading.objects.get(measure="noise_chroma", output__contender__letter="A")
        found = self.owner.get(f"/api/readings/{row.pk}").json()
        self.assertEqual(set(found["details"]), {"a", "b"})
        self.assertEqual(found["grid"], "output pixels, not resampled")


class Publishing(ServerTest):
    def test_it_waits_for_work_and_a_study_with_editions_stays(self) -> None:
        study = self.make_study()
        work()
        publish = f"/api/studies/{study.pk}/editions"
        waiting = Job.objects.create(
            bench=self.bench, kind="measure", key="k", label="Measure", study_id=study.pk
        )
        busy = self.owner.post(publish, {"note": ""}, JSON)
        self.assertEqual((busy.status_code, "Measure" in busy.json()["detail"]), (409, True))
        waiting.delete()
        self.owner.post(publish, {"note": ""}, JSON)
        work()
        self.assertEqual(self.owner.delete(f"/api/studies/{study.pk}").status_code, 400)
        reports = self.owner.get("/api/reports").json()
        self.assertEqual([e["number"] for e in reports[0]["editions"]], [1])

    def test_a_press_that_broke_down_leaves_no_edition_and_the_next_try_has_its_number(
        self,
    ) -> None:
        study = self.make_study()
        work()
        publish = f"/api/studies/{study.pk}/editions"
        self.owner.post(publish, {"note": ""}, JSON)
        with mock.patch("glenhail.server.publishing.jobs.put", side_effect=OSError("gone")):
            work()
        self.assertFalse(Edition.objects.exists())
        job = Job.objects.get(kind="publish")
        self.assertEqual(job.state, State.FAILED)
        self.owner.post(f"/api/jobs/{job.pk}/retry")
        work()
        self.assertEqual(Edition.objects.get().number, 1)

    def test_words_of_authors_can_not_become_markup(self) -> None:
        study = self.make_study()
        work()
        evil = "<script>alert(1)</script>"
        self.owner.put(
            f"/api/studies/{study.pk}/report",
            {"summary": evil, "method": evil, "disclosure": evil},
            JSON,
        )
        self.owner.post(f"/api/studies/{study.pk}/editions", {"note": evil}, JSON)
        work()
        with storages["editions"].open(f"{Edition.objects.get().folder}/index.html") as file:
            self.assertNotIn(b"<script>alert", file.read())
