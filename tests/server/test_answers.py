"""Answers through the API: sentences that lead to readings, standings, trade-offs,
curves, suggested and spread patches.
"""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

import numpy as np
import scipy.ndimage
from django.core.files.uploadedfile import SimpleUploadedFile

from glenhail.core.files.encoding import write_tiff
from glenhail.core.picture import Floats
from glenhail.server.jobs.models import Job
from glenhail.server.material.models import Frame, Scene
from glenhail.server.measuring.models import Reading
from tests.pictures import noisy, photograph
from tests.server.base import ServerTest, upload, work

TURN = {"better": "worse", "worse": "better"}


class Answers(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.client = self.owner
        self.study = self.send("/api/studies", {"question": "Which?", "factor": "tool"})["id"]
        self.frame = self.client.post("/api/frames", upload("frame")).json()["id"]
        self.client.post(f"/api/frames/{self.frame}/truth", upload("truth"))
        self.send(f"/api/studies/{self.study}/frames", {"frame": self.frame}, 204)
        for tool, copied in (("Soft", False), ("Copy", True)):
            steps = [{"tool": tool, "release": "1", "mode": "", "strength": 60, "settings": []}]
            entered = self.send(f"/api/studies/{self.study}/contenders", {"steps": steps})["id"]
            made = self.file(
                scipy.ndimage.gaussian_filter(noisy(photograph("china"), 900), (0.8, 0.8, 0))
            )
            made = upload("frame", "copy.tif") if copied else made
            self.client.post(f"/api/contenders/{entered}/outputs/{self.frame}", made)
        for name, role, x, y, w, h in (
            ("Sky", "flat", 20, 20, 90, 60),
            ("Roof", "texture", 200, 150, 160, 160),
        ):
            patch = {
                "frame": self.frame,
                "name": name,
                "role": role,
                "x": x,
                "y": y,
                "w": w,
                "h": h,
            }
            self.send(f"/api/studies/{self.study}/patches", patch)
        work()

    def file(self, pixels: Floats) -> dict[str, SimpleUploadedFile]:
        """A form with a picture."""
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "made.tif"
            write_tiff(path, pixels)
            return {"file": SimpleUploadedFile("made.tif", path.read_bytes())}

    def send(self, path: str, given: object, code: int = 201) -> dict[str, int]:
        answer = self.client.post(path, given, "application/json")
        self.assertEqual(answer.status_code, code, answer.content)
        return answer.json() if answer.content else {}

    def read(self, path: str, **query: object) -> object:
        answer = self.client.get(f"/api/studies/{self.study}/{path}", query)
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def test_sentences_lead_to_the_readings_they_were_made_from(self) -> None:
        told = self.read("answers")
        assert isinstance(told, dict)
        soft = next(f for f in told["findings"] if f["letter"] == "A")
        noise = next(s for s in soft["sentences"] if s["measure"] == "noise_luma")
        self.assertIn(
            "of the frame's brightness noise in plain parts; the others 100 %", noise["text"]
        )
        self.assertEqual(noise["tone"], "good")
        for sentence in soft["sentences"]:
            for pk in sentence["readings"]:
                reading = self.client.get(f"/api/readings/{pk}").json()
                self.assertEqual(reading["measure"], sentence["measure"])
        self.assertEqual(len(told["thresholds"]), len({t["measure"] for t in told["thresholds"]}))

    def test_standings_say_who_wins_where_and_that_a_copy_of_the_frame_is_no_different(
        self,
    ) -> None:
        rows = self.read("standings", measure="psnr")
        assert isinstance(rows, list)
        every = {r["letter"]: r for r in rows if r["by"] == "all"}
        self.assertEqual(every["A"]["middle"]["count"], 3)
        against = {a["letter"]: a for a in every["A"]["against"]}
        self.assertEqual((against["U"]["same"], against["U"]["places"]), (2, 3))
        flat = next(r for r in rows if r["letter"] == "A" and r["group"] == "flat")
        self.assertEqual(next(a["answer"] for a in flat["against"] if a["letter"] == "U"), "better")
        copy = {a["letter"]: a for a in every["B"]["against"]}
        self.assertEqual(copy["U"]["answer"], "no measurable difference")
        self.assertEqual(
            copy["A"]["counts"], {TURN[name]: n for name, n in against["U"]["counts"].items()}
        )
        self.assertEqual({r["group"] for r in rows if r["by"] == "role"}, {"flat", "texture"})
        refused = self.client.get(f"/api/studies/{self.study}/standings", {"measure": "beauty"})
        self.assertIn(b"beauty", refused.content)
        self.assertEqual(refused.status_code, 400)

    def test_noise_against_detail_with_the_even_blends(self) -> None:
        told = self.read("tradeoff", x="noise_luma", y="detail_kept")
        assert isinstance(told, dict)
        self.assertEqual({p["letter"] for p in told["points"]}, {"U", "A", "B"})
        blend = next(b for b in told["blends"] if b["letter"] == "A")
        points = {p["letter"]: p for p in told["points"]}
        for letter, end in (("U", 0), ("A", -1)):
            self.assertAlmostEqual(blend["x"][end], points[letter]["x"]["value"], places=6)
            self.assertAlmostEqual(blend["y"][end], points[letter]["y"]["value"], places=6)
        self.assertIn("A", told["front"])

    def test_curves_of_a_patch_come_with_their_intervals(self) -> None:
        roof = next(
            p
            for p in self.client.get(f"/api/studies/{self.study}").json()["patches"]
            if p["name"] == "Roof"
        )
        curves = self.read("curves", patch=roof["id"])
        assert isinstance(curves, list)
        self.assertEqual({c["curve"] for c in curves}, {"texture"})
        self.assertTrue(all(len(c["x"]) == len(c["y"]) == len(c["error"]) for c in curves))
        self.assertEqual(
            self.client.get(f"/api/studies/{self.study}/curves", {"patch": 99999}).status_code, 404
        )

    def test_a_frame_suggests_patches_once_asked(self) -> None:
        path = f"/api/frames/{self.frame}/suggestions"
        self.assertEqual(self.client.get(path).json(), {"ready": False, "suggestions": []})
        self.send(path, {}, 204)
        work()
        told = self.client.get(path).json()
        self.assertTrue(told["ready"])
        self.assertIn("edge", {s["role"] for s in told["suggestions"]})
        jobs = Job.objects.count()
        self.send(path, {}, 204)
        self.assertEqual(Job.objects.count(), jobs)
        self.assertEqual(self.client_of("viewer").post(path).status_code, 403)

    def test_a_patch_goes_over_to_the_other_frames_of_its_scene(self) -> None:
        made = scipy.ndimage.gaussian_filter(np.full((427, 640, 3), 0.3, np.float32), 1)
        made[100:, 200:] = 0.6
        second = self.client.post("/api/frames", self.file(made)).json()["id"]
        self.send(f"/api/studies/{self.study}/frames", {"frame": second}, 204)
        work()
        patch = next(
            p
            for p in self.client.get(f"/api/studies/{self.study}").json()["patches"]
            if p["name"] == "Sky"
        )
        spread = f"/api/patches/{patch['id']}/spread"
        refused = self.client.post(spread)
        self.assertEqual(refused.status_code, 409)
        self.assertIn("belongs to no scene", json.dumps(refused.json()))
        scene = Scene.objects.create(bench=Frame.objects.get(pk=second).bench, name="Yard")
        Frame.objects.filter(pk__in=[self.frame, second]).update(scene=scene)
        drawn = self.send(spread, {})
        self.assertEqual([(p["frame"], p["name"], p["x"]) for p in drawn], [(second, "Sky", 20)])  # type: ignore[index]
        self.assertEqual(self.client.post(spread).status_code, 409)
        work()
        self.assertTrue(
            Reading.objects.filter(
                patch__frame=second, measure="noise_luma", value__isnull=False
            ).exists()
        )

    def test_moving_one_patch_takes_its_readings_again_and_no_others(self) -> None:
        before = dict(Reading.objects.values_list("pk", "taken"))
        patch = next(
            p
            for p in self.client.get(f"/api/studies/{self.study}").json()["patches"]
            if p["name"] == "Sky"
        )
        self.client.put(f"/api/patches/{patch['id']}", {**patch, "x": 30}, "application/json")
        work()
        again = [
            pk
            for pk, taken in Reading.objects.values_list("pk", "taken")
            if before.get(pk) != taken
        ]
        # The noise that detail of the frame is told beside comes from the flat patches.
        others = Reading.objects.filter(pk__in=again).exclude(measure="detail_frame")
        self.assertEqual(set(others.values_list("patch", flat=True)), {patch["id"]})

    def test_readings_come_with_ranks_by_one_rule_and_the_unprocessed_frame_has_none(self) -> None:
        told = self.read("readings")
        assert isinstance(told, dict)
        self.assertIn("Holm 1979", told["rule_of_ranks"])
        best = {m["id"]: (m["best"], m["target"]) for m in told["measures"]}
        self.assertEqual(
            (best["psnr"], best["detail_kept"]), (("highest", None), ("nearest 100 %", 100.0))
        )
        unprocessed = next(
            c["id"]
            for c in self.client.get(f"/api/studies/{self.study}").json()["contenders"]
            if c["letter"] == "U"
        )
        self.assertEqual(
            {r["rank"] for r in told["readings"] if r["contender"] == unprocessed}, {None}
        )
        noise = {
            r["contender"]: r
            for r in told["readings"]
            if r["measure"] == "noise_luma" and r["rank"]
        }
        self.assertEqual(sorted(r["rank"] for r in noise.values()), [1, 2])
        self.assertFalse(any(r["tied"] for r in noise.values()))
        lines = (
            self.client.get(f"/api/studies/{self.study}/readings.csv").content.decode().splitlines()
        )
        self.assertIn("rank,tied,unsure", lines[0])

    def test_a_flat_patch_with_something_in_it_is_doubted_and_has_reasons_in_place_of_numbers(
        self,
    ) -> None:
        patch = {
            "frame": self.frame,
            "name": "Roofs",
            "role": "flat",
            "x": 300,
            "y": 200,
            "w": 120,
            "h": 120,
        }
        made = self.send(f"/api/studies/{self.study}/patches", patch)
        self.assertEqual(made["doubt"], "")
        work()
        there = next(
            p
            for p in self.client.get(f"/api/studies/{self.study}").json()["patches"]
            if p["id"] == made["id"]
        )
        self.assertTrue(there["doubt"])
        noise = Reading.objects.filter(patch=made["id"], measure="noise_luma")
        self.assertEqual(
            noise.filter(value__isnull=True, reason__contains="not plain").count(), noise.count()
        )
        # Moved onto the sky it is plain again, and is measured.
        self.client.put(
            f"/api/patches/{made['id']}",
            {**there, "x": 25, "y": 25, "w": 80, "h": 50},
            "application/json",
        )
        work()
        self.assertTrue(noise.filter(value__isnull=False).exists())

    def test_suggestions_say_which_outputs_do_not_show_them(self) -> None:
        path = f"/api/frames/{self.frame}/suggestions"
        self.send(path, {}, 204)
        work()
        plain = self.client.get(path, {"study": self.study}).json()["suggestions"]
        self.assertTrue(all(s["not_in"] == [] for s in plain))
        cut = noisy(photograph("china"), 900)[:, 50:]
        entered = self.send(
            f"/api/studies/{self.study}/contenders",
            {"steps": [{"tool": "Cropper", "release": "1", "settings": []}]},
        )["id"]
        self.client.post(f"/api/contenders/{entered}/outputs/{self.frame}", self.file(cut))
        work()
        told = self.client.get(path, {"study": self.study}).json()["suggestions"]
        for s in told:
            if s["x"] < 48:
                self.assertEqual(s["not_in"], ["C"], s)
        self.assertEqual({"C"}, {letter for s in told for letter in s["not_in"]})
        self.assertTrue(any(not s["not_in"] for s in told), told)
        for wrong in ("²", "-1", "x"):
            self.assertEqual(self.client.get(path, {"study": wrong}).status_code, 200)
