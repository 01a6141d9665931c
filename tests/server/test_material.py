"""Test material through the API: bodies, truths made here, targets painted and found."""

from __future__ import annotations

import io
import tempfile
from pathlib import Path
from typing import Any

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.picture import Facts, Floats
from glenhail.core.sensor.size import SensorSize
from glenhail.core.targets.layout import paint, sheet_of
from glenhail.server.jobs.models import Job, State
from glenhail.server.material.models import Finding, Frame, Scene, Target
from glenhail.standins.camera import BODIES, expose, write_dng
from tests.pictures import facts as plain_facts
from tests.pictures import photograph as reference
from tests.server.base import ServerTest, stream_of, work

JSON = "application/json"
SENSOR = Sensor(42_000, 3.6)
M24 = {
    "name": "Corvane Quill 24",
    "width_mm": 35.9,
    "height_mm": 23.9,
    "width": 6000,
    "height": 4000,
    "cfa": "Bayer",
    "full_well": 42_000,
    "read_noise": 4.4,
    "second_gain_iso": 640,
    "second_read_noise": 2.1,
}
SHEET = {"width": 900, "height": 640, "fields": [{"kind": "edges"}, {"kind": "wedge", "steps": 6}]}


def shot(linear: Floats, **told: Any) -> bytes:
    """A TIFF with shooting facts."""
    given: Facts = plain_facts()
    values = {**given.__dict__, "camera": "Corvane Quill 24", **told}
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shot.tif"
        write_tiff(path, linear, Facts(**values))
        return path.read_bytes()


class Prints(ServerTest):
    def test_a_print_is_reckoned_and_nonsense_refused(self) -> None:
        plan = self.owner.get("/api/prints?width=6000&height=4000&ppi=300&longer_cm=101.6").json()
        self.assertAlmostEqual(plan["size"]["width_cm"], 50.8)
        self.assertAlmostEqual(plan["factor"], 2.0)
        self.assertIn("Changing ppi alone changes no pixel.", plan["said"][0])
        for query in ("ppi=0", "ppi=nan", "longer_cm=1e99", "distance_cm=far"):
            with self.subTest(query):
                answer = self.owner.get(f"/api/prints?{query}")
                self.assertEqual(answer.status_code, 400, answer.content)


class Material(ServerTest):
    def add(self, name: str, raw: bytes) -> int:
        return int(
            self.owner.post("/api/frames", {"file": SimpleUploadedFile(name, raw)}).json()["id"]
        )

    def series(self, isos: tuple[int, ...], scene: Floats | None = None) -> list[int]:
        light = (reference("china") if scene is None else scene) * np.float32(0.8)
        made = [
            self.add(f"iso{iso}-{i}.tif", shot(photograph(light, SENSOR, iso, i), iso=iso))
            for i, iso in enumerate(isos)
        ]
        work()
        return made

    def test_a_body_tells_what_follows_from_its_sensor_and_refuses_a_slip(self) -> None:
        body = self.owner.post("/api/bodies", M24, JSON).json()
        # By hand: 35.9 mm / 6,000 px = 5.98 um; 24 MP; 1000 / (2 x 5.98) = 83.6 lp/mm.
        self.assertAlmostEqual(body["pitch_um"], 5.983, delta=0.001)
        self.assertAlmostEqual(body["nyquist"], 83.57, delta=0.01)
        self.assertAlmostEqual(body["megapixels"], 24.0, delta=1e-9)
        self.assertAlmostEqual(SensorSize(23.6, 15.7, 6000, 4000).crop_factor, 1.526, delta=0.001)
        self.assertEqual(self.owner.post("/api/bodies", M24, JSON).status_code, 409)
        for change, words in (
            ({"width": 600}, "not square"),
            ({"width_mm": -1}, "Width mm: a number from 1 to 200"),
            ({"cfa": "none such"}, "cfa"),
            ({"name": " "}, "name"),
            ({"read_noise": 1e9}, "Read noise: a number"),
        ):
            with self.subTest(words):
                self.assertIn(
                    words,
                    self.owner.put(f"/api/bodies/{body['id']}", M24 | change, JSON).json()[
                        "detail"
                    ],
                )
        self.assertEqual(
            self.client_of("viewer").post("/api/bodies", M24 | {"name": "B"}, JSON).status_code, 403
        )
        self.assertEqual(
            self.client_of("stranger").delete(f"/api/bodies/{body['id']}").status_code, 404
        )
        self.assertEqual(self.owner.delete(f"/api/bodies/{body['id']}").status_code, 204)

    def test_a_base_iso_frame_becomes_the_truth_of_a_series_and_says_how(self) -> None:
        base, low, high = self.series((100, 1600, 12_800))
        answer = self.owner.post("/api/twins", {"base": base, "frames": [low, high]}, JSON)
        self.assertEqual((answer.status_code, answer.json()), (202, {"jobs": 2}))
        work()
        frame = self.owner.get(f"/api/frames/{high}").json()
        self.assertEqual(
            (frame["truth_made"]["kind"], frame["truth_made"]["frames"]), ("twin", ["iso100-0"])
        )
        self.assertRegex(
            frame["truth_made"]["words"],
            r"iso100-0, lined up to 0\.\d\d px .* EV taken off; 0\.0\d % differs",
        )
        self.assertEqual(frame["truth"]["state"], "ready")
        dropped = self.owner.delete(f"/api/frames/{high}/truth").json()
        self.assertEqual((dropped["truth"], dropped["truth_made"]), (None, None))
        for pair, words in (
            ((low, [base]), "the lower ISO"),
            ((low, [low]), "its own truth"),
            ((high, [low]), "lower ISO"),
        ):
            refused = self.owner.post("/api/twins", {"base": pair[0], "frames": pair[1]}, JSON)
            self.assertEqual(
                (refused.status_code, words in refused.json()["detail"]),
                (409, True),
                refused.json(),
            )

    def test_a_twin_of_a_moved_scene_ends_as_a_failed_job_that_says_where(self) -> None:
        walked_in = reference("china").copy()
        walked_in[200:280, 400:470] *= np.float32(0.5)
        (base,) = self.series((100,), walked_in)
        (high,) = self.series((6400,))
        self.owner.post("/api/twins", {"base": base, "frames": [high]}, JSON)
        work()
        job = Job.objects.get(kind="twin")
        self.assertEqual(job.state, State.FAILED)
        self.assertRegex(job.problem, r"iso100-0.tif: the scene moved .* around 4\d\d, 2\d\d px")
        self.assertIsNone(Frame.objects.get(pk=high).truth)

    def test_the_mean_of_a_burst_becomes_the_truth_of_each_frame(self) -> None:
        frames = self.series((3200,) * 4)
        self.assertEqual(self.owner.post("/api/bursts", {"frames": frames}, JSON).status_code, 202)
        work()
        rows = Frame.objects.filter(pk__in=frames)
        self.assertEqual(len({f.truth_id for f in rows}), 1)
        made = rows[0].truth_made
        assert made is not None
        self.assertIn("mean of 4 frames", made["words"])
        self.assertEqual(len(made["numbers"]["noises"]), 4)
        self.assertIn(
            "2 were chosen",
            self.owner.post("/api/bursts", {"frames": frames[:2]}, JSON).json()["detail"],
        )

    def test_a_target_is_painted_and_found_in_what_was_made_or_shot_of_it(self) -> None:
        target = self.owner.post(
            "/api/targets", {"name": "Wall target", "sheet": SHEET}, JSON
        ).json()
        self.assertEqual((target["frame"], len(target["words"])), (None, 2))
        work()
        target = self.owner.get("/api/targets").json()[0]
        self.assertEqual((target["picture"]["width"], target["found"]), (900, 1))
        scene = Scene.objects.get(name="Target: Wall target")
        self.assertEqual(len((scene.known or {})["edges"]), 4)
        # Shot from further away, in noise.
        sheet = sheet_of(SHEET)
        wide = np.full((900, 1200, 3), 0.1, np.float32)
        wide[120:760, 180:1080] = paint(sheet)
        frame = self.add("shot.tif", shot(photograph(wide, SENSOR, 800, 1), iso=800))
        work()
        detail = self.owner.get(f"/api/frames/{frame}").json()
        found = detail["finding"]
        edges = {
            r["name"]: r["value"]
            for r in found["readings"]
            if r["unit"] == "cycles/px" and r["value"] is not None
        }
        self.assertEqual({s["name"] for s in detail["system"]["sharpness"]}, {*edges})
        height = min(detail["picture"]["width"], detail["picture"]["height"])
        for one in detail["system"]["sharpness"]:
            self.assertAlmostEqual(one["per_height"], edges[one["name"]] * height)
            self.assertIsNone(one["per_mm"])
        self.assertEqual(
            (found["name"], round(found["turn"], 1), round(found["scale"], 2)),
            ("Wall target", 0.0, 1.0),
        )
        np.testing.assert_allclose(
            found["corners"], [[180, 120], [1080, 120], [1080, 760], [180, 760]], atol=0.3
        )
        right = next(r for r in found["readings"] if r["name"] == "MTF50, right edge")
        self.assertAlmostEqual(right["value"], 0.18739 / 0.6, delta=0.02)
        self.assertTrue(right["low"] <= right["value"] <= right["high"])
        self.assertEqual(
            self.owner.post("/api/targets", {"name": "Again", "sheet": SHEET}, JSON).status_code,
            409,
        )
        preview = self.owner.post("/api/targets/preview", {"sheet": SHEET}, JSON)
        self.assertEqual(preview["Content-Type"], "image/png")
        bad = self.owner.post("/api/targets/preview", {"sheet": SHEET | {"width": 3}}, JSON)
        self.assertEqual(
            (bad.status_code, "from 400 to 12,000" in bad.json()["detail"]), (400, True)
        )

    def test_a_target_goes_with_all_that_was_found_of_it_unless_a_study_uses_it(self) -> None:
        self.owner.post("/api/targets", {"name": "T", "sheet": SHEET}, JSON)
        work()
        target = Target.objects.get()
        refused = self.owner.delete(f"/api/frames/{target.frame_id}")
        self.assertIn("painted target", refused.json()["detail"])
        study = self.owner.post(
            "/api/studies", {"question": "Which?", "factor": "tool"}, JSON
        ).json()["id"]
        self.owner.post(f"/api/studies/{study}/frames", {"frame": target.frame_id}, JSON)
        self.assertEqual(
            self.owner.get(f"/api/frames/{target.frame_id}").json()["used_in"],
            [{"id": study, "question": "Which?"}],
        )
        self.assertEqual(self.owner.delete(f"/api/targets/{target.pk}").status_code, 409)
        self.assertTrue(Target.objects.exists())
        self.owner.delete(f"/api/studies/{study}/frames/{target.frame_id}")
        self.assertEqual(self.owner.delete(f"/api/targets/{target.pk}").status_code, 204)
        self.assertEqual(
            (Frame.objects.count(), Finding.objects.count(), Scene.objects.count()), (0, 0, 0)
        )

    def test_patches_are_drawn_over_the_fields_of_a_found_target_and_measured(self) -> None:
        self.owner.post("/api/targets", {"name": "T", "sheet": SHEET}, JSON)
        work()
        frame = Target.objects.get().frame_id
        study = self.owner.post(
            "/api/studies", {"question": "Which?", "factor": "tool"}, JSON
        ).json()["id"]
        self.owner.post(f"/api/studies/{study}/frames", {"frame": frame}, JSON)
        drawn = self.owner.post(f"/api/studies/{study}/frames/{frame}/target-patches").json()
        self.assertEqual([p["role"] for p in drawn], ["edge", "edge", "flat", "shadow", "shadow"])
        self.assertEqual(
            self.owner.post(f"/api/studies/{study}/frames/{frame}/target-patches").json(), []
        )
        work()
        readings = self.owner.get(f"/api/studies/{study}/readings").json()["readings"]
        edge = next(r for r in readings if r["measure"] == "mtf50" and r["patch"] == drawn[0]["id"])
        self.assertAlmostEqual(edge["value"], 0.18739 / 0.6, delta=0.01)
        plain = self.make_study()
        refused = self.owner.post(
            f"/api/studies/{plain.pk}/frames/{plain.study_frames.get().frame_id}/target-patches"
        )
        self.assertIn("No target was found", refused.json()["detail"])

    def test_targets_are_looked_for_again_in_frames_that_came_before_them(self) -> None:
        frame = self.add("early.tif", shot(paint(sheet_of(SHEET))))
        work()
        self.assertIsNone(self.owner.get(f"/api/frames/{frame}").json()["finding"])
        self.owner.post("/api/targets", {"name": "T", "sheet": SHEET | {"blur": 0.7}}, JSON)
        self.owner.post("/api/targets", {"name": "U", "sheet": SHEET}, JSON)
        work()
        self.assertEqual(self.owner.post("/api/targets/look", None, JSON).json()["jobs"], 1)
        work()
        self.assertEqual(self.owner.get(f"/api/frames/{frame}").json()["finding"]["name"], "U")

    def test_a_raw_frame_is_had_as_the_tiff_that_tools_are_given(self) -> None:
        body = BODIES["quill24"]
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.dng"
            write_dng(path, expose(reference("china"), body, 400, 1), body, {"iso": 400})
            developed, raw = read_picture(path).pixels, path.read_bytes()
            frame = Frame.objects.get(pk=self.add("a.dng", raw))
            address = f"/api/pictures/{frame.picture_id}/as"
            self.assertIn("not ready", self.owner.post(f"{address}/tif").json()["detail"])
            work()
            for ending in ("tif", "png"):
                self.assertEqual(self.owner.post(f"{address}/{ending}").json(), {"ready": False})
                self.assertEqual(self.owner.get(f"{address}/{ending}").status_code, 404)
                work()
                self.assertEqual(
                    self.client_of("viewer").post(f"{address}/{ending}").json(), {"ready": True}
                )
                answer = self.owner.get(f"{address}/{ending}")
                self.assertIn(f"a-16bit.{ending}", answer["Content-Disposition"])
                (Path(folder) / f"made.{ending}").write_bytes(stream_of(answer).read())
                made = read_picture(Path(folder) / f"made.{ending}")
                np.testing.assert_allclose(made.pixels, developed.clip(0, 1), atol=3e-5)
            self.assertEqual(read_picture(Path(folder) / "made.tif").facts.iso, 400)
        self.assertIn("tif, png", self.owner.post(f"{address}/gif").json()["detail"])
        self.assertEqual(self.client_of("stranger").post(f"{address}/tif").status_code, 404)

    def test_an_original_is_downloaded_as_it_came_by_members_only(self) -> None:
        raw = shot(reference("china")[:64, :64])
        frame = Frame.objects.get(pk=self.add("small.tif", raw))
        answer = self.client_of("viewer").get(f"/api/pictures/{frame.picture_id}/original")
        self.assertEqual(stream_of(answer).read(), raw)
        self.assertIn('attachment; filename="small.tif"', answer["Content-Disposition"])
        self.assertEqual(
            self.client_of("stranger")
            .get(f"/api/pictures/{frame.picture_id}/original")
            .status_code,
            404,
        )
        with tempfile.NamedTemporaryFile(suffix=".tif") as kept:
            kept.write(io.BytesIO(raw).read())
            kept.flush()
            self.assertEqual(read_picture(Path(kept.name)).facts.camera, "Corvane Quill 24")
