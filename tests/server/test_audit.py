"""The audit through the API: findings, decisions, matching, points by hand, bodies,
what reports carry.
"""

from __future__ import annotations

import json
import tempfile
from functools import cache
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Facts, Floats, Rect
from glenhail.server.audit.models import Decision
from glenhail.server.measuring import jobs
from glenhail.server.measuring.lining import points_of
from glenhail.server.measuring.models import Examined, HandPoints, LineUp, Reading
from glenhail.server.publishing.models import Edition
from tests.pictures import noisy, photograph
from tests.server.base import ServerTest, stream_of, tiff, upload, work

REASON = "Both tools only come so."


@cache
def smooth() -> Floats:
    with tempfile.NamedTemporaryFile(suffix=".tif") as file:
        file.write(tiff("smooth"))
        file.flush()
        return read_picture(Path(file.name)).pixels


def form(
    pixels: Floats, facts: Facts | None = None, name: str = "made.tif"
) -> dict[str, SimpleUploadedFile]:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / name
        write_tiff(path, pixels, facts)
        return {"file": SimpleUploadedFile(name, path.read_bytes())}


def meddled() -> Floats:
    """Half a stop darker, moved by 2 and 1 px."""
    return np.roll(smooth() * np.float32(2**-0.5), (1, 2), (0, 1))


class AuditTest(ServerTest):
    """One honest output, and one that was darkened and moved."""

    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        self.frame = self.study.study_frames.get().frame
        steps = [{"tool": "Meddler", "release": "1", "mode": "", "strength": 60, "settings": []}]
        entered = self.owner.post(
            f"/api/studies/{self.study.pk}/contenders", {"steps": steps}, "application/json"
        ).json()
        self.other = self.study.contenders.get(pk=entered["id"])
        self.cell = f"/api/contenders/{self.other.pk}/outputs/{self.frame.pk}"
        self.owner.post(self.cell, form(meddled()))
        work()

    def audit(self) -> Any:
        return self.owner.get(f"/api/studies/{self.study.pk}/audit").json()

    def finding(self, rule: str) -> Any:
        return next(
            (
                f
                for f in self.audit()["findings"]
                if f["rule"] == rule and f["contender"] == self.other.pk
            ),
            None,
        )

    def decide(
        self, rule: str, kind: str, reason: str = "", about: str | None = None, client: Any = None
    ) -> Any:
        found = self.finding(rule)
        body = {
            "finding": found["key"],
            "kind": kind,
            "reason": reason,
            "about": found["about"] if about is None else about,
        }
        return (client or self.owner).post(
            f"/api/studies/{self.study.pk}/audit/decisions", body, "application/json"
        )

    def output(self) -> Any:
        return self.other.outputs.get()


class Findings(AuditTest):
    def test_what_was_done_is_found_sized_and_shown_and_the_clean_one_is_clean(self) -> None:
        found = self.audit()
        self.assertEqual((found["examined"], found["wanted"], found["open"]), (2, 2, 1))
        self.assertEqual(found["line"], "open findings: 1 affects the comparison")
        self.assertEqual(
            {f["contender"] for f in found["findings"] if f["state"] == "open"}, {self.other.pk}
        )
        exposure, moved = self.finding("exposure"), self.finding("moved")
        self.assertAlmostEqual(exposure["places"][0]["amount"], 0.5, delta=0.05)
        self.assertEqual((moved["state"], moved["places"][0]["amount"]), ("harmless", 2.0))
        self.assertIn("match exposure", exposure["remedies"])
        shown = self.owner.get(f"/api/outputs/{self.output().pk}/examination").json()
        self.assertTrue(shown["ready"])
        self.assertGreater(len(shown["cells"]), 20)
        self.assertEqual(
            {c["name"] for c in shown["curves"]} & {"tone", "noise"}, {"tone", "noise"}
        )
        self.assertAlmostEqual(shown["regions"][0]["stops"], -0.5, delta=0.15)

    def test_a_decision_is_recorded_and_stands_until_something_else_is_found(self) -> None:
        self.assertEqual(self.decide("exposure", "accepted").status_code, 400)
        answer = self.decide("exposure", "accepted", REASON).json()
        self.assertEqual(answer["line"], "like for like; 1 decided")
        decision = self.finding("exposure")["decision"]
        self.assertEqual((decision["reason"], decision["who"]), (REASON, "owner"))
        self.assertEqual(self.decide("exposure", "accepted", REASON, about="else").status_code, 409)
        # Another file, brighter still: what was accepted is not what is found now.
        self.owner.post(self.cell, form(smooth() * np.float32(2**-0.8)))
        work()
        self.assertEqual(self.finding("exposure")["state"], "open")
        self.decide("exposure", "accepted", REASON)
        key = self.finding("exposure")["key"]
        self.owner.delete(f"/api/studies/{self.study.pk}/audit/decisions/{key}")
        self.assertEqual(self.finding("exposure")["state"], "open")

    def test_what_is_to_be_made_again_holds_until_it_is_gone(self) -> None:
        answer = self.decide("exposure", "made again").json()
        self.assertEqual(answer["line"], "open findings: 1 affects the comparison")
        self.assertEqual(
            (self.finding("exposure")["state"], self.finding("exposure")["open"]),
            ("made again", True),
        )
        self.owner.post(self.cell, form(smooth() * np.float32(1.0005), name="again.tif"))
        work()
        self.assertIsNone(self.finding("exposure"))
        self.assertEqual(self.audit()["line"], "like for like")

    def test_viewers_read_and_strangers_do_not_learn_of_it(self) -> None:
        viewer, stranger = self.client_of("viewer"), self.client_of("stranger")
        self.assertEqual(viewer.get(f"/api/studies/{self.study.pk}/audit").status_code, 200)
        self.assertEqual(
            self.decide("exposure", "accepted", REASON, client=viewer).status_code, 403
        )
        match = {"match": "exposure", "size": "native"}
        self.assertEqual(
            viewer.put(
                f"/api/studies/{self.study.pk}/matching", match, "application/json"
            ).status_code,
            403,
        )
        for path in (
            f"studies/{self.study.pk}/audit",
            f"outputs/{self.output().pk}/examination",
            f"studies/{self.study.pk}/bodies",
        ):
            self.assertEqual(stranger.get(f"/api/{path}").status_code, 404)

    def test_an_edition_carries_what_is_open_and_what_was_decided(self) -> None:
        text = {"summary": "", "method": "Fairly.", "disclosure": ""}
        self.owner.put(f"/api/studies/{self.study.pk}/report", text, "application/json")
        for number, words in ((1, b"open, colours it"), (2, REASON.encode())):
            self.owner.post(
                f"/api/studies/{self.study.pk}/editions",
                {"note": "Decided" if number > 1 else ""},
                "application/json",
            )
            work()
            page = stream_of(self.client.get(Edition.objects.get(number=number).address)).getvalue()
            self.assertIn(words, page)
            self.assertIn(b"Exposure moved", page)
            self.decide("exposure", "accepted", REASON)


class AcceptedTogether(AuditTest):
    def setUp(self) -> None:
        super().setUp()
        steps = [{"tool": "Dimmer", "release": "2", "mode": "", "strength": None, "settings": []}]
        entered = self.owner.post(
            f"/api/studies/{self.study.pk}/contenders", {"steps": steps}, "application/json"
        ).json()
        cell = f"/api/contenders/{entered['id']}/outputs/{self.frame.pk}"
        self.owner.post(cell, form(smooth() * np.float32(2**-0.4)))
        work()

    def open(self) -> list[dict[str, str]]:
        found = [f for f in self.audit()["findings"] if f["open"]]
        return [{"finding": f["key"], "about": f["about"]} for f in found]

    def accept(self, findings: list[dict[str, str]], reason: str, client: Any = None) -> Any:
        path = f"/api/studies/{self.study.pk}/audit/decisions"
        body = json.dumps({"findings": findings, "reason": reason})
        return (client or self.owner).put(path, body, "application/json")

    def test_several_are_accepted_for_one_reason_and_each_is_a_decision(self) -> None:
        findings = self.open()
        self.assertGreater(len(findings), 1)
        answer = self.accept(findings, "  It is the tool's way. ")
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual(answer.json()["open"], 0)
        told = {(d.finding, d.kind, d.reason) for d in Decision.objects.all()}
        wanted = {(f["finding"], "accepted", "It is the tool's way.") for f in findings}
        self.assertEqual(told, wanted)

    def test_all_or_none_where_one_is_something_else_or_gone_by_now(self) -> None:
        findings = self.open()
        for bad, status in (({"about": "x" * 64}, 409), ({"finding": "gone/1"}, 404)):
            with self.subTest(bad):
                answer = self.accept([*findings[:-1], {**findings[-1], **bad}], "Fine.")
                self.assertEqual(answer.status_code, status)
                self.assertFalse(Decision.objects.exists())

    def test_a_reason_and_an_editor_are_needed(self) -> None:
        findings = self.open()
        self.assertEqual(self.accept(findings, "   ").status_code, 400)
        self.assertEqual(self.accept([], "Fine.").status_code, 400)
        viewer = self.client_of("viewer")
        self.assertEqual(self.accept(findings, "Fine.", viewer).status_code, 403)
        stranger = self.client_of("stranger")
        self.assertEqual(self.accept(findings, "Fine.", stranger).status_code, 404)
        self.assertFalse(Decision.objects.exists())


class MatchedReadings(AuditTest):
    def read(self, measure: str, letter: str, basis: str) -> float:
        row = Reading.objects.get(
            measure=measure, output__contender__letter=letter, patch=None, basis=basis
        )
        assert row.value is not None, row.reason
        return row.value

    def test_matching_takes_the_difference_off_in_a_set_of_its_own(self) -> None:
        plain = set(Reading.objects.filter(basis="").values_list("pk", "taken"))
        self.assertEqual(
            self.decide("exposure", "matched").json()["matched"], "exposure matched over the frame"
        )
        self.assertEqual(self.finding("exposure")["state"], "matched")
        work()
        # Those as made were not touched; the truth is matched to nothing.
        self.assertEqual(set(Reading.objects.filter(basis="").values_list("pk", "taken")), plain)
        self.assertEqual(
            set(
                Reading.objects.filter(basis="matched").values_list(
                    "output__contender__letter", flat=True
                )
            ),
            {*"UAB"},
        )
        self.assertAlmostEqual(self.read("exposure", "B", "matched"), 0, delta=0.02)
        self.assertGreater(self.read("psnr", "B", "matched"), self.read("psnr", "B", "") + 5)
        page = self.owner.get(f"/api/studies/{self.study.pk}").json()
        self.assertEqual(page["readings_there"], page["readings_wanted"])
        row = Reading.objects.filter(
            basis="matched", output__contender__letter="B", value__isnull=False
        ).first()
        assert row is not None
        self.assertIn("exposure matched over the frame", row.grid)
        # Taken off again, the finding is open again.
        off = {"match": "none", "size": "native"}
        self.owner.put(f"/api/studies/{self.study.pk}/matching", off, "application/json")
        self.assertFalse(Reading.objects.filter(basis="matched").exists())
        self.assertEqual(self.finding("exposure")["state"], "open")

    def test_exposure_is_matched_patch_by_patch_and_on_whole_frames_over_the_frame(self) -> None:
        self.owner.put(
            f"/api/studies/{self.study.pk}/matching",
            {"match": "exposure per patch", "size": "native"},
            "application/json",
        )
        work()
        self.assertAlmostEqual(self.read("exposure", "B", "matched"), 0, delta=0.02)
        made, matched = (
            Reading.objects.get(
                measure="psnr", output__contender__letter="B", patch__isnull=False, basis=b
            )
            for b in ("", "matched")
        )
        assert made.value is not None and matched.value is not None
        self.assertGreater(matched.value, made.value + 5)
        self.assertIn("on each patch", matched.grid)

    def test_a_set_that_nobody_asks_for_any_more_is_not_kept(self) -> None:
        output = self.output()
        self.owner.put(
            f"/api/studies/{self.study.pk}/matching",
            {"match": "exposure", "size": "native"},
            "application/json",
        )
        subject = {"match": "none", "size": "native"}
        real = jobs.take

        def changed_meanwhile(*what: Any) -> Any:
            self.owner.put(f"/api/studies/{self.study.pk}/matching", subject, "application/json")
            return real(*what)

        with mock.patch.object(jobs, "take", changed_meanwhile):
            work()
        self.assertFalse(Reading.objects.filter(output=output, basis="matched").exists())

    def test_what_can_not_be_matched_says_so(self) -> None:
        answer = self.decide("moved", "matched")
        self.assertEqual(answer.status_code, 400)
        self.assertIn("can not be matched away", answer.json()["detail"])

    def test_a_common_size_follows_the_outputs(self) -> None:
        self.owner.post(self.cell, upload("double"))
        work()
        self.assertEqual(self.finding("size")["state"], "open")
        self.decide("size", "matched")
        work()
        noise = Reading.objects.get(
            measure="noise_luma", output__contender__letter="B", basis="matched"
        )
        self.assertIn("smallest size (Lanczos)", noise.grid)
        # As large as the frame again, its noise is the frame's, but for what two resamplings took.
        own = Reading.objects.get(
            measure="noise_luma", output__contender__letter="U", basis="matched"
        )
        assert noise.value is not None and own.value is not None
        self.assertAlmostEqual(noise.value / own.value, 0.9, delta=0.12)


class ByHand(AuditTest):
    def test_points_make_a_line_up_that_failed_and_only_what_depends_on_it_anew(self) -> None:
        # More cut off at the left than a line-up looks for by itself.
        self.owner.post(self.cell, form(smooth()[:, 130:]))
        work()
        self.assertEqual(self.finding("refused")["weight"], "spoils")
        others = set(Reading.objects.exclude(output=self.output()).values_list("pk", "taken"))
        pairs = [{"x": 200, "y": 60, "u": 71, "v": 61}, {"x": 600, "y": 400, "u": 469, "v": 399}]
        address = f"/api/outputs/{self.output().pk}/points"
        self.assertEqual(
            self.owner.put(address, {"pairs": pairs}, "application/json").status_code, 204
        )
        work()
        row = LineUp.objects.get(
            output=self.output().picture, source=self.frame.picture, refused=""
        )
        self.assertEqual((row.refused, row.dx, row.dy), ("", -130.0, 0.0))
        self.assertIsNone(self.finding("refused"))
        self.assertTrue(Reading.objects.filter(output=self.output(), value__isnull=False).exists())
        self.assertEqual(
            set(Reading.objects.exclude(output=self.output()).values_list("pk", "taken")), others
        )
        # Another bench with the same two files has nothing of it.
        self.assertEqual(
            points_of(
                self.users["stranger"].memberships.get().bench_id, self.frame.picture, row.output
            ),
            [],
        )
        self.owner.put(address, {"pairs": []}, "application/json")
        work()
        self.assertFalse(HandPoints.objects.exists())
        self.assertIsNotNone(self.finding("refused"))

    def test_points_that_can_not_be_are_answered_with_the_reason(self) -> None:
        cases = {
            "within the frame": [
                {"x": -5, "y": 0, "u": 0, "v": 0},
                {"x": 600, "y": 400, "u": 600, "v": 400},
            ],
            "two or three": [{"x": 5, "y": 5, "u": 5, "v": 5}],
            "too close": [{"x": 5, "y": 5, "u": 5, "v": 5}, {"x": 9, "y": 5, "u": 9, "v": 5}],
        }
        for words, pairs in cases.items():
            with self.subTest(words):
                answer = self.owner.put(
                    f"/api/outputs/{self.output().pk}/points", {"pairs": pairs}, "application/json"
                )
                self.assertEqual(answer.status_code, 400)
                self.assertIn(words, str(answer.json()))

    def test_an_examination_is_kept_and_not_made_twice(self) -> None:
        before = set(Examined.objects.values_list("pk", "key"))
        self.owner.post(
            f"/api/studies/{self.study.pk}/patches",
            {
                "frame": self.frame.pk,
                "name": "Roof",
                "role": "texture",
                "x": 200,
                "y": 200,
                "w": 80,
                "h": 80,
            },
            "application/json",
        )
        work()
        self.assertEqual(set(Examined.objects.values_list("pk", "key")), before)


class Bodies(ServerTest):
    def shot(self, camera: str, scale: float, stops: float, seed: int) -> int:
        light = photograph("china")
        height, width = round(427 * scale), round(640 * scale)
        large = resample(light, Rect(0, 0, 640, 427), width, height, "lanczos") * np.float32(
            0.5 * 2**stops
        )
        facts = Facts(
            "shot.tif",
            "TIFF",
            width,
            height,
            16,
            "unsigned",
            "",
            "sRGB",
            True,
            camera=camera,
            iso=6400.0,
        )
        made = self.owner.post(
            "/api/frames", form(noisy(large, 900, seed), facts, f"{camera}.tif")
        ).json()
        return int(made["id"])

    def test_two_bodies_of_other_size_and_exposure_come_to_a_fair_comparison(self) -> None:
        one, other = (
            self.shot("Corvane Quill 24", 1.0, 0.0, 1),
            self.shot("Corvane Quill 33", 1.1726, 0.2, 2),
        )
        work()
        scene = self.owner.post(
            "/api/scenes", {"name": "Roofs", "kinds": []}, "application/json"
        ).json()
        for frame in (one, other):
            self.owner.patch(f"/api/frames/{frame}", {"scene": scene["id"]}, "application/json")
        study = self.owner.post(
            "/api/studies", {"question": "Which body?", "factor": "body"}, "application/json"
        ).json()["id"]
        self.owner.post(f"/api/studies/{study}/frames", {"frame": one}, "application/json")
        at_hand = self.owner.get(f"/api/studies/{study}/bodies").json()
        self.assertEqual(at_hand, [{"body": "Corvane Quill 33", "frames": 1}])
        entered = self.owner.post(
            f"/api/studies/{study}/bodies", {"body": "Corvane Quill 33"}, "application/json"
        ).json()
        self.assertEqual(
            (entered["letter"], entered["kind"], entered["title"]),
            ("A", "body", "Corvane Quill 33"),
        )
        patch = {"frame": one, "name": "Sky", "role": "flat", "x": 20, "y": 20, "w": 90, "h": 60}
        self.owner.post(f"/api/studies/{study}/patches", patch, "application/json")
        work()
        audit = self.owner.get(f"/api/studies/{study}/audit").json()
        self.assertEqual(
            {f["rule"] for f in audit["findings"] if f["state"] == "open"}, {"exposure", "size"}
        )
        self.assertNotIn("make it again", [r for f in audit["findings"] for r in f["remedies"]])
        for finding in audit["findings"]:
            if finding["state"] == "open":
                body = {"finding": finding["key"], "kind": "matched"}
                answer = self.owner.post(
                    f"/api/studies/{study}/audit/decisions", body, "application/json"
                ).json()
        self.assertEqual(answer["line"], "like for like; 2 decided")
        work()
        values = {
            (r.basis, r.output.contender.letter): r.value
            for r in Reading.objects.filter(measure="noise_luma", patch__isnull=False)
        }
        # As made the larger one looks noisier for its pixels; at one size and exposure averaging
        # makes it quieter.
        self.assertLess(values["matched", "A"], values["", "A"])
        self.assertEqual(
            self.owner.post(
                f"/api/studies/{study}/bodies", {"body": "Corvane Quill 33"}, "application/json"
            ).status_code,
            409,
        )
