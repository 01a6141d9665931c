"""The plan of a published study takes every reading again from what the edition offers."""

from __future__ import annotations

import contextlib
import csv
import io
import json
import tempfile
import tomllib
import zipfile
from dataclasses import replace
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from PIL import Image

from glenhail.core.__main__ import main
from glenhail.core.files.pixels import pixels_hash
from glenhail.core.picture import Rect
from glenhail.core.plans.plan import (
    Plan,
    PlannedContender,
    PlannedFrame,
    PlannedPatch,
    as_toml,
    plan_of,
)
from glenhail.core.treatments.step import Step, Treatment
from glenhail.core.uses.own import own_use
from glenhail.core.uses.table import USES
from glenhail.server.jobs.models import Job
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame
from glenhail.server.publishing.models import Edition
from glenhail.server.studies.models import Study
from tests.server.base import stream_of, upload, work
from tests.server.test_runs import COPY, JSON, RunsTest

POSTER = {
    "name": "poster, 60 cm",
    "width": 4000,
    "height": 6000,
    "jpeg": None,
    "ppi": 150,
    "distance_cm": 60,
    "part": 1,
}


class Plans(RunsTest):
    def test_readings_are_the_same_from_the_command_line_as_on_the_bench(self) -> None:
        self.owner.delete(f"/api/contenders/{self.study.contenders.get(letter='A').pk}")
        method = {"tool": "Guided filter", "method": "guided", "settings": []}
        self.enter(method)
        self.enter({"tool": "Copier", "release": "1", "mode": "", "settings": []}, script=COPY)
        self.assertEqual(self.ask()["queued"], 2)
        work()
        self.place_by_hand()
        self.see_in_use()
        self.owner.post(f"{self.base}/editions", {"note": ""}, JSON)
        work()
        edition = Edition.objects.get()
        with tempfile.TemporaryDirectory() as room:
            folder = Path(room)
            pack = zipfile.ZipFile(stream_of(self.client.get(f"{edition.address}everything.zip")))
            pack.extractall(folder)
            told = tomllib.loads((folder / "report" / "plan.toml").read_text("utf-8"))
            self.assertEqual(
                [[s["tool"] for s in c["steps"]] for c in told["contenders"]],
                [["Guided filter"], ["Copier"]],
            )
            said = io.StringIO()
            line = ["study", str(folder / "report" / "plan.toml")]
            line += ["--frames", str(folder / "originals"), "--out", str(folder / "out")]
            line += ["--tools", str(settings.TOOLS_DIR)]
            line += ["--against", str(folder / "report" / "readings.csv")]
            with contextlib.redirect_stdout(said), contextlib.redirect_stderr(io.StringIO()):
                status = main(line)
            self.assertEqual(status, 0, said.getvalue())
            self.assertRegex(said.getvalue(), r"\n\d{2,} equal, 0 differing, 0 not taken here")
            self.assertEqual(list(told["frames"][0]["points"]), ["B"])
            self.assertEqual([u["id"] for u in told["uses"]], ["post"])
            seen = list(csv.DictReader((folder / "out" / "seen.csv").open(newline="")))
            self.assertEqual({row["letter"] for row in seen}, {"U", "T", "B", "C"})
            for row in seen:
                with Image.open(folder / "out" / row["file"]) as made:
                    self.assertEqual(made.size, (int(row["width"]), int(row["height"])))
            # The outputs themselves are those that were published, pixel by pixel.
            with contextlib.redirect_stdout(said):
                self.assertEqual(main(["verify", str(self.bundle(edition, folder))]), 0)
            bad = pack.read("report/plan.toml").replace(b'letter = "C"', b'letter = "D"')
            self.assertNotEqual(bad, pack.read("report/plan.toml"))
            with contextlib.redirect_stdout(io.StringIO()) as out:
                status = main(["verify", "--json", str(self.bundle(edition, folder, bad))])
            self.assertEqual(status, 1)
            kinds = {c["kind"] for c in json.loads(out.getvalue())["others"]}
            self.assertIn("plan", kinds)

    def place_by_hand(self) -> None:
        """Half a pixel beside where it is found: readings rest on it."""
        output = self.study.contenders.get(letter="B").outputs.get()
        places = [(50, 60), (400, 80), (300, 300)]
        pairs = [{"x": x, "y": y, "u": x + 0.5, "v": y} for x, y in places]
        answer = self.owner.put(f"/api/outputs/{output.pk}/points", {"pairs": pairs}, JSON)
        self.assertEqual(answer.status_code, 204, answer.content)
        work()

    def see_in_use(self) -> None:
        part = {"frame": self.frame.pk, "x": 20, "y": 20, "w": 90, "h": 60}
        view = {**part, "letters": ["B"], "seen_as": "post"}
        answer = self.owner.post(f"{self.base}/report/figures", view, JSON)
        self.assertEqual(answer.status_code, 201, answer.content)

    def test_another_bench_takes_it_over_with_the_frames_that_it_has(self) -> None:
        pixels = pixels_hash(decoded(self.frame.picture).pixels)
        truth = pixels_hash(decoded(self.frame.truth).pixels)
        patches = (PlannedPatch("Sky", "flat", Rect(20.0, 20.0, 90.0, 60.0)),)
        frames = (
            PlannedFrame("Roofs", pixels, "r.tif", truth, patches=patches),
            PlannedFrame("Nowhere", "ab" * 32, "n.tif", patches=patches),
        )
        step = Step("Sedgewash", "3.0", strength=40.0)
        contenders = (PlannedContender("K", Treatment((step,)), (None,)),)
        own = own_use("own-7", POSTER)
        plan = Plan("Taken over?", "tool", frames, contenders, uses=(USES["post"], own))
        with tempfile.TemporaryDirectory() as room:
            path = Path(room) / "plan.toml"
            path.write_text(as_toml(plan), "utf-8")
            said = io.StringIO()
            call_command("take_plan", str(path), "--by", "editor", stdout=said)
            self.assertIn("not on this bench: Nowhere (n.tif)", said.getvalue())
            self.assertNotIn("another truth", said.getvalue())
            self.assertIn("1 frames, 1 patches, 1 contenders", said.getvalue())
            study = Study.objects.get(question="Taken over?")
            # What ships is there already.
            self.assertEqual([u.name for u in study.bench.own_uses.all()], ["poster, 60 cm"])
            self.assertEqual(study.study_frames.get().frame, self.frame)
            self.assertEqual(study.patches.get().drawn, ["Sky", "flat", 20, 20, 90, 60])
            words = study.contenders.get(letter="A").treatment.told.steps[0].words
            self.assertEqual(words, "Sedgewash 3.0, strength 40 %")
            other = replace(frames[0], truth="cd" * 32)
            path.write_text(as_toml(Plan("Another?", frames=(other,))), "utf-8")
            call_command("take_plan", str(path), "--by", "editor", stdout=said)
            self.assertIn("another truth, or none: Roofs", said.getvalue())
            before = Study.objects.count()
            path.write_text(as_toml(Plan("Mine?", factor="whim")), "utf-8")
            for who, words in (
                ("viewer", "takes an editor"),
                ("editor", "What varies"),
                ("x", "no account"),
            ):
                with self.assertRaisesMessage(CommandError, words):
                    call_command("take_plan", str(path), "--by", who, stdout=said)
            path.write_text("nothing")
            with self.assertRaisesMessage(CommandError, "plan.toml"):
                call_command("take_plan", str(path), "--by", "editor", stdout=said)
            self.assertEqual(Study.objects.count(), before)

    def test_a_plan_begins_a_study_in_the_browser_and_its_frames_are_looked_for(self) -> None:
        pixels = pixels_hash(decoded(self.frame.picture).pixels)
        patches = (PlannedPatch("Sky", "flat", Rect(20.0, 20.0, 90.0, 60.0)),)
        frames = (
            PlannedFrame("Roofs", pixels, "other-name.tif", patches=patches),
            PlannedFrame("Loft", "ab" * 32, "loft.tif", patches=patches),
        )
        step = Step("Sedgewash", "3.0", strength=40.0)
        contenders = (PlannedContender("K", Treatment((step,)), (None,)),)
        plan = Plan("Begun?", "tool", frames, contenders, {"psnr": "0", "ssim": "no"})
        answer = self.send("editor", as_toml(plan).encode())
        self.assertEqual(answer.status_code, 201, answer.content)
        study = Study.objects.get(question="Begun?")
        self.assertEqual(answer.json()["study"], study.pk)
        # Treatments are there at once, frames once somebody has looked.
        self.assertEqual(study.contenders.get(letter="A").title, "Sedgewash 3.0")
        self.assertEqual(study.study_frames.count(), 0)
        path = f"/api/studies/{study.pk}/plan"
        waiting = self.owner.get(path).json()["plan"]
        self.assertEqual((waiting["looking"], waiting["looked"]), (True, None))
        # Work that was cancelled is none, and nothing was looked for.
        job = Job.objects.get(kind="find planned frames")
        self.owner.post(f"/api/jobs/{job.pk}/cancel")
        self.assertIs(self.owner.get(path).json()["plan"]["looking"], False)
        self.owner.post(path)
        work()
        told = self.owner.get(path).json()["plan"]
        self.assertEqual((told["missing"], told["other_truth"]), (["Loft (loft.tif)"], []))
        self.assertEqual(told["other_measures"], ["psnr", "ssim"])
        self.assertEqual(study.patches.get().drawn, ["Sky", "flat", 20, 20, 90, 60])
        # What somebody changed meanwhile stays when the bench is looked through again.
        study.patches.all().delete()
        self.assertEqual(self.owner.post(path).status_code, 202)
        work()
        self.assertEqual((study.study_frames.count(), study.patches.count()), (1, 0))
        # What was dropped into the study itself gets the plan's patches too.
        stored = self.client_of("owner").post("/api/frames", upload("other")).json()["id"]
        work()
        late = Frame.objects.get(pk=stored)
        loft = replace(frames[1], pixels=pixels_hash(decoded(late.picture).pixels))
        study.plan.text = as_toml(replace(plan, frames=(frames[0], loft)))
        study.plan.save()
        home = f"/api/studies/{study.pk}"
        self.owner.post(f"{home}/frames", {"frame": late.pk}, JSON)
        self.owner.post(path)
        work()
        self.assertEqual([p.frame for p in study.patches.all()], [late])
        self.assertEqual(self.owner.get(path).json()["plan"]["missing"], [])
        self.assertIsNone(self.owner.get(f"{self.base}/plan").json()["plan"])
        self.assertEqual(self.owner.post(f"{self.base}/plan").status_code, 404)

    def test_what_is_no_plan_begins_nothing_and_says_what_is_wrong(self) -> None:
        before = Study.objects.count()
        good = as_toml(Plan("Whose?"))
        cases: list[tuple[bytes, str]] = [
            (b"\xff\xfe", "no text in UTF-8"),
            (b"x" * 4_000_001, "larger than a plan may be"),
            (b"= nothing", "no TOML"),
            (b'format = "another 7"', "Only 'glenhail plan 1' is known"),
            (good.replace("Whose?", " ").encode(), "no question"),
            (as_toml(Plan("Whose?", "whim")).encode(), "What varies"),
        ]
        for data, words in cases:
            with self.subTest(words=words):
                answer = self.send("editor", data)
                self.assertEqual(answer.status_code, 400)
                self.assertIn(words, answer.json()["detail"])
        self.assertEqual(self.send("viewer", good.encode()).status_code, 403)
        self.assertEqual(Study.objects.count(), before)

    def test_a_method_can_be_saved_and_taken_over_with_everything_but_frames(self) -> None:
        self.enter({"tool": "Copier", "release": "1", "mode": "", "settings": []}, script=COPY)
        answer = self.owner.get(f"{self.base}/method.toml")
        self.assertIn("method.toml", answer["Content-Disposition"])
        plan = plan_of(answer.content.decode(), "method.toml")
        self.assertEqual((plan.frames, plan.question), ((), self.study.question))
        titles = [c.treatment.steps[-1].tool for c in plan.contenders]
        self.assertEqual(titles[-1], "Copier")
        command = plan.contenders[-1].commands[-1]
        self.assertTrue(command and command.program)
        # Where there is nothing to be looked for there is no work.
        self.assertEqual(self.send("editor", answer.content).status_code, 201)
        self.assertFalse(Job.objects.filter(kind="find planned frames").exists())
        made = Study.objects.latest("pk")
        self.assertIsNotNone(made.plan.looked)
        told = [c.treatment.told for c in made.contenders.filter(treatment__isnull=False)]
        self.assertEqual(told, [c.treatment for c in plan.contenders])

    def send(self, who: str, data: bytes) -> Any:
        file = SimpleUploadedFile("plan.toml", data)
        return self.client_of(who).post("/api/plans", {"file": file})

    def bundle(self, edition: Edition, folder: Path, plan: bytes = b"") -> Path:
        """The download as a file; with another plan, if asked for."""
        data = stream_of(self.client.get(f"{edition.address}everything.zip")).getvalue()
        path = folder / "bundle.zip"
        if not plan:
            path.write_bytes(data)
            return path
        with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(path, "w") as new:
            for name in old.namelist():
                new.writestr(name, plan if name.endswith("plan.toml") else old.read(name))
        return path
