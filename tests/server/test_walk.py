"""The whole walk through the API, and what must hold on the way."""

from __future__ import annotations

import csv
import hashlib
import io
import zipfile
from collections.abc import Callable
from typing import Any
from unittest import mock

import numpy as np
import tifffile
from django.core.files.storage import storages

from glenhail.server.jobs.models import Job, State
from glenhail.server.material.models import Picture, PictureState
from glenhail.server.measuring import jobs
from glenhail.server.measuring.actions.queueing import queue_output
from glenhail.server.measuring.models import Reading
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition
from glenhail.server.storage.models import StoredFile
from tests.server.base import ServerTest, stream_of, tiff, upload, work


class Walk(ServerTest):
    def test_from_a_frame_and_an_output_to_ranked_readings(self) -> None:
        study = self.make_study()
        work()
        page = self.owner.get(f"/api/studies/{study.pk}").json()
        self.assertEqual([c["letter"] for c in page["contenders"]], ["T", "U", "A"])
        self.assertEqual({o["state"] for o in page["outputs"]}, {"ready"})
        self.assertEqual(page["frames"][0]["picture"]["facts"]["bits"], 16)
        self.assertEqual(page["readings_there"], page["readings_wanted"])
        found = self.owner.get(f"/api/studies/{study.pk}/readings").json()
        letters = {c["id"]: c["letter"] for c in page["contenders"]}
        noise = {
            letters[r["contender"]]: r for r in found["readings"] if r["measure"] == "noise_luma"
        }
        self.assertLess(noise["A"]["value"], noise["U"]["value"])
        self.assertEqual(
            (noise["A"]["rank"], noise["U"]["rank"], noise["T"]["rank"]), (1, None, None)
        )
        errors = {
            letters[r["contender"]]: r
            for r in found["readings"]
            if r["measure"] == "psnr" and r["patch"] is None
        }
        self.assertEqual(errors["T"]["reason"], "this is the truth itself")
        self.assertIsNone(errors["T"]["value"])
        rows = list(
            csv.DictReader(
                io.StringIO(
                    self.owner.get(f"/api/studies/{study.pk}/readings.csv").content.decode()
                )
            )
        )
        self.assertEqual(len(rows), len(found["readings"]))
        self.assertEqual({r["letter"] for r in rows}, {"T", "U", "A"})

    def test_a_moved_patch_is_measured_again_and_nothing_else_is(self) -> None:
        study = self.make_study()
        work()
        patch = study.patches.get()
        before = {r.pk: (r.patch_id, r.taken) for r in Reading.objects.all()}
        moved = {"name": "Sky", "role": "flat", "x": 40, "y": 25, "w": 90, "h": 60}
        self.owner.put(f"/api/patches/{patch.pk}", moved, "application/json")
        self.assertFalse(patch.readings.exists(), "an old reading must not be shown as current")
        work()
        self.assertEqual(
            patch.readings.count(), sum(1 for p, _ in before.values() if p == patch.pk)
        )
        kept = {r.pk: (r.patch_id, r.taken) for r in Reading.objects.filter(patch=None)}
        self.assertEqual(kept, {pk: v for pk, v in before.items() if v[0] is None})

    def test_another_truth_makes_errors_anew_and_leaves_noise_alone(self) -> None:
        study = self.make_study()
        work()
        frame = study.study_frames.get().frame
        noise = set(
            Reading.objects.filter(measure="noise_luma", output__contender__letter="A").values_list(
                "pk", flat=True
            )
        )
        self.owner.delete(f"/api/frames/{frame.pk}/truth")
        work()
        reasons = set(Reading.objects.filter(measure="psnr").values_list("reason", flat=True))
        self.assertEqual(reasons, {"no truth for this frame"})
        self.assertTrue(noise <= set(Reading.objects.values_list("pk", flat=True)))

    def test_a_truth_that_comes_in_while_an_output_is_measured_is_measured_against(self) -> None:
        study = self.make_study()
        work()
        truth = study.study_frames.get().frame.truth
        assert truth is not None

        def comes_in(real: Callable[..., Any]) -> Callable[..., Any]:
            def wrapped(*arguments: Any) -> Any:
                found = real(*arguments)
                Picture.objects.filter(pk=truth.pk).update(state=PictureState.READY)
                return found

            return wrapped

        for moment in ("_both_ready", "find_examination"):
            for letter in ("A", "T"):
                if (moment, letter) == ("find_examination", "T"):
                    continue  # it is not examined
                with self.subTest(f"{letter}, {moment}"):
                    output = Output.objects.get(contender__study=study, contender__letter=letter)
                    output.readings.all().delete()
                    Picture.objects.filter(pk=truth.pk).update(state=PictureState.WAITING)
                    with (
                        mock.patch.object(
                            jobs,
                            "_both_ready",
                            comes_in(lambda _: True) if moment == "_both_ready" else lambda _: True,
                        ),
                        mock.patch.object(
                            jobs, "find_examination", comes_in(jobs.find_examination)
                        ),
                    ):
                        queue_output(output)
                        work()
                    told = output.readings.filter(measure="rmse", patch=None).get()
                    self.assertEqual(
                        told.reason, "" if letter == "A" else "this is the truth itself"
                    )
                    # Those that were taken before it came in are taken again by the job that its
                    # coming in queues.
                    queue_output(output)
                    work()
                    self.assertFalse(
                        output.readings.filter(reason__contains="being taken in").exists()
                    )

    def test_an_enlargement_lines_up_and_patches_land_on_the_same_detail(self) -> None:
        study = self.make_study()
        frame = study.study_frames.get().frame
        contender = study.contenders.get(letter="A")
        self.owner.post(f"/api/contenders/{contender.pk}/outputs/{frame.pk}", upload("double"))
        work()
        output = next(
            o
            for o in self.owner.get(f"/api/studies/{study.pk}").json()["outputs"]
            if o["contender"] == contender.pk
        )
        self.assertEqual([output["lineup"][k] for k in ("sx", "sy", "dx", "dy")], [2, 2, 0, 0])

    def test_editions_are_frozen_numbered_public_and_complete(self) -> None:
        study = self.make_study()
        work()
        text = {"summary": "All of it.", "method": "Fairly.", "disclosure": "None."}
        self.owner.put(f"/api/studies/{study.pk}/report", text, "application/json")
        tool = self.bench.tools.get()
        tool.maker, tool.disclosure = "Two brothers", "lent"
        tool.save()
        contender, frame = study.contenders.get(letter="A"), study.study_frames.get().frame
        times = {"process_s": 41.5, "machine": "an old laptop"}
        self.owner.put(
            f"/api/contenders/{contender.pk}/outputs/{frame.pk}/runs", times, "application/json"
        )
        self.owner.put(
            f"/api/studies/{study.pk}/verdicts",
            {"verdicts": [{"use": "Print", "text": "A"}]},
            "application/json",
        )
        publish = f"/api/studies/{study.pk}/editions"
        self.assertEqual(
            self.owner.post(publish, {"note": ""}, "application/json").status_code, 202
        )
        work()
        first = Edition.objects.get(number=1)
        reader = self.client  # nobody signed in
        before = stream_of(reader.get(first.address)).getvalue()
        for words in (
            b"Which is better?",
            b"All of it.",
            b"Sedgewash 3.0",
            b"Sky",
            b"Two brothers",
            b"lent",
            b"41.5",
            b"an old laptop",
        ):
            self.assertIn(words, before)
        # A second edition needs a note; then the first is still what it was.
        self.owner.patch(
            f"/api/studies/{study.pk}",
            {"question": "Changed?", "factor": "tool"},
            "application/json",
        )
        self.assertEqual(
            self.owner.post(publish, {"note": ""}, "application/json").status_code, 400
        )
        self.owner.post(publish, {"note": "Asked anew"}, "application/json")
        work()
        second = Edition.objects.get(number=2)
        self.assertEqual(stream_of(reader.get(first.address)).getvalue(), before)
        self.assertIn(b"Changed?", stream_of(reader.get(second.address)).getvalue())
        listed = reader.get(f"{first.address}editions.json").json()["editions"]
        self.assertEqual([(e["number"], e["note"]) for e in listed], [(2, "Asked anew"), (1, "")])
        self.assertEqual(
            reader.get("/reports/which-is-better/").headers["Location"], second.address
        )
        self.check_bundle(first)

    def check_bundle(self, edition: Edition) -> None:
        with zipfile.ZipFile(
            stream_of(self.client.get(f"{edition.address}everything.zip"))
        ) as pack:
            sums = dict(
                reversed(line.split("  ")) for line in pack.read("SHA256SUMS").decode().splitlines()
            )
            self.assertEqual(set(sums), set(pack.namelist()) - {"SHA256SUMS"})
            for name, want in sums.items():
                self.assertEqual(hashlib.sha256(pack.read(name)).hexdigest(), want)
            # The published copy has the original's pixels; what else its writer put in is gone.
            copy, own = (
                tifffile.imread(io.BytesIO(raw))
                for raw in (pack.read("originals/frame/A_out_A.tif"), tiff("smooth"))
            )
            np.testing.assert_array_equal(copy, own)
            self.assertTrue(
                {"report/readings.csv", "report/edition.json", "report/index.html"} <= set(sums)
            )

    def test_publishing_says_what_is_missing(self) -> None:
        study = self.make_study()
        publish = f"/api/studies/{study.pk}/editions"
        early = self.owner.post(publish, {"note": ""}, "application/json")
        self.assertIn("No contender's output is ready", early.json()["detail"])
        study.patches.all().delete()
        self.assertIn(
            "no patch", self.owner.post(publish, {"note": ""}, "application/json").json()["detail"]
        )

    def test_the_same_bytes_are_kept_once(self) -> None:
        one, two = (
            self.owner.post("/api/frames", upload("frame", n)).json() for n in ("a.tif", "b.tif")
        )
        self.assertEqual(one["id"], two["id"])
        self.assertEqual(StoredFile.objects.count(), 1)
        work()
        stored = StoredFile.objects.get()
        with storages["originals"].open(stored.path) as file:
            self.assertEqual(hashlib.sha256(file.read()).hexdigest(), stored.pk)


class BadInput(ServerTest):
    def test_a_bad_file_in_a_batch_is_named_and_the_rest_goes_on(self) -> None:
        from django.core.files.uploadedfile import SimpleUploadedFile

        batch = {
            "good.tif": tiff("frame"),
            "empty.tif": b"",
            "text.png": b"words " * 40,
            "cut.tif": tiff("truth")[:50_000],
        }
        for name, data in batch.items():
            answer = self.owner.post("/api/frames", {"file": SimpleUploadedFile(name, data)})
            self.assertEqual(answer.status_code, 201, name)
        work()
        states = {f["file_name"]: f["picture"] for f in self.owner.get("/api/frames").json()}
        self.assertEqual(
            {n: p["state"] for n, p in states.items()},
            {
                "good.tif": "ready",
                "empty.tif": "refused",
                "text.png": "refused",
                "cut.tif": "refused",
            },
        )
        for name in ("empty.tif", "text.png", "cut.tif"):
            self.assertTrue(
                states[name]["problem"].startswith(f"{name}: "), states[name]["problem"]
            )

    def test_an_output_of_another_picture_is_refused_with_the_reason(self) -> None:
        study = self.make_study()
        frame, contender = study.study_frames.get().frame, study.contenders.get(letter="A")
        self.owner.post(
            f"/api/contenders/{contender.pk}/outputs/{frame.pk}", upload("other", "wrong.tif")
        )
        work()
        output = next(
            o
            for o in self.owner.get(f"/api/studies/{study.pk}").json()["outputs"]
            if o["contender"] == contender.pk
        )
        self.assertEqual(output["state"], "refused")
        self.assertIn("wrong.tif: it does not show the same picture", output["problem"])
        job = Job.objects.get(state=State.FAILED)
        self.assertIn("wrong.tif", job.problem)

    def test_requests_that_make_no_sense_are_answered_with_a_clear_problem(self) -> None:
        study = self.make_study()
        work()
        frame, contender = study.study_frames.get().frame, study.contenders.get(letter="A")
        patch = {"frame": frame.pk, "name": "p", "role": "flat", "x": 20, "y": 20, "w": 90, "h": 60}
        patches, json = f"/api/studies/{study.pk}/patches", "application/json"
        cases = {
            "outside its 640 × 427": self.owner.post(patches, patch | {"x": 600}, json),
            "too small": self.owner.post(patches, patch | {"w": 2}, json),
            "role": self.owner.post(patches, patch | {"role": "nonsense"}, json),
            "no file": self.owner.post("/api/frames", {}),
            "question": self.owner.post("/api/studies", {"question": " ", "factor": "tool"}, json),
            "frame itself": self.owner.post(f"/api/frames/{frame.pk}/truth", upload("frame")),
            "used by a study": self.owner.delete(f"/api/frames/{frame.pk}"),
            "from one to 12 steps": self.owner.post(
                f"/api/studies/{study.pk}/contenders", {"steps": []}, json
            ),
            "no such": self.owner.get("/api/nonsense"),
            "absence": self.owner.put(
                f"/api/contenders/{contender.pk}/outputs/{frame.pk}", {"absence": " ."[:1]}, json
            ),
        }
        for words, answer in cases.items():
            with self.subTest(words):
                self.assertIn(answer.status_code, (400, 404, 409))
                self.assertEqual(answer.headers["Content-Type"], "application/problem+json")
                said = answer.json()
                self.assertEqual(set(said), {"type", "title", "status", "detail"})
                self.assertIn(words.lower(), said["detail"].lower())
