"""A study whose factor is the body: series dropped in, compared at spots, kept current."""

from __future__ import annotations

import contextlib
import hashlib
import io
import json
import math
import tempfile
import zipfile
from functools import cache
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils.html import escape
from jsonschema import Draft202012Validator

from glenhail.core.__main__ import main
from glenhail.server.jobs.models import Job, State
from glenhail.server.jobs.registry import Progress
from glenhail.server.material.models import Frame
from glenhail.server.publishing.models import Edition
from glenhail.server.sensors.models import StudySeries
from glenhail.server.studies.models import Study
from glenhail.standins.camera import BODIES, expose, write_dng
from tests.pictures import photograph
from tests.server.base import TERMS, ServerTest, stream_of, work

JSON = "application/json"
ISOS = (400, 1600, 6400)
SPOTS = (("Sky", "flat", 20, 20, 120, 80), ("Ground", "shadow", 400, 330, 120, 80))


@cache
def raw(body: str, iso: int, number: int, dark: bool = False) -> bytes:
    """A scene of the china photograph, its lower part in the shade."""
    light = 0.6 * photograph("china")
    light[300:] *= 0.08
    if dark:
        light = np.zeros_like(light)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "made.dng"
        codes = expose(light.astype(np.float32), BODIES[body], iso, seed=iso + number)
        shot = {"iso": iso, "shutter_s": 10 / iso, "aperture": 4, "focal_mm": 50}
        write_dng(path, codes, BODIES[body], shot)
        return path.read_bytes()


class SeriesTest(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        made = self.owner.post("/api/scenes", {"name": "China", "kinds": []}, JSON)
        self.scene = made.json()["id"]
        self.body_id = self.describe("Corvane Quill 24")
        self.describe("Corvane Quill 33")

    def describe(self, name: str) -> int:
        sensor = {"width_mm": 36, "height_mm": 24, "width": 6000, "height": 4000, "cfa": "Bayer"}
        return int(self.owner.post("/api/bodies", {"name": name, **sensor}, JSON).json()["id"])

    def drop(self, body: str, iso: int, number: int, dark: bool = False) -> int:
        """A raw file, as it is dropped: its scene, or that it shows none, is told."""
        name = f"{body}-{'dark-' if dark else ''}{iso}-{number}.dng"
        file = SimpleUploadedFile(name, raw(body, iso, number, dark))
        frame = self.owner.post("/api/frames", {"file": file}).json()["id"]
        told: dict[str, Any] = {"kind": "dark"} if dark else {"scene": self.scene}
        answer = self.owner.patch(f"/api/frames/{frame}", told, JSON)
        self.assertEqual(answer.status_code, 200, answer.content)
        return int(frame)

    def drop_series(self, *bodies: str, frames: int = 2) -> None:
        for body in bodies:
            for iso in ISOS:
                for number in range(frames):
                    self.drop(body, iso, number)

    def ask(self, factor: str = "body") -> Study:
        told = {"question": "Which body is better?", "factor": factor}
        made = self.owner.post("/api/studies", told, JSON)
        return Study.objects.get(pk=made.json()["id"])

    def take(self, study: Study, *bodies: str, code: int = 200) -> Any:
        told = {"scene": self.scene, "bodies": bodies}
        answer = self.owner.post(f"/api/studies/{study.pk}/series/scenes", told, JSON)
        self.assertEqual(answer.status_code, code, answer.content)
        return answer.json()

    def draw(self, study: Study, name: str, role: str, *place: int) -> None:
        frame = study.study_frames.order_by("order")[0].frame_id
        told = dict(zip(("x", "y", "w", "h"), place, strict=True))
        patch = {"frame": frame, "name": name, "role": role, **told}
        answer = self.owner.post(f"/api/studies/{study.pk}/patches", patch, JSON)
        self.assertEqual(answer.status_code, 201, answer.content)

    def meter(self, study: Study, code: int, **told: Any) -> Any:
        patch = study.patches.get(name="Sky").pk
        whole = {"patch": patch, "luminance": 250.0, "t_numbers": {}} | told
        answer = self.owner.put(f"/api/studies/{study.pk}/series/luminance", whole, JSON)
        self.assertEqual(answer.status_code, code, answer.content)
        return answer.json() if answer.content else None

    def series(self, study: Study) -> Any:
        return self.owner.get(f"/api/studies/{study.pk}/series").json()


class Bodies(SeriesTest):
    def setUp(self) -> None:
        super().setUp()
        self.drop_series("quill24", "quill33")
        work()
        self.study = self.ask()

    def test_a_series_becomes_a_study_of_bodies_by_their_names(self) -> None:
        (scene,) = self.owner.get(f"/api/studies/{self.study.pk}/series/scenes").json()
        self.assertEqual(scene["name"], "China")
        self.assertEqual(
            [(b["body"], b["isos"], b["frames"]) for b in scene["bodies"]],
            [(f"Corvane Quill {n}", [400, 1600, 6400], 6) for n in (24, 33)],
        )
        self.assertEqual(scene["doubts"], [])
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        page = self.owner.get(f"/api/studies/{self.study.pk}").json()
        self.assertEqual([f["picture"]["facts"]["iso"] for f in page["frames"]], [400, 1600, 6400])
        titles = {c["letter"]: c["title"] for c in page["contenders"] if c["kind"] != "truth"}
        self.assertEqual(titles, {"A": "Corvane Quill 24", "B": "Corvane Quill 33"})
        shots = [o["file_name"] for o in page["outputs"] if "quill33" in o["file_name"]]
        self.assertEqual(shots, [f"quill33-{iso}-0.dng" for iso in ISOS])

    def test_bodies_are_compared_once_spots_are_drawn_and_anew_when_they_move(self) -> None:
        self.assertEqual(self.series(self.study)["state"], "none")
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        for spot in SPOTS:
            self.draw(self.study, *spot)
        self.assertEqual(self.series(self.study)["state"], "waiting")
        work()
        told = self.series(self.study)
        self.assertEqual((told["state"], told["problem"]), ("ready", ""))
        found = told["found"]
        self.assertEqual([s["name"] for s in found["spots"]], ["Sky", "Ground"])
        self.assertEqual([b["letter"] for b in found["bodies"]], ["A", "B"])
        for body, key in zip(found["bodies"], ("quill24", "quill33"), strict=True):
            sensor = BODIES[key]
            for at in body["facts"]["isos"]:
                top = sensor.full_well * 100 / at["iso"]
                self.assertAlmostEqual(at["top"][0] / top, 1, delta=0.1)
            sky = body["spots"][0]["readings"]
            self.assertEqual([r["iso"] for r in sky], [400, 1600, 6400])
            # Photons alone: half as many are the root of two as noisy.
            self.assertAlmostEqual(sky[0]["snr"][0] / sky[1]["snr"][0], 2, delta=0.35)
            self.assertEqual(sky[0]["files"], [f"{key}-400-0.dng", f"{key}-400-1.dng"])
        # More electrons at the same codes: 42,000 against 30,000 are half a stop.
        (sky,) = (
            a
            for a in found["ahead"]
            if (a["spot"], a["basis"], a["at"]) == (0, "as shot", "common")
        )
        self.assertAlmostEqual(sky["stops"][-1]["stops"][0], 0.49, delta=0.3)
        copy = self.owner.post(f"/api/studies/{self.study.pk}/copies").json()["id"]
        page = self.owner.get(f"/api/studies/{copy}").json()
        titles = {c["letter"]: c["title"] for c in page["contenders"] if c["kind"] != "truth"}
        self.assertEqual(titles, {"A": "Corvane Quill 24", "B": "Corvane Quill 33"})
        before = StudySeries.objects.get().key
        patch = self.study.patches.get(name="Sky")
        place = {"name": "Sky", "role": "flat", "x": 60, "y": 30, "w": 120, "h": 80}
        self.owner.put(f"/api/patches/{patch.pk}", place, JSON)
        self.assertIn(self.series(self.study)["state"], ("waiting", "old"))
        work()
        self.assertEqual(self.series(self.study)["state"], "ready")
        self.assertNotEqual(StudySeries.objects.get().key, before)

    def test_a_luminance_and_t_numbers_give_speeds_at_once_and_can_be_taken_back(self) -> None:
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        for spot in SPOTS:
            self.draw(self.study, *spot)
        work()
        page = self.series(self.study)
        self.assertEqual((page["metered"], page["speeds"]), (None, []))
        self.meter(self.study, 204, t_numbers={"Corvane Quill 24": 4.2})
        page = self.series(self.study)
        self.assertEqual(page["state"], "ready")
        one, other = page["speeds"]
        self.assertEqual(other["said"], "No T-number of its lens is given.")
        lit = page["found"]["bodies"][0]["spots"][0]["readings"]
        for row, reading in zip(one["isos"], lit, strict=True):
            # ISO 12232's formula by hand: 78 over the exposure that saturates.
            exposed = math.pi / 4 * 250 * (10 / row["iso"]) / 4.2**2
            want = 78 * reading["light"][0] / exposed
            # The file keeps its shutter in whole parts of a second.
            self.assertAlmostEqual(row["speed"][0] / want, 1, delta=0.005)
        self.meter(self.study, 204, luminance=125.0, t_numbers={"Corvane Quill 24": 4.2})
        twice = self.series(self.study)["speeds"][0]["isos"][0]["speed"][0]
        self.assertAlmostEqual(twice / one["isos"][0]["speed"][0], 2)
        for words, told in (
            ("no body of this study", {"t_numbers": {"Lull Two": 2.0}}),
            ("A T-number lies between", {"t_numbers": {"Corvane Quill 24": 0.0}}),
            ("A luminance lies between", {"luminance": -1.0}),
        ):
            with self.subTest(words):
                self.assertIn(words, json.dumps(self.meter(self.study, 400, **told)))
        self.meter(self.study, 404, patch=0)
        gone = self.owner.delete(f"/api/studies/{self.study.pk}/series/luminance")
        self.assertEqual(gone.status_code, 204)
        self.assertIsNone(self.series(self.study)["metered"])

    def test_where_bodies_were_entered_before_letters_stay_as_they_are_known(self) -> None:
        self.study.contenders.filter(kind="unprocessed").update(body="Corvane Quill 24")
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        rows = self.study.contenders.exclude(kind="truth").values_list("letter", "body")
        self.assertEqual(dict(rows), {"U": "Corvane Quill 24", "A": "Corvane Quill 33"})
        copied = self.owner.post(f"/api/studies/{self.study.pk}/copies").json()["id"]
        rows = Study.objects.get(pk=copied).contenders.exclude(kind="truth")
        told = dict(rows.values_list("letter", "body"))
        self.assertEqual(told, {"A": "Corvane Quill 24", "B": "Corvane Quill 33"})

    def test_what_comes_later_is_taken_in_and_a_job_that_runs_again_does_nothing(self) -> None:
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        self.draw(self.study, *SPOTS[0])
        work()
        isos = lambda: [  # noqa: E731
            r["iso"] for r in self.series(self.study)["found"]["bodies"][0]["spots"][0]["readings"]
        ]
        self.assertEqual(isos(), [400, 1600, 6400])
        taken = StudySeries.objects.get().taken
        self.owner.post(f"/api/studies/{self.study.pk}/series")
        work()
        self.assertEqual(StudySeries.objects.get().taken, taken)
        for number in range(2):
            self.drop("quill24", 800, number)
        work()
        self.assertEqual(self.series(self.study)["state"], "ready")
        self.assertEqual(isos(), [400, 800, 1600, 6400])

    def test_it_tells_how_far_it_is_and_stops_once_it_is_cancelled(self) -> None:
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        work()
        StudySeries.objects.all().delete()
        self.owner.post(f"/api/studies/{self.study.pk}/series")
        job = Job.objects.get(kind="series", state=State.QUEUED)
        seen: list[str] = []

        def heard(progress: Progress, share: float, message: str) -> None:
            seen.append(message)
            if message == "reading raw file 3 of 12":
                self.owner.post(f"/api/jobs/{job.pk}/cancel")
            told(progress, share, message)

        told = Progress.tell
        with mock.patch.object(Progress, "tell", heard):
            work()
        job.refresh_from_db()
        self.assertEqual(job.state, State.CANCELLED)
        self.assertEqual(seen[-1], "reading raw file 3 of 12")
        told = self.series(self.study)
        self.assertEqual((told["state"], told["found"]), ("failed", None))
        self.assertIn("It was cancelled", told["problem"])

    def test_a_spot_that_can_not_be_read_stands_in_nobody_elses_way(self) -> None:
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        self.draw(self.study, *SPOTS[0])
        self.draw(self.study, "A dot", "flat", 300, 200, 4, 4)
        work()
        told = self.series(self.study)
        self.assertEqual((told["state"], told["problem"]), ("ready", ""))
        for body in told["found"]["bodies"]:
            sky, dot = body["spots"]
            self.assertEqual((len(sky["readings"]), len(dot["readings"])), (3, 0))
            self.assertIn("too small", dot["left_out"][0])

    def test_what_can_not_be_taken_is_refused_with_what_to_do(self) -> None:
        cases = (
            # bodies, code, words
            (("Corvane Quill 24", "Corvane Quill 24"), 400, "two bodies or more"),
            (("Corvane Quill 24", "Lull Two"), 400, "Lull Two: no raw file of this scene"),
        )
        for bodies, code, words in cases:
            with self.subTest(words):
                self.assertIn(words, str(self.take(self.study, *bodies, code=code)))
        of_tools = self.ask("tool")
        pair = ("Corvane Quill 24", "Corvane Quill 33")
        self.assertIn("Change that first", str(self.take(of_tools, *pair, code=400)))
        self.take(self.study, *pair)
        self.assertIn(
            "holds others against Corvane Quill 24 already",
            str(self.take(self.study, *pair[::-1], code=400)),
        )
        self.assertFalse(Job.objects.filter(state=State.FAILED).exists())

    def test_a_damaged_file_says_so_by_its_name_and_the_rest_is_compared_once_it_is_gone(
        self,
    ) -> None:
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        self.draw(self.study, *SPOTS[0])
        frame = Frame.objects.get(file_name="quill24-1600-1.dng")
        kept = Path(self.path_of(frame))
        kept.chmod(0o600)
        whole = kept.read_bytes()
        kept.write_bytes(whole[: len(whole) // 3])
        self.addCleanup(kept.write_bytes, whole)
        work()
        told = self.series(self.study)
        self.assertEqual(told["state"], "failed")
        self.assertIn("quill24-1600-1.dng", told["problem"])
        self.owner.post(f"/api/studies/{self.study.pk}/series")
        self.assertEqual(self.owner.delete(f"/api/frames/{frame.pk}").status_code, 204)
        self.owner.post(f"/api/studies/{self.study.pk}/series")
        work()
        self.assertEqual(self.series(self.study)["state"], "ready")

    def path_of(self, frame: Frame) -> str:
        from django.core.files.storage import storages

        return storages["originals"].path(frame.picture.file.path)


class Sensors(SeriesTest):
    def measured(self) -> Any:
        return self.owner.get(f"/api/bodies/{self.body_id}/measured").json()

    def test_a_bodys_sensor_is_measured_from_its_raw_files_and_is_old_once_others_come(
        self,
    ) -> None:
        told = self.measured()
        self.assertEqual((told["state"], told["frames"], told["found"]), ("none", 0, None))
        refused = self.owner.post(f"/api/bodies/{self.body_id}/measured")
        self.assertEqual(refused.status_code, 400)
        self.assertIn("Bring in pairs", refused.json()["detail"])
        self.drop_series("quill24")
        self.drop("quill24", 400, 0, dark=True)
        lone = self.drop("quill24", 400, 1, dark=True)
        work()
        self.owner.post(f"/api/bodies/{self.body_id}/measured")
        self.assertEqual(self.measured()["state"], "waiting")
        work()
        told = self.measured()
        self.assertEqual((told["state"], told["frames"], told["alone"]), ("ready", 8, []))
        body, at = BODIES["quill24"], told["found"]["isos"][0]
        self.assertEqual(at["iso"], 400)
        self.assertEqual(len(at["files"]), 4)
        low, high = at["read_noise"][1:]
        self.assertTrue(low <= body.read_noise[0] * 1.03 and high >= body.read_noise[0] * 0.97)
        # Hot pixels of the body lie above the black that the file tells.
        self.assertLess(abs(at["black_moved"]), 0.5)
        self.assertIn("frames or more with the cap on", at["no_pattern"])
        self.owner.patch(f"/api/frames/{lone}", {"kind": "scene"}, JSON)
        self.assertEqual(self.measured()["state"], "old")

    def test_a_frame_of_a_study_shows_a_scene(self) -> None:
        self.drop_series("quill24", "quill33")
        work()
        study = self.ask()
        self.take(study, "Corvane Quill 24", "Corvane Quill 33")
        frame = study.study_frames.all()[0].frame_id
        answer = self.owner.patch(f"/api/frames/{frame}", {"kind": "dark"}, JSON)
        self.assertEqual(answer.status_code, 409)
        self.assertIn("part of a study", answer.json()["detail"])


class Published(SeriesTest):
    """An edition of a study of bodies, and what its reader finds out."""

    def setUp(self) -> None:
        super().setUp()
        self.drop_series("quill24", "quill33")
        work()
        self.study = self.ask()
        self.take(self.study, "Corvane Quill 24", "Corvane Quill 33")
        for spot in SPOTS:
            self.draw(self.study, *spot)
        frames = list(Frame.objects.values_list("pk", flat=True))
        self.owner.post("/api/frames/terms", {"frames": frames, **TERMS}, JSON)
        work()

    def publish(self) -> dict[str, bytes]:
        self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": "."}, JSON)
        work()
        edition = Edition.objects.latest("pk")
        pack = zipfile.ZipFile(stream_of(self.owner.get(f"{edition.address}everything.zip")))
        return {name: pack.read(name) for name in pack.namelist()}

    def verify(self, files: dict[str, bytes]) -> tuple[int, str]:
        sums = "".join(
            f"{hashlib.sha256(data).hexdigest()}  {name}\n"
            for name, data in files.items()
            if name != "SHA256SUMS"
        )
        path = Path(self.enterContext(tempfile.TemporaryDirectory())) / "bundle.zip"
        with zipfile.ZipFile(path, "w") as pack:
            for name, data in (files | {"SHA256SUMS": sums.encode()}).items():
                pack.writestr(name, data)
        told = io.StringIO()
        with contextlib.redirect_stdout(told):
            status = main(["verify", str(path), "--json"])
        return status, told.getvalue()

    def test_an_edition_tells_who_is_ahead_and_its_reader_works_it_out_again(self) -> None:
        files = self.publish()
        document = json.loads(files["report/edition.json"])
        schema = json.loads(files["report/edition.schema.json"])
        self.assertEqual(list(Draft202012Validator(schema).iter_errors(document)), [])
        series = document["series"]
        self.assertEqual([b["letter"] for b in series["bodies"]], ["A", "B"])
        self.assertEqual(len(series["files"]), 12)
        page = files["report/index.html"].decode()
        for ahead in series["ahead"]:
            self.assertIn(escape(ahead["said"]), page)
        self.assertEqual(page.count("<polyline"), 4)
        self.assertIn("Corvane Quill 24 over Corvane Quill 33", page)
        status, told = self.verify(files)
        self.assertEqual(
            status, 0, [o for o in json.loads(told)["others"] if o["state"] != "unchecked"]
        )
        series["bodies"][1]["spots"][0]["readings"][0]["snr"] = [500.0, 490.0, 510.0]
        wrong = files | {"report/edition.json": json.dumps(document).encode()}
        status, told = self.verify(wrong)
        self.assertNotEqual(status, 0)
        self.assertIn("the ratios give others", told)

    def test_speeds_are_printed_and_worked_out_again(self) -> None:
        self.meter(self.study, 204, luminance=80.0, t_numbers={"Corvane Quill 33": 4.2})
        files = self.publish()
        document = json.loads(files["report/edition.json"])
        schema = json.loads(files["report/edition.schema.json"])
        self.assertEqual(list(Draft202012Validator(schema).iter_errors(document)), [])
        page = files["report/index.html"].decode()
        self.assertIn("at 80.0 cd/m²", page)
        self.assertIn("No T-number of its lens is given.", page)
        status, told = self.verify(files)
        self.assertEqual(status, 0, told)
        document["series"]["speeds"][1]["isos"][0]["speed"][0] *= 1.01
        files["report/edition.json"] = json.dumps(document).encode()
        status, told = self.verify(files)
        self.assertEqual(status, 1, told)
        self.assertIn("its brightness gives others", told)

    def test_what_is_out_of_date_is_asked_about_and_left_out(self) -> None:
        self.publish()
        patch = self.study.patches.get(name="Sky")
        place = {"name": "Sky", "role": "flat", "x": 60, "y": 30, "w": 120, "h": 80}
        self.owner.put(f"/api/patches/{patch.pk}", place, JSON)
        Job.objects.filter(kind="series", state=State.QUEUED).delete()
        work()
        report = self.owner.get(f"/api/studies/{self.study.pk}/report").json()
        self.assertIn("series", [q["id"] for q in report["asked"]])
        self.assertIsNone(json.loads(self.publish()["report/edition.json"])["series"])
