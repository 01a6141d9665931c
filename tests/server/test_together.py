"""Readings taken together, and what stands in tables for choosing, through the API: by
whom, in what order, and how a wrong question is answered.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from django.test import Client

from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.judging.models import Verdict
from glenhail.server.measuring.models import Reading
from glenhail.server.publishing.templatetags.dates import day
from glenhail.server.studies.models import Patch
from tests.server.base import ServerTest, upload, work

JSON = "application/json"
FLAT = tuple((20 + 10 * i, 20 + 4 * i) for i in range(7))  # all in the sky


class Together(ServerTest):
    """Seven plain patches of one frame, so that a median has its interval."""

    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        self.frame = self.study.study_frames.get().frame_id
        for i, (x, y) in enumerate(FLAT[1:]):
            self.draw(f"Sky {i}", "flat", x, y)
        self.draw("Roof", "texture", 200, 200)
        work()

    def draw(self, name: str, role: str, x: int, y: int) -> int:
        patch = {"frame": self.frame, "name": name, "role": role, "x": x, "y": y, "w": 90, "h": 60}
        made = self.owner.post(f"/api/studies/{self.study.pk}/patches", patch, JSON)
        self.assertEqual(made.status_code, 201, made.content)
        return int(made.json()["id"])

    def read(self, path: str, client: Client | None = None, code: int = 200) -> Any:
        answer = (client or self.owner).get(f"/api/studies/{self.study.pk}/{path}")
        self.assertEqual(answer.status_code, code, answer.content)
        return answer.json()

    def values(self, measure: str, letter: str, role: str) -> list[float]:
        rows = Reading.objects.filter(
            patch__study=self.study,
            measure=measure,
            output__contender__letter=letter,
            patch__role=role,
        )
        return [v for v in rows.values_list("value", flat=True) if v is not None]

    def test_a_median_is_that_of_its_readings_with_the_interval_of_order_statistics(self) -> None:
        rows = self.read("summary?by=role")
        row = next(
            r for r in rows if (r["group"], r["measure"], r["letter"]) == ("flat", "psnr", "A")
        )
        values = np.sort(self.values("psnr", "A", "flat"))
        self.assertEqual(len(values), 7)
        middle = row["middle"]
        self.assertAlmostEqual(middle["value"], float(np.median(values)))
        # Of seven values the least and the greatest enclose the median with 1 - 2 / 2^7
        # (order statistics; Hahn and Meeker 1991, 5.2).
        self.assertEqual((middle["low"], middle["high"]), (values[0], values[-1]))
        self.assertEqual(middle["count"], 7)
        self.assertGreaterEqual(middle["level"], 0.95)

    def test_groups_hold_what_belongs_to_them_and_in_the_measures_order(self) -> None:
        rows = self.read("summary?by=role")
        self.assertEqual({r["group"] for r in rows}, {"flat", "texture"})
        for group in ("flat", "texture"):
            told = list(dict.fromkeys(r["measure"] for r in rows if r["group"] == group))
            self.assertEqual(told, [m for m in MEASURES if m in told])
        self.assertEqual([r["group"] for r in self.read("summary?by=frame")][0], "frame")
        self.assertEqual(self.read("summary?by=kind"), [])  # no scene, no kind

    def test_both_axes_of_a_trade_off_are_medians_and_its_front_is_beaten_by_nobody(self) -> None:
        told = self.read("tradeoff?x=noise_luma&y=psnr")
        self.assertEqual((told["x"], told["y"]), ("noise_luma", "psnr"))
        points = {p["letter"]: p for p in told["points"]}
        self.assertEqual(set(points), {"U", "A"})
        over_all = self.read("standings?measure=psnr")
        whole = next(r for r in over_all if r["by"] == "all" and r["letter"] == "A")
        self.assertEqual(points["A"]["y"]["value"], whole["middle"]["value"])
        # Smoothing took noise off and came nearer the truth: the frame itself is beaten.
        self.assertEqual(told["front"], ["A"])

    def test_a_wrong_question_is_answered_with_what_there_is(self) -> None:
        cases = {
            "summary": "role, kind, frame",
            "summary?by=beauty": "beauty",
            "tradeoff?x=psnr": "psnr",
            "tradeoff?x=psnr&y=charm": "charm",
            "standings": "psnr",
        }
        for path, words in cases.items():
            with self.subTest(path):
                self.assertIn(words, self.read(path, code=400)["detail"])
        for patch in ("", "x", "0", "-1", "9" * 30, "²"):
            with self.subTest(patch=patch):
                self.read(f"curves?patch={patch}", code=404)

    def test_members_read_them_and_others_do_not_learn_that_they_are_there(self) -> None:
        paths = ("summary?by=role", "tradeoff?x=psnr&y=ssim", "standings?measure=psnr", "answers")
        viewer, stranger = self.client_of("viewer"), self.client_of("stranger")
        for path in paths:
            with self.subTest(path):
                self.assertEqual(self.read(path, viewer), self.read(path))
                self.read(path, stranger, 404)
                self.read(path, Client(), 401)

    def test_a_patch_is_spread_over_its_scene_once(self) -> None:
        second = self.owner.post("/api/frames", upload("truth", "second.tif")).json()["id"]
        scene = self.owner.post("/api/scenes", {"name": "Roofs", "kinds": []}, JSON).json()["id"]
        for frame in (self.frame, second):
            path = f"/api/frames/{frame}"
            moved = self.owner.patch(path, {"scene": scene}, JSON)
            self.assertIn(moved.status_code, (200, 204), moved.content)
        study = f"/api/studies/{self.study.pk}"
        self.owner.post(f"{study}/frames", {"frame": second}, JSON)
        work()
        patch = Patch.objects.get(study=self.study, name="Roof")
        made = self.owner.post(f"/api/patches/{patch.pk}/spread")
        self.assertEqual((made.status_code, len(made.json())), (201, 1), made.content)
        again = self.owner.post(f"/api/patches/{patch.pk}/spread")
        self.assertEqual(again.status_code, 409)
        self.assertIn("No other frame of Roofs", again.json()["detail"])
        spread = Patch.objects.get(frame_id=second)
        self.assertEqual((spread.name, spread.role), ("Roof", "texture"))
        refused = self.client_of("viewer").post(f"/api/patches/{patch.pk}/spread")
        self.assertEqual(refused.status_code, 403)


class Tables(ServerTest):
    def test_each_method_says_what_it_does_and_where_that_was_published(self) -> None:
        methods = self.client_of("viewer").get("/api/methods").json()
        self.assertGreaterEqual(len(methods), 10)
        self.assertEqual(len({m["id"] for m in methods}), len(methods))
        for method in methods:
            with self.subTest(method["id"]):
                self.assertTrue(method["title"] and method["does"] and method["published"])
                for told in method["settings"]:
                    if told["kind"] == "number":
                        self.assertLessEqual(told["low"], told["usual"])
                        self.assertLessEqual(told["usual"], told["high"])
        self.assertEqual(Client().get("/api/methods").status_code, 401)

    def test_each_field_of_a_target_can_be_made_with_its_usual_values(self) -> None:
        kinds = self.owner.get("/api/targets/fields").json()
        self.assertEqual(len({k["id"] for k in kinds}), len(kinds))
        fields = [
            {"kind": k["id"], **{p["name"]: p["usual"] for p in k["parameters"]}} for k in kinds
        ]
        sheet = {"width": 1800, "height": 1200, "blur": 0.7, "fields": fields}
        shown = self.owner.post("/api/targets/preview", {"sheet": sheet}, JSON)
        self.assertEqual(shown.status_code, 200, shown.content[:300])
        self.assertEqual(shown["Content-Type"], "image/png")


class Verdicts(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        body = {"question": "Which?", "factor": "tool"}
        self.study = self.owner.post("/api/studies", body, JSON).json()["id"]
        self.path = f"/api/studies/{self.study}/verdicts"

    def write(self, *lines: tuple[str, str], client: Client | None = None) -> Any:
        body = {"verdicts": [{"use": use, "text": text} for use, text in lines]}
        return (client or self.owner).put(self.path, body, JSON)

    def test_lines_keep_their_order_and_empty_ones_are_left_out(self) -> None:
        self.write(("Web", "A"), ("Print", " B "), ("", "nobody"), ("Crop", "  "))
        told = self.owner.get(self.path).json()
        self.assertEqual([(v["use"], v["text"]) for v in told], [("Web", "A"), ("Print", "B")])
        self.write(("Print", "B"))
        self.assertEqual(Verdict.objects.count(), 1)

    def test_what_is_too_long_is_refused_and_nothing_is_lost(self) -> None:
        self.write(("Web", "A"))
        for line in (("u" * 81, "A"), ("Web", "t" * 401)):
            with self.subTest(length=len("".join(line))):
                self.assertEqual(self.write(line).status_code, 400)
        self.assertEqual(Verdict.objects.get().text, "A")

    def test_viewers_read_and_do_not_write_and_strangers_find_none(self) -> None:
        viewer, stranger = self.client_of("viewer"), self.client_of("stranger")
        self.assertEqual(self.write(("Web", "B"), client=viewer).status_code, 403)
        self.assertEqual(viewer.get(self.path).status_code, 200)
        self.assertEqual(self.write(("Web", "B"), client=stranger).status_code, 404)
        self.assertEqual(stranger.get(self.path).status_code, 404)
        self.assertFalse(Verdict.objects.exists())


class Dates(ServerTest):
    def test_an_editions_day_reads_the_same_on_every_machine(self) -> None:
        cases = {
            "2026-11-27T09:05:00+00:00": "27 Nov 2026",
            "2026-03-04T23:59:59.123456+00:00": "4 Mar 2026",
            "2026-09-01T00:00:00Z": "1 Sep 2026",
        }
        for moment, told in cases.items():
            with self.subTest(moment):
                self.assertEqual(day(moment), told)
