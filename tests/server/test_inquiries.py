"""What is asked of a whole study: answered by a job, kept, current or of before, and in
editions.
"""

from __future__ import annotations

import io
import json
import zipfile
from datetime import date
from importlib import import_module
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
from django.apps import apps
from django.core.files.storage import storages
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings
from django.utils.html import escape
from jsonschema import Draft202012Validator
from PIL import Image

from glenhail.core.checking.checks import DIFFERS, EQUAL
from glenhail.core.checking.inquiries import KIND, inquiries_again
from glenhail.core.checking.worth import worth_again
from glenhail.core.colour import srgb
from glenhail.core.files.encoding import png_bytes
from glenhail.core.methods.treat import treat
from glenhail.core.uses.table import USES, Use
from glenhail.server.accounts.models import Bench
from glenhail.server.inquiries.answering import visibility
from glenhail.server.inquiries.evidence import FOLDER
from glenhail.server.inquiries.models import Inquiry
from glenhail.server.jobs.models import Job, State
from glenhail.server.jobs.tasks import run_job
from glenhail.server.material.models import Picture
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition
from glenhail.server.studies.models import Contender, Study
from glenhail.server.studies.uses import use_of
from glenhail.server.tools.models import Price, Tool
from tests.pictures import noisy, photograph
from tests.server.base import TERMS, ServerTest, stream_of, work

JSON = "application/json"
POST = {"name": "Small post", "width": 200, "height": 200, "enlarge": False, "jpeg": 80,
        "ppi": 460, "distance_cm": 30, "part": 1}  # fmt: skip
SIZE = (256, 320)


def frame() -> np.ndarray:
    """A noisy photograph with a plain part."""
    clean = photograph("china")[: SIZE[0], : SIZE[1]].copy()
    clean[:128, :160] = 0.3
    return np.clip(noisy(clean, 600, seed=4), 0, 1)


def blended(share: float) -> np.ndarray:
    """So far from the frame to a plain mean of five by five pixels."""
    from scipy.ndimage import uniform_filter

    full = uniform_filter(frame(), (5, 5, 1))
    one, two = srgb.encode(frame()), srgb.encode(np.asarray(full, dtype=np.float32))
    return srgb.decode(one + np.float32(share) * (two - one))


def step(strength: float) -> list[dict[str, Any]]:
    return [
        {"tool": "Sedgewash", "release": "3.0", "mode": "", "strength": strength, "settings": []}
    ]


def do(*kinds: str) -> None:
    """The queued jobs of some kinds, and those that these queue of them."""
    while job := Job.objects.filter(kind__in=kinds, state=State.QUEUED).order_by("pk").first():
        run_job(job.pk)


class InquiriesTest(ServerTest):
    """A study with one frame and three strengths of one tool; ``measured`` is whether its
    readings are taken.
    """

    measured = True

    def setUp(self) -> None:
        super().setUp()
        told = {"question": "How far?", "factor": "setting"}
        self.study = int(self.owner.post("/api/studies", told, JSON).json()["id"])
        self.base = f"/api/studies/{self.study}"
        self.frame = self.owner.post("/api/frames", self.file("frame.png", frame())).json()["id"]
        self.owner.post("/api/frames/terms", {"frames": [self.frame], **TERMS}, JSON)
        self.owner.post(f"{self.base}/frames", {"frame": self.frame}, JSON)
        for strength in (30, 60, 100):
            self.enter(strength)
        self.owner.post(f"{self.base}/patches", self.patch("flat", 16, 16, 120, 90), JSON)
        self.work()

    def work(self) -> None:
        """All that is queued, or what answers alone."""
        if self.measured:
            work()
        else:
            do("decode", "inquiry")

    def file(self, name: str, linear: np.ndarray) -> dict[str, SimpleUploadedFile]:
        codes = srgb.to_display(linear.astype(np.float32))
        return {"file": SimpleUploadedFile(name, png_bytes(codes))}

    def patch(self, role: str, *rect: int) -> dict[str, Any]:
        place = dict(zip("xywh", rect, strict=True))
        return {"frame": self.frame, "name": role.title(), "role": role, **place}

    def enter(self, strength: float) -> int:
        made = self.owner.post(f"{self.base}/contenders", {"steps": step(strength)}, JSON).json()
        self.bring(made["id"], strength / 100)
        return int(made["id"])

    def bring(self, contender: int, share: float) -> None:
        file = self.file(f"wash-{share}.png", blended(share))
        answer = self.owner.post(f"/api/contenders/{contender}/outputs/{self.frame}", file)
        self.assertEqual(answer.status_code, 204, answer.content)

    def publish(self) -> Edition:
        whole = {"summary": "A.", "method": "B.", "disclosure": "C.", "blocks": []}
        self.owner.put(f"{self.base}/report", whole, JSON)
        answer = self.owner.post(f"{self.base}/editions", {"note": "First."}, JSON)
        self.assertEqual(answer.status_code, 202, answer.content)
        work()
        return Edition.objects.get(report__study=self.study)

    def ask(self, about: str, told: dict[str, Any]) -> None:
        answer = self.owner.post(f"{self.base}/{about}", told, JSON)
        self.assertEqual(answer.status_code, 204, answer.content)
        self.work()

    def page(self, about: str, **query: Any) -> dict[str, Any]:
        return dict(self.owner.get(f"{self.base}/{about}", query).json())


def few_uses(bench: Bench) -> list[Use]:
    """Small ones, a video, and the bench's own: prints are enlarged to 20 MP."""
    return [USES["post"], USES["web"], USES["video-8"], *map(use_of, bench.own_uses.all())]


class Visibility(InquiriesTest):
    measured = False

    def setUp(self) -> None:
        super().setUp()
        self.enterContext(mock.patch.object(visibility, "uses_of", few_uses))
        self.owner.post("/api/uses", POST, JSON)

    def test_every_contender_in_every_use_that_stands_still(self) -> None:
        self.assertEqual(self.page("visibility")["state"], "none")
        self.ask("visibility", {"against": "U"})
        page = self.page("visibility", against="U")
        self.assertEqual((page["state"], page["problem"]), ("ready", ""))
        found = page["found"]
        uses = [use["id"] for use in found["uses"]]
        self.assertTrue(uses[-1].startswith("own-"))
        self.assertFalse([use for use in uses if use.startswith("video")])
        cells = {(c["letter"], c["use"]): c for c in found["cells"]}
        self.assertEqual(len(cells), 3 * len(uses))
        # The further it goes the more is seen.
        shares = [cells[letter, "web"]["share"] for letter in "ABC"]
        self.assertEqual(shares, sorted(shares))
        self.assertGreater(shares[-1], shares[0])
        self.assertEqual(found["said"], self.owner.get(f"{self.base}/inquiries").json()[0]["said"])

    def test_pictures_behind_it_are_the_studys_own_and_come_back(self) -> None:
        self.ask("visibility", {"against": "U"})
        cell = self.page("visibility")["found"]["cells"][0]
        home = f"{self.base}/evidence/{cell['key']}"
        for name in ("map", "flip", "one", "two"):
            with self.subTest(name):
                answer = self.owner.get(f"{home}/{name}.png")
                self.assertEqual(answer.status_code, 200)
                self.assertEqual(Image.open(io.BytesIO(answer.content)).mode, "RGB")
        self.assertEqual(self.client_of("stranger").get(f"{home}/map.png").status_code, 404)
        self.assertEqual(self.owner.get(f"{home}/none.png").status_code, 404)
        other = self.owner.post(
            "/api/studies", {"question": "Else?", "factor": "tool"}, JSON
        ).json()
        elsewhere = f"/api/studies/{other['id']}/evidence/{cell['key']}/map.png"
        self.assertEqual(self.owner.get(elsewhere).status_code, 404)
        # Cleared away, they are made anew when it is asked again.
        storages["derived"].delete(f"{FOLDER}/{cell['key'][:2]}/{cell['key']}-map.png")
        self.assertEqual(self.owner.get(f"{home}/map.png").status_code, 404)
        Inquiry.objects.update(key="of before")
        self.ask("visibility", {"against": "U"})
        self.assertEqual(self.owner.get(f"{home}/map.png").status_code, 200)

    def test_what_changed_makes_it_old_and_the_rest_is_not_looked_at_again(self) -> None:
        self.ask("visibility", {"against": "U"})
        before = {c["key"] for c in self.page("visibility")["found"]["cells"]}
        self.bring(Contender.objects.get(study=self.study, letter="B").pk, 0.2)
        self.assertEqual(self.page("visibility")["state"], "old")
        self.assertFalse(self.owner.get(f"{self.base}/inquiries").json()[0]["current"])
        self.work()
        self.ask("visibility", {"against": "U"})
        page = self.page("visibility")
        after = {c["key"] for c in page["found"]["cells"]}
        self.assertEqual(page["state"], "ready")
        self.assertEqual(len(before & after), len(before) * 2 // 3)

    def test_a_verdict_for_a_use_starts_from_it(self) -> None:
        self.ask("visibility", {"against": "U"})
        told = self.owner.get(f"{self.base}/evidence").json()
        cell = next(c for c in told["cells"] if c["use"] == USES["web"].name and not c["scene"])
        self.assertIn("The difference from U: that of", cell["proposal"])
        keys = [e["key"] for e in cell["evidence"] if e["kind"] == "seen"]
        self.assertEqual(keys, ["seen:web:A", "seen:web:B", "seen:web:C"])
        # What is of before something changed is no evidence.
        self.bring(Contender.objects.get(study=self.study, letter="B").pk, 0.2)
        self.work()
        told = self.owner.get(f"{self.base}/evidence").json()
        self.assertNotIn(USES["web"].name, [c["use"] for c in told["cells"]])

    def test_against_another_and_what_makes_no_sense(self) -> None:
        self.ask("visibility", {"against": "A"})
        found = self.page("visibility", against="A")["found"]
        self.assertEqual({c["letter"] for c in found["cells"]}, {"U", "B", "C"})
        self.assertEqual(self.page("visibility", against="U")["state"], "none")
        for told, status, words in (
            ({"against": "Z"}, 404, "Nobody contends as Z"),
            ({"against": "T"}, 400, "No frame has both"),
            ({"against": "A", "matched": True}, 400, "matches nothing"),
            ({"against": ""}, 400, ""),
        ):
            with self.subTest(told=told):
                answer = self.owner.post(f"{self.base}/visibility", told, JSON)
                self.assertEqual(answer.status_code, status, answer.content)
                self.assertIn(words, json.dumps(answer.json()))

    def test_the_light_is_matched_where_the_study_says_how(self) -> None:
        self.owner.put(f"{self.base}/matching", {"match": "exposure", "size": "native"}, JSON)
        self.work()
        Study.objects.filter(pk=self.study).update(match="exposure")
        self.ask("visibility", {"against": "U", "matched": True})
        found = self.page("visibility", against="U", matched="true")["found"]
        self.assertIn("exposure", found["matched"])

    def test_a_worker_that_dies_leaves_what_was_there(self) -> None:
        self.ask("visibility", {"against": "U"})
        self.bring(Contender.objects.get(study=self.study, letter="B").pk, 0.2)
        self.work()
        self.owner.post(f"{self.base}/visibility", {"against": "U"}, JSON)
        job = Job.objects.get(kind="inquiry", state=State.QUEUED)
        Picture.objects.all().update(state="waiting")
        run_job(job.pk)
        page = self.page("visibility")
        self.assertEqual(page["state"], "failed")
        self.assertIn("No frame has both", page["problem"])
        self.assertTrue(page["found"])
        # It is of before, though nothing changed since that was tried.
        self.assertFalse(self.owner.get(f"{self.base}/inquiries").json()[0]["current"])

    @override_settings(EVIDENCE_BYTES=1)
    def test_pictures_are_bounded(self) -> None:
        self.ask("visibility", {"against": "U"})
        folders, _ = storages["derived"].listdir(FOLDER)
        files = [n for f in folders for n in storages["derived"].listdir(f"{FOLDER}/{f}")[1]]
        self.assertEqual(len(files), 1)


class Strength(InquiriesTest):
    def test_a_series_is_recognised_and_told(self) -> None:
        self.ask("strength", {})
        page = self.page("strength")
        self.assertEqual(page["state"], "ready", page["problem"])
        (series,) = page["found"]["series"]
        self.assertEqual([m["setting"] for m in series["members"]], [30, 60, 100])
        for told, want in zip(series["steps"], (0.3, 0.6, 1.0), strict=True):
            self.assertAlmostEqual(told["share"]["value"], want, delta=0.03)
            self.assertTrue(told["even"])
        noise = [n["noise"]["value"] for n in series["noise"]]
        self.assertEqual(noise, sorted(noise, reverse=True))
        self.assertIn("Every step is an even blend", page["found"]["said"][0])
        self.assertIn("as web picture, noise is seen", " ".join(page["found"]["said"]))
        cell = page["found"]["cells"][0]
        answer = self.owner.get(f"{self.base}/evidence/{cell['key']}/map.png")
        self.assertEqual(answer.status_code, 200)


class StrengthAlone(InquiriesTest):
    """What takes no readings."""

    measured = False

    def test_another_use_is_another_answer_and_none_is_refused(self) -> None:
        self.ask("strength", {"use": "post"})
        self.assertEqual(self.page("strength", use="post")["found"]["use"]["id"], "post")
        self.assertEqual(self.page("strength")["state"], "none")
        self.assertEqual(self.owner.get(f"{self.base}/strength?use=moon").status_code, 404)
        Contender.objects.filter(study=self.study, letter="A").delete()
        answer = self.owner.post(f"{self.base}/strength", {}, JSON)
        self.assertEqual(answer.status_code, 400)
        self.assertIn("No three contenders", answer.json()["detail"])

    def test_a_series_without_all_its_outputs_says_so(self) -> None:
        Output.objects.filter(contender__letter="A").delete()
        self.ask("strength", {})
        (series,) = self.page("strength")["found"]["series"]
        self.assertEqual(series["said"], ["no frame has an output at every setting yet."])

    def test_a_series_without_effect_says_so(self) -> None:
        for contender in Contender.objects.filter(study=self.study, kind="treatment"):
            self.bring(contender.pk, 0)
        self.work()
        self.ask("strength", {})
        (series,) = self.page("strength")["found"]["series"]
        self.assertEqual(series["steps"], [])
        self.assertIn("changes next to nothing", series["said"][0])


class Level(InquiriesTest):
    def test_a_softer_one_is_brought_to_the_sharper_and_entered(self) -> None:
        self.owner.post(f"{self.base}/patches", self.patch("texture", 170, 20, 140, 200), JSON)
        work()
        self.ask("level", {"one": "C", "other": "U"})
        page = self.page("level", one="C", other="U")
        self.assertEqual(page["state"], "ready", page["problem"])
        (cell,) = page["found"]["cells"]
        self.assertGreater(cell["fit"]["best"]["gain"], 0.1)
        self.assertEqual(len(cell["ratio"]), len(cell["fitted"]))
        for name in ("before", "made", "other"):
            answer = self.owner.get(f"{self.base}/evidence/{cell['key']}/{name}.png")
            self.assertEqual(answer.status_code, 200)
        made = self.owner.post(f"{self.base}/level/entered", {"one": "C", "other": "U"}, JSON)
        self.assertEqual(made.status_code, 201, made.content)
        self.assertEqual(made.json()["letter"], "D")
        self.assertIn("then Unsharp mask", made.json()["title"])
        work()
        output = Output.objects.get(contender_id=made.json()["id"])
        self.assertEqual(output.file_name, "wash-1.0-sharpened-to-U.tif")
        # Made of a file from elsewhere, it is not told to be made here from its first step on.
        self.assertIsNone(output.made_with)
        readings = self.owner.get(f"{self.base}/readings").json()["readings"]
        kept = {r["contender"]: r["value"] for r in readings if r["measure"] == "noise_luma"}
        first = Contender.objects.get(study=self.study, letter="C")
        self.assertGreater(kept[output.contender_id], kept[first.pk])
        # Entered once more, it is the same contender.
        again = self.owner.post(f"{self.base}/level/entered", {"one": "C", "other": "U"}, JSON)
        self.assertEqual(again.json()["id"], made.json()["id"])

    def test_what_was_made_of_an_output_says_so_when_that_is_another(self) -> None:
        self.ask("level", {"one": "C", "other": "U"})
        made = self.owner.post(f"{self.base}/level/entered", {"one": "C", "other": "U"}, JSON)
        work()
        first = Contender.objects.get(study=self.study, letter="C")
        before = Output.objects.get(contender_id=made.json()["id"])
        self.assertEqual(self.told_old(before), "")
        another = self.file("another.png", blended(0.8))
        self.owner.post(f"/api/contenders/{first.pk}/outputs/{self.frame}", another)
        work()
        self.assertEqual(self.told_old(before), "made from another output of C than is there now")
        asked = self.owner.post(f"{self.base}/runs", {"which": "missing"}, JSON)
        self.assertEqual(asked.json()["queued"], 1, asked.content)
        work()
        after = Output.objects.get(contender_id=made.json()["id"])
        self.assertEqual(
            (after.file_name, self.told_old(after)), ("another-sharpened-to-U.tif", "")
        )
        self.assertNotEqual(after.picture_id, before.picture_id)
        # A file of its own there was made of nobody's output.
        own = self.file("own.png", blended(0.6))
        self.owner.post(f"/api/contenders/{after.contender_id}/outputs/{self.frame}", own)
        self.assertIsNone(Output.objects.get(pk=after.pk).made_from)

    def told_old(self, output: Output) -> str:
        cells = self.owner.get(f"{self.base}/coverage").json()["cells"]
        where = output.contender_id, output.frame_id
        return next(c["out_of_date"] for c in cells if (c["contender"], c["frame"]) == where)

    def test_noise_contrast_and_size_are_levels_too(self) -> None:
        both = {"one": "A", "other": "C"}
        for way, words in (
            ("noise", "With a guided filter"),
            ("contrast", "C's coarse contrast is"),
            ("size", "A and C are of one size already"),
            ("deconvolution", "as sharp as C, or sharper"),
        ):
            with self.subTest(way):
                self.ask("level", {**both, "way": way})
                page = self.page("level", **both, way=way)
                self.assertEqual((page["state"], page["problem"]), ("ready", ""))
                self.assertEqual(page["found"]["way"], way)
                self.assertIn(words, page["found"]["said"][0])
        made = self.owner.post(f"{self.base}/level/entered", {**both, "way": "noise"}, JSON)
        self.assertIn("then Guided filter", made.json()["title"])
        work()
        output = Output.objects.get(contender_id=made.json()["id"])
        self.assertEqual(output.file_name, "wash-0.3-smoothed-to-C.tif")
        readings = self.owner.get(f"{self.base}/readings").json()["readings"]
        kept = {r["contender"]: r["value"] for r in readings if r["measure"] == "noise_luma"}
        other = Contender.objects.get(study=self.study, letter="C")
        self.assertAlmostEqual(kept[output.contender_id] / kept[other.pk], 1, delta=0.05)
        # Of one size, there is nothing to enter; and there is no such way.
        nothing = self.owner.post(f"{self.base}/level/entered", {**both, "way": "size"}, JSON)
        self.assertIn("level in size", nothing.json()["detail"])
        unknown = self.owner.get(f"{self.base}/level", {**both, "way": "taste"})
        self.assertEqual(unknown.status_code, 400)
        self.assertIn("way is one of", unknown.json()["detail"])

    def test_crops_of_another_size_show_the_same_place(self) -> None:
        self.owner.post(f"{self.base}/patches", self.patch("texture", 190, 130, 110, 100), JSON)
        large = self.file("large.png", treat(blended(1.0), "bicubic", {"factor": 2}))
        other = Contender.objects.get(study=self.study, letter="B")
        self.owner.post(f"/api/contenders/{other.pk}/outputs/{self.frame}", large)
        work()
        self.ask("level", {"one": "C", "other": "B", "way": "size"})
        found = self.page("level", one="C", other="B", way="size")["found"]
        self.assertIn("Enlarged 2 times by Lanczos, C is as large as B", found["said"][0])
        (cell,) = found["cells"]
        crops = {}
        for name in ("before", "made", "other"):
            png = self.owner.get(f"{self.base}/evidence/{cell['key']}/{name}.png").content
            crops[name] = np.asarray(Image.open(io.BytesIO(png)), dtype=float)
        self.assertEqual({c.shape for c in crops.values()}, {crops["made"].shape})
        for name in ("before", "other"):
            alike = np.corrcoef(crops["made"].ravel(), crops[name].ravel())[0, 1]
            self.assertGreater(alike, 0.98, name)

    def test_the_frame_as_it_is_is_sharpened_by_the_mask_alone(self) -> None:
        output = Contender.objects.get(study=self.study, letter="C")
        sharper = self.file("sharper.png", treat(frame(), "unsharp", {"gain": 1.0, "reach": 1.0}))
        self.owner.post(f"/api/contenders/{output.pk}/outputs/{self.frame}", sharper)
        work()
        self.ask("level", {"one": "U", "other": "C"})
        made = self.owner.post(f"{self.base}/level/entered", {"one": "U", "other": "C"}, JSON)
        self.assertEqual(made.status_code, 201, made.content)
        self.assertEqual(made.json()["title"], "Unsharp mask")
        work()
        # It is made like any other contender: run here, and timed.
        self.assertIsNotNone(Output.objects.get(contender_id=made.json()["id"]).made_with)

    def test_what_makes_no_sense_is_refused(self) -> None:
        for told, status, words in (
            ({"one": "A", "other": "A"}, 400, "Choose two contenders"),
            ({"one": "A", "other": "T"}, 400, "Choose two contenders"),
            ({"one": "A", "other": "Y"}, 404, "Nobody contends as Y"),
        ):
            with self.subTest(told=told):
                answer = self.owner.post(f"{self.base}/level", told, JSON)
                self.assertEqual(answer.status_code, status, answer.content)
                self.assertIn(words, answer.json()["detail"])
        entered = self.owner.post(f"{self.base}/level/entered", {"one": "C", "other": "U"}, JSON)
        self.assertIn("Ask first", entered.json()["detail"])
        self.ask("level", {"one": "U", "other": "C"})
        page = self.page("level", one="U", other="C")
        self.assertIn("as sharp as C, or sharper", page["found"]["said"][0])


class Gone(InquiriesTest):
    """What an answer is about may be taken out: nothing else breaks by that."""

    measured = False

    def test_a_contender_or_use_that_is_gone_takes_its_answers_with_it(self) -> None:
        self.enterContext(mock.patch.object(visibility, "uses_of", few_uses))
        use = self.owner.post("/api/uses", POST, JSON).json()
        self.ask("strength", {"use": use["id"]})
        self.ask("visibility", {"against": "C"})
        self.ask("level", {"one": "C", "other": "A"})
        self.assertEqual(len(self.owner.get(f"{self.base}/inquiries").json()), 3)
        self.owner.delete(f"/api/uses/{use['row']}")
        taken_out = Contender.objects.get(study=self.study, letter="C").pk
        self.assertEqual(self.owner.delete(f"/api/contenders/{taken_out}").status_code, 204)
        self.assertEqual(self.owner.get(f"{self.base}/inquiries").json(), [])
        for address in ("report", "evidence", "answers", "level?one=C&other=A"):
            with self.subTest(address):
                status = self.owner.get(f"{self.base}/{address}").status_code
                self.assertEqual(status, 404 if address.startswith("level") else 200)


class Before(InquiriesTest):
    """Answers that an earlier version gave."""

    measured = False

    def test_an_answer_of_another_version_is_asked_for_anew(self) -> None:
        study = Study.objects.get(pk=self.study)
        one, other = (Contender.objects.get(study=study, letter=k).pk for k in "CU")
        told = {"key": "k", "problem": "", "found": {"version": "0", "said": ["Once."]}}
        Inquiry.objects.create(study=study, about="level", subject=f"{one} {other}", **told)
        Inquiry.objects.create(study=study, about="order", subject="", **told)
        import_module("glenhail.server.inquiries.migrations.0002_releases").name_ways(apps, None)
        for about, query in (("level", {"one": "C", "other": "U"}), ("order", {})):
            page = self.page(about, **query)
            self.assertEqual((page["state"], page["found"]), ("none", None))
        said = self.owner.get(f"{self.base}/inquiries").json()
        self.assertEqual([a["current"] for a in said], [False, False])
        asked = self.owner.get(f"{self.base}/report").json()["asked"]
        self.assertIn("Could a slider do it?", " ".join(q["text"] for q in asked))


class Order(InquiriesTest):
    def both_ways(self) -> None:
        fold = {"tool": "Keenfold", "release": "5.1", "mode": "", "strength": 60, "settings": []}
        for steps, share in (([*step(50), fold], 0.9), ([fold, *step(50)], 0.1)):
            made = self.owner.post(f"{self.base}/contenders", {"steps": steps}, JSON).json()
            self.bring(made["id"], share)
        work()

    def test_where_the_order_matters(self) -> None:
        refused = self.owner.post(f"{self.base}/order")
        self.assertEqual(refused.status_code, 400)
        self.assertIn("order of their steps", refused.json()["detail"])
        self.both_ways()
        self.ask("order", {})
        found = self.page("order")["found"]
        self.assertEqual([one["letter"] for one in found["groups"][0]], ["D", "E"])
        (pair,) = found["pairs"]
        noise = next(p for p in pair["places"] if p["measure"] == "noise_luma")
        self.assertEqual((noise["place"], noise["answer"]), ("Flat", "better"))
        self.assertIn("better in its one patch by brightness noise", found["said"][0])

    def test_what_lies_between_is_entered_once(self) -> None:
        self.both_ways()
        made = self.owner.post(f"{self.base}/order/between")
        self.assertEqual(made.status_code, 201, made.content)
        # Sedgewash at 50 alone, and Keenfold alone.
        self.assertEqual(made.json()["letters"], ["F", "G"])
        again = self.owner.post(f"{self.base}/order/between")
        self.assertEqual(again.status_code, 400)
        self.assertIn("entered already", again.json()["detail"])


class Releases(InquiriesTest):
    """One treatment by two releases of its tool."""

    def later(self, release: str, share: float) -> int:
        steps = [{**step(60)[0], "release": release}]
        made = self.owner.post(f"{self.base}/contenders", {"steps": steps}, JSON).json()
        self.bring(made["id"], share)
        work()
        return int(made["id"])

    def test_what_changed_is_told_by_pictures_measures_and_speed(self) -> None:
        self.assertEqual(self.page("releases")["pairs"], [])
        number = self.later("3.10", 1.0)
        page = self.page("releases")
        self.assertEqual(page["pairs"], [{"earlier": "B", "later": "D"}])
        self.assertEqual((page["state"], page["later"]), ("none", "D"))
        for letter, seconds in (("B", 2), ("D", 8)):
            contender = Contender.objects.get(study=self.study, letter=letter)
            told = f"/api/contenders/{contender.pk}/outputs/{self.frame}/runs"
            self.owner.put(told, {"process_s": seconds}, JSON)
        self.ask("releases", page["pairs"][0])
        found = self.page("releases")["found"]
        (cell,) = found["cells"]
        self.assertFalse(cell["same"])
        first, second = (np.rint(255 * np.clip(srgb.encode(blended(s)), 0, 1)) for s in (0.6, 1.0))
        self.assertAlmostEqual(cell["rms"], float(np.sqrt(((first - second) ** 2).mean())), 2)
        self.assertIn("levels of 255", found["said"][0])
        self.assertIn("Visibly better in brightness noise", found["said"][1])
        self.assertIn("in too few runs to tell them apart by", found["said"][2])
        self.assertEqual(found["rows"][0]["better"], ["Flat, frame"])
        for name in ("map", "earlier", "later"):
            shown = self.owner.get(f"{self.base}/evidence/{cell['key']}/{name}.png")
            self.assertEqual(shown.status_code, 200)
        # What is of now is not asked again; another output makes it old.
        self.bring(number, 0.6)
        work()
        page = self.page("releases")
        self.assertEqual(page["state"], "old")
        self.ask("releases", {"earlier": "B", "later": "D"})
        found = self.page("releases")["found"]
        self.assertTrue(found["cells"][0]["same"])
        self.assertIn("D is B to the pixel on the one frame.", found["said"])
        self.assertIn("Nothing changed that can be measured.", found["said"])

    def test_what_makes_no_sense_is_refused(self) -> None:
        for told, words in (
            ({"earlier": "A", "later": "A"}, "two treatments"),
            ({"earlier": "U", "later": "A"}, "two treatments"),
            ({"earlier": "A", "later": "Q"}, "Nobody contends as Q"),
        ):
            with self.subTest(words):
                answer = self.owner.post(f"{self.base}/releases", told, JSON)
                self.assertIn(words, answer.json()["detail"])


class Worth(InquiriesTest):
    def test_price_and_speed_stand_beside_what_is_got(self) -> None:
        tool = Tool.objects.get(name="Sedgewash")
        Price.objects.create(
            tool=tool, what="a year", amount=90, currency="EUR", checked=date(2026, 11, 2)
        )
        contender = Contender.objects.get(study=self.study, letter="A")
        times = {"load_s": 1, "process_s": 6, "export_s": 1}
        told = f"/api/contenders/{contender.pk}/outputs/{self.frame}/runs"
        self.assertEqual(self.owner.put(told, times, JSON).status_code, 201)
        rows = {r["letter"]: r for r in self.page("worth", pictures=900, batch=10)["rows"]}
        self.assertAlmostEqual(rows["A"]["amount"], 0.1)
        self.assertEqual(rows["A"]["currency"], "EUR")
        seconds = 8 / (SIZE[0] * SIZE[1] / 1e6) * 24 * 10
        self.assertAlmostEqual(rows["A"]["seconds"], seconds, delta=seconds / 100)
        self.assertTrue(rows["A"]["by_hand"])
        self.assertIsNone(rows["B"]["seconds"])
        self.assertLess(rows["C"]["noise"]["value"], rows["A"]["noise"]["value"])

        for query in ("pictures=0", "batch=many", "megapixels=nan", "years=1e9"):
            with self.subTest(query):
                answer = self.owner.get(f"{self.base}/worth?{query}")
                self.assertEqual(answer.status_code, 400, answer.content)


class Editions(InquiriesTest):
    def test_answers_stand_in_an_edition_and_are_worked_out_again(self) -> None:
        self.enterContext(mock.patch.object(visibility, "uses_of", few_uses))
        price = {"what": "a year", "amount": 90, "currency": "EUR"}
        tool = Tool.objects.get(name="Sedgewash")
        Price.objects.create(tool=tool, checked=date(2026, 11, 2), **price)
        self.ask("level", {"one": "C", "other": "A"})
        self.ask("level", {"one": "A", "other": "C"})
        self.ask("releases", {"earlier": "A", "later": "C"})
        fold = {"tool": "Keenfold", "release": "5.1", "mode": "", "strength": 60, "settings": []}
        for steps, share in (([*step(50), fold], 0.9), ([fold, *step(50)], 0.1)):
            made = self.owner.post(f"{self.base}/contenders", {"steps": steps}, JSON).json()
            self.bring(made["id"], share)
        work()
        self.ask("order", {})
        self.ask("strength", {})
        self.ask("visibility", {"against": "U"})
        edition = self.publish()
        with zipfile.ZipFile(stream_of(self.owner.get(f"{edition.address}everything.zip"))) as kept:
            document = json.loads(kept.read("report/edition.json"))
            html = kept.read("report/index.html").decode()
            name = next(n for n in kept.namelist() if n.endswith("schema.json"))
            schema = json.loads(kept.read(name))
        self.assertEqual(list(Draft202012Validator(schema).iter_errors(document)), [])
        told = {a["about"]: a for a in document["inquiries"]}
        self.assertEqual(set(told), {"strength", "visibility", "level", "order", "releases"})
        for answer in told.values():
            for words in answer["said"]:
                self.assertIn(escape(words), html)
        self.assertIn("90.00 EUR for a year", html)
        # 320 × 256 px at 300 ppi, an inch being 2.54 cm.
        self.assertEqual({o["print"] for o in document["frames"][0]["outputs"]}, {"2.7 × 2.2 cm"})
        self.assertIn("as a print at 300 ppi 2.7 × 2.2 cm", html)
        self.assertEqual({c.state for c in worth_again(document)}, {EQUAL})
        self.assertEqual(document["worth"]["rows"][0]["costs"], "0.09 EUR")
        checks = list(inquiries_again(document))
        self.assertTrue(checks)
        self.assertEqual([c for c in checks if c.state == DIFFERS], [])
        told["visibility"]["numbers"]["cells"][0]["seen"] = "seen by nobody"
        told["visibility"]["numbers"]["cells"][0]["share"] = 1.0
        # Each answer that says what its numbers do not is found.
        for answer in document["inquiries"]:
            answer["said"] = ["It is even."]
        differing = [c for c in inquiries_again(document) if c.state == DIFFERS]
        for answer in document["inquiries"]:
            if answer["about"] != "strength":
                self.assertTrue(any(c.what.startswith(answer["title"]) for c in differing))
        self.assertEqual({c.kind for c in differing}, {KIND})

    def test_what_is_of_before_is_left_out_and_asked_about(self) -> None:
        self.enterContext(mock.patch.object(visibility, "uses_of", few_uses))
        self.ask("visibility", {"against": "U"})
        self.bring(Contender.objects.get(study=self.study, letter="B").pk, 0.2)
        work()
        asked = self.owner.get(f"{self.base}/report").json()["asked"]
        self.assertIn("Would anybody see it?", " ".join(q["text"] for q in asked))
        kept = storages["editions"].path(f"{self.publish().folder}/edition.json")
        self.assertEqual(json.loads(Path(kept).read_text())["inquiries"], [])
