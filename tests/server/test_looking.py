"""Full-depth tiles, planes and differences through the API."""

from __future__ import annotations

import io
import os
import time
from pathlib import Path
from typing import Any

import numpy as np
from django.core.files.storage import storages
from django.test import override_settings
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.core.files.full_depth import BLACK, SPAN, encoded_of
from glenhail.core.looking.differences import Kind, difference
from glenhail.core.looking.planes import MADE, Plane
from glenhail.server.jobs.models import Job
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Picture
from glenhail.server.outputs.models import Output
from glenhail.server.storage.bounded import keep_under
from glenhail.server.viewing.differences import NONE, SCALES
from tests.server.base import ServerTest, upload, work
from tests.server.test_hostile_calls import JSON


class Looking(ServerTest):
    def steps(self, path: str, height: int, width: int, planes: int = 3) -> np.ndarray:
        """A tile's numbers, shape (planes, height, width); made first where it must be."""
        answer = self.owner.get(path)
        if answer.status_code == 503:
            work()
            answer = self.owner.get(path)
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        return np.frombuffer(answer.content, "<u2").reshape(planes, height, width)


class Tiles(Looking):
    def setUp(self) -> None:
        super().setUp()
        self.owner.post("/api/frames", upload("frame"))
        work()
        self.picture = Picture.objects.get()
        self.base = f"/api/pictures/{self.picture.pk}/full-depth"

    def test_the_copy_is_made_when_it_is_first_asked_for(self) -> None:
        storages["derived"].delete(self.picture.full_depth)
        answer = self.owner.get(f"{self.base}/0/0_0")
        self.assertEqual(answer.status_code, 503)
        self.assertIn("full depth", answer.json()["detail"])
        self.owner.get(f"{self.base}/0/0_0")
        self.assertEqual(Job.objects.filter(kind="full depth").count(), 1)
        work()
        answer = self.owner.get(f"{self.base}/0/0_0")
        self.assertEqual(answer.status_code, 200)
        self.assertIn("immutable", answer.headers["Cache-Control"])

    def test_a_tile_holds_more_than_the_display_copy(self) -> None:
        steps = self.steps(f"{self.base}/0/1_0", 427, 128)
        want = srgb.encode(decoded(self.picture).pixels)[:, 512:].transpose(2, 0, 1)
        np.testing.assert_allclose(encoded_of(steps), want, atol=0.51 / SPAN)
        self.assertGreater(np.unique(steps).size, 5000)

    def test_planes_are_the_cores_about_the_middle_also_across_tiles(self) -> None:
        encoded = srgb.encode(decoded(self.picture).pixels)
        for plane in Plane:
            with self.subTest(plane):
                steps = self.steps(f"{self.base}/0/1_0?plane={plane}", 427, 128)
                want = MADE[plane](encoded)[:, 512:].transpose(2, 0, 1)
                found = (steps.astype(np.float64) - BLACK - SPAN / 2) / SPAN
                np.testing.assert_allclose(found, want, atol=4e-5)

    def test_a_part_is_what_its_tiles_hold_at_eight_bit_and_at_full_depth(self) -> None:
        self.steps(f"{self.base}/0/0_0", 427, 512)
        codes = srgb.to_display(decoded(self.picture).pixels)
        encoded = srgb.encode(decoded(self.picture).pixels)
        base = f"/api/pictures/{self.picture.pk}"
        # Over the border of two tiles, and at the picture's end.
        for x, y, w, h in ((480, 64, 96, 80), (608, 416, 32, 11), (0, 0, 512, 427)):
            with self.subTest(x=x, y=y):
                answer = self.owner.get(f"{base}/parts/{x}_{y}_{w}_{h}.png")
                self.assertIn("immutable", answer.headers["Cache-Control"])
                shown = np.asarray(Image.open(io.BytesIO(answer.content)))
                np.testing.assert_array_equal(shown, codes[y : y + h, x : x + w])
                steps = self.steps(f"{base}/full-depth/parts/{x}_{y}_{w}_{h}", h, w)
                want = encoded[y : y + h, x : x + w].transpose(2, 0, 1)
                np.testing.assert_allclose(encoded_of(steps), want, atol=0.51 / SPAN)
        for part in ("600_0_41_9", "0_420_9_8", "0_0_0_9", "0_0_513_9"):
            for path in (f"{base}/parts/{part}.png", f"{base}/full-depth/parts/{part}"):
                with self.subTest(path):
                    self.assertEqual(self.owner.get(path).status_code, 404)
        stranger = self.client_of("stranger")
        self.assertEqual(stranger.get(f"{base}/parts/0_0_9_9.png").status_code, 404)

    def test_what_is_not_there_and_what_is_not_known_is_said(self) -> None:
        for path, status in (("0/9_9", 404), ("7/0_0", 404), ("0/0_0?plane=nothing", 400)):
            with self.subTest(path):
                self.assertEqual(self.owner.get(f"{self.base}/{path}").status_code, status)

    def test_a_damaged_copy_is_made_again(self) -> None:
        whole = self.steps(f"{self.base}/0/0_0", 427, 512)
        path = Path(storages["derived"].path(self.picture.full_depth))
        with path.open("r+b") as file:
            file.truncate(1000)
        np.testing.assert_array_equal(self.steps(f"{self.base}/0/0_0", 427, 512), whole)

    def test_copies_longest_unused_make_room(self) -> None:
        self.steps(f"{self.base}/0/0_0", 427, 512)
        self.owner.post("/api/frames", upload("other"))
        work()
        first = self.picture
        self.picture = Picture.objects.exclude(pk=first.pk).get()
        old = storages["derived"].path(first.full_depth)
        os.utime(old, (time.time() - 3600,) * 2)
        with override_settings(FULL_DEPTH_BYTES=3_000_000):
            self.steps(f"/api/pictures/{self.picture.pk}/full-depth/0/0_0", 427, 512)
        there = [storages["derived"].exists(p.full_depth) for p in (first, self.picture)]
        self.assertEqual(there, [False, True])

    def test_nothing_is_removed_where_there_is_nothing(self) -> None:
        self.assertEqual(keep_under(storages["derived"], "no-such-folder", 0), [])


class Differences(Looking):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        self.contender = self.study.contenders.get(kind="treatment")
        self.frame = self.study.study_frames.get().frame
        work()

    def output(self, kind: str) -> Output:
        rows = Output.objects.filter(frame=self.frame, contender__study=self.study)
        return rows.get(contender__kind=kind)

    def less(self, query: str = "", level: int = 0, **of: Any) -> str:
        one, two = of.get("one", "treatment"), of.get("two", "unprocessed")
        one, two = (self.output(k).pk for k in (one, two))
        return f"/api/outputs/{one}/less/{two}/{level}/0_0{query}"

    def light(self, kind: str) -> np.ndarray:
        return decoded(self.output(kind).picture).pixels

    def test_each_kind_is_the_cores_over_the_frame(self) -> None:
        for kind in Kind:
            with self.subTest(kind):
                planes = 3 if kind == Kind.ABSOLUTE else 1
                steps = self.steps(self.less(f"?kind={kind}"), 427, 512, planes)
                zero, step = SCALES[kind]
                found = (steps.astype(np.float64) - zero) / step
                want = difference(self.light("treatment"), self.light("unprocessed"), kind)
                want = np.atleast_3d(want[:, :512]).transpose(2, 0, 1)
                # CIEDE2000 leaps where two hues are opposite, and colours near grey are.
                self.assertLessEqual(np.percentile(np.abs(found - want), 99.9), 0.06)
                for told in (np.mean, lambda v: np.percentile(v, 99)):
                    self.assertAlmostEqual(told(np.abs(found)), told(np.abs(want)), delta=0.01)

    def test_an_enlargement_is_brought_to_the_frames_pixels(self) -> None:
        self.owner.post(
            f"/api/contenders/{self.contender.pk}/outputs/{self.frame.pk}",
            upload("double", "out_A.tif"),
        )
        work()
        steps = self.steps(self.less(), 427, 512, 1).astype(np.float64)
        shown = steps[steps < NONE]
        self.assertGreater(shown.size, 0.98 * steps.size)
        # Enlarged and averaged back, it is the frame but for what Lanczos rounds off.
        self.assertLess(np.abs((shown - 32768) / 64).mean(), 6)

    def test_a_brighter_output_differs_until_it_is_matched(self) -> None:
        from glenhail.core.files.encoding import write_tiff

        path = Path(storages["derived"].path("brighter.tif"))
        write_tiff(path, np.clip(self.light("treatment") * 1.25, 0, 1))
        with path.open("rb") as file:
            self.owner.post(
                f"/api/contenders/{self.contender.pk}/outputs/{self.frame.pk}", {"file": file}
            )
        work()
        told = {}
        for match in ("none", "exposure", "exposure and tone"):
            steps = self.steps(self.less(f"?match={match}"), 427, 512, 1).astype(np.float64)
            told[match] = np.median((steps[steps < NONE] - 32768) / 64)
        self.assertGreater(told["none"], 8)
        self.assertLess(abs(told["exposure"]), 1)
        self.assertLess(abs(told["exposure and tone"]), 2)

    def test_coarser_levels_are_differences_of_means(self) -> None:
        steps = self.steps(self.less("?kind=brightness", level=1), 214, 320, 1)
        from glenhail.core.files.pyramid import halved

        one, two = (halved(self.light(k)) for k in ("treatment", "unprocessed"))
        want = difference(one, two, Kind.BRIGHTNESS)
        np.testing.assert_allclose((steps[0].astype(np.float64) - 32768) / 64, want, atol=0.1)

    def test_what_can_not_be_compared_says_why(self) -> None:
        other = self.owner.post("/api/frames", upload("other")).json()["id"]
        self.owner.post(f"/api/studies/{self.study.pk}/frames", {"frame": other}, JSON)
        work()
        one = self.output("treatment").pk
        two = Output.objects.get(contender__kind="unprocessed", frame_id=other).pk
        answer = self.owner.get(f"/api/outputs/{one}/less/{two}/0/0_0")
        self.assertEqual((answer.status_code, "one frame" in answer.json()["detail"]), (400, True))
        for path, status in (
            (self.less("?kind=nothing"), 400),
            (self.less("?match=nothing"), 400),
            (self.less(level=9), 404),
            (f"/api/outputs/{one}/less/999999/0/0_0", 404),
        ):
            with self.subTest(path):
                self.assertEqual(self.owner.get(path).status_code, status)

    def test_strangers_do_not_learn_that_they_are_there(self) -> None:
        stranger = self.client_of("stranger")
        self.assertEqual(stranger.get(self.less()).status_code, 404)
        picture = self.output("treatment").picture_id
        self.assertEqual(stranger.get(f"/api/pictures/{picture}/full-depth/0/0_0").status_code, 404)
