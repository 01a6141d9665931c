"""A plan is read as it was written, carried out without a server, and held against what
was published.
"""

from __future__ import annotations

import contextlib
import csv
import io
import stat
import tempfile
import tomllib
import unittest
from pathlib import Path
from typing import Any

import numpy as np
from skimage.data import astronaut

from glenhail.core.__main__ import main
from glenhail.core.colour import srgb
from glenhail.core.errors import BadFile
from glenhail.core.execution.command import Command
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.files.pixels import pixels_hash
from glenhail.core.lineup.points import PointPair
from glenhail.core.measures.reading import Reading
from glenhail.core.picture import Rect
from glenhail.core.plans.compared import held_against
from glenhail.core.plans.plan import (
    Plan,
    PlannedContender,
    PlannedFrame,
    PlannedPatch,
    as_toml,
    own_versions,
    plan_of,
)
from glenhail.core.plans.report import readings_csv
from glenhail.core.plans.study import Taken
from glenhail.core.treatments.step import Setting, Step, Treatment
from glenhail.core.uses.table import USES, print_of

COPY = Command("copier", ("{input}", "{output}", "--mode={mode}"), ".tif", 60, 1000, 100)
GAUSSIAN = Step(
    "Gaussian",
    method="gaussian",
    settings=(Setting("luma", 1.5, "px"), Setting("colour", 1.5, "px")),
)
PATCHES = (
    PlannedPatch("Face", "texture", Rect(60.0, 40.0, 80.0, 80.0)),
    PlannedPatch("Wall", "flat", Rect(4.0, 4.0, 60.0, 50.0)),
)


def planned(**changed: Any) -> Plan:
    points = {"A": (PointPair(1.0, 2.0, 3.5, 4.0), PointPair(9.0, 8.0, 7.0, 6.25))}
    names = "Face “A”", "ab" * 32, "a.tif", "cd" * 32, "t.tif", ""
    frame = PlannedFrame(*names, PATCHES, points)
    told = {
        "question": "Which keeps hair?\nReally?",
        "frames": (frame,),
        "contenders": (
            PlannedContender("A", Treatment((GAUSSIAN,)), (None,)),
            PlannedContender(
                "B",
                Treatment(
                    (Step("Copier", "1", "plain", automatic=True), GAUSSIAN), "original file"
                ),
                (COPY, None),
            ),
        ),
        "measures": own_versions(),
        "uses": (USES["post"], USES["video-16"], print_of(90, 60, 240, 80)),
    }
    return Plan(**(told | changed))


class Written(unittest.TestCase):
    def test_it_is_read_as_it_was_written(self) -> None:
        for plan in (planned(), planned(frames=(), contenders=()), Plan("Only this?")):
            with self.subTest(plan.question):
                self.assertEqual(plan_of(as_toml(plan), "p.toml"), plan)

    def test_what_is_wrong_in_it_is_said(self) -> None:
        good = as_toml(planned())
        cases = {
            "no TOML": ("question = ", "no TOML"),
            "another form": (good.replace("plan 1", "plan 9"), "'glenhail plan 9'"),
            "no question": ('format = "glenhail plan 1"', "'question' is missing"),
            "a hash": (good.replace("ab" * 32, "short"), "no SHA-256"),
            "a role": (good.replace('role = "flat"', 'role = "shiny"'), "“shiny” of patch “Wall”"),
            "no size": (
                good.replace("60.0, 50.0]", "0.0, 50.0]"),
                "“Wall” of “Face “A”” has no size",
            ),
            "two letters": (good.replace('letter = "B"', 'letter = "A"'), "one letter"),
            "taken letter": (good.replace('letter = "B"', 'letter = "T"'), "no letter"),
            "a path": (good.replace('"copier"', '"../copier"'), "directory of allowed"),
            "a point": (good.replace("3.5, 4.0]", "nan, 4.0]"), "a point of A"),
            "half a point": (good.replace("3.5, 4.0]", "3.5]"), "PointPair"),
            "a character": (good.replace("Really?", "\\u0000?"), "NUL"),
            "a use": (good.replace("ppi = 240", "ppi = 0"), "20 to 2400 ppi"),
            "frames": (
                'format = "glenhail plan 1"\nquestion = "x"\nframes = 3',
                "frames is a list",
            ),
        }
        for name, (text, words) in cases.items():
            with self.subTest(name), self.assertRaisesRegex(BadFile, "(?s)p.toml.*") as told:
                plan_of(text, "p.toml")
            self.assertIn(words, str(told.exception))

    def test_it_is_plain_toml_that_others_read(self) -> None:
        told = tomllib.loads(as_toml(planned()))
        self.assertEqual(told["contenders"][1]["steps"][0]["command"]["program"], "copier")
        self.assertEqual(told["frames"][0]["patches"][0]["rect"], [60.0, 40.0, 80.0, 80.0])


class CarriedOut(unittest.TestCase):
    """One frame with its truth, a built-in method, a program, and one that is nowhere."""

    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.folder = Path(temporary.name)
        clean = srgb.decode(astronaut()[40:240, 120:320].astype(np.float32) / 255)
        clean[:70, :80] = 0.3
        noisy = clean + np.random.default_rng(3).normal(0, 0.02, clean.shape).astype(np.float32)
        pictures = self.folder / "pictures" / "deep"
        pictures.mkdir(parents=True)
        # Not under the names that the plan has: pixels alone count.
        for name, pixels in (("x.tif", noisy), ("y.tif", clean)):
            write_tiff(pictures / name, np.clip(pixels, 0, 1))
        (pictures / "notes.txt").write_text("no picture")
        hashes = [pixels_hash(read_picture(pictures / n).pixels) for n in ("x.tif", "y.tif")]
        programs = self.folder / "tools"
        programs.mkdir()
        copier = programs / "copier"
        copier.write_text('#!/bin/sh\ncp "$1" "$2"\n')
        copier.chmod(copier.stat().st_mode | stat.S_IXUSR)
        frame = PlannedFrame("Face", hashes[0], "a.tif", hashes[1], "t.tif", "", PATCHES)
        step = Step("Copier", "1", "plain")
        contenders = (
            PlannedContender("A", Treatment((GAUSSIAN,)), (None,)),
            PlannedContender("B", Treatment((step,)), (COPY,)),
            PlannedContender("C", Treatment((Step("Elsewhere", "2"),)), (None,)),
        )
        self.plan = planned(frames=(frame,), contenders=contenders, uses=(USES["post"],))
        self.path = self.folder / "plan.toml"
        self.path.write_text(as_toml(self.plan), "utf-8")

    def study(self, out: str, *more: str, pictures: str = "pictures") -> tuple[int, str, str]:
        said, wrong = io.StringIO(), io.StringIO()
        line = ["study", str(self.path), "--frames", str(self.folder / pictures)]
        line += ["--tools", str(self.folder / "tools"), "--out", str(self.folder / out), *more]
        with contextlib.redirect_stdout(said), contextlib.redirect_stderr(wrong):
            status = main(line)
        return status, said.getvalue(), wrong.getvalue()

    def test_outputs_and_readings_are_there_and_twice_the_same(self) -> None:
        status, said, _ = self.study("one")
        self.assertEqual(status, 1)  # C has no program
        self.assertIn("no output: C of Face: Elsewhere 2: it has no command", said)
        self.assertRegex(said, r"2 outputs, \d{2,} readings")
        made = sorted(p.name for p in (self.folder / "one" / "outputs" / "face").iterdir())
        self.assertEqual([name[0] for name in made], ["A", "B"])
        table = self.folder / "one" / "readings.csv"
        text = table.read_text("utf-8")
        # What only copies has the frame's own noise; the method takes some away.
        values = {
            row["letter"]: row["value"]
            for row in csv.DictReader(io.StringIO(text))
            if (row["patch"], row["measure"]) == ("Wall", "noise_luma")
        }
        self.assertEqual(values["B"], values["U"])
        self.assertLess(float(values["A"]), 0.7 * float(values["U"]))
        page = (self.folder / "one" / "index.html").read_text("utf-8")
        for words in ("Which keeps hair?", "Face (texture)", "data:image/png", "C: no output"):
            self.assertIn(words, page)
        _, said, _ = self.study("two", "--against", str(table))
        self.assertRegex(said, r"\d{2,} equal, 0 differing, 0 not taken here, 0 not told there")
        changed = text.replace(f",{values['A']},", ",9.5,", 1)
        self.assertNotEqual(changed, text)
        table.write_text(changed, "utf-8")
        _, said, _ = self.study("three", "--against", str(table))
        self.assertIn("differing: noise_luma of A, Wall, Face: 9.5 there", said)

    def test_pictures_that_are_nowhere_are_named(self) -> None:
        (self.folder / "pictures" / "deep" / "y.tif").unlink()
        status, said, wrong = self.study("one")
        self.assertEqual(status, 2)
        self.assertIn("missing: the truth of Face (t.tif)", said)
        self.assertIn("--allow-missing", wrong)
        self.assertFalse(list((self.folder / "one").iterdir()))
        status, said, _ = self.study("two", "--allow-missing")
        self.assertIn("2 outputs", said)
        self.assertNotIn(",psnr,1", (self.folder / "two" / "readings.csv").read_text("utf-8"))

    def test_nothing_is_written_over_and_a_method_without_frames_is_told(self) -> None:
        (self.folder / "full").mkdir()
        (self.folder / "full" / "kept.txt").write_text("kept")
        status, _, wrong = self.study("full")
        self.assertEqual((status, "is not empty" in wrong), (2, True))
        self.path.write_text(as_toml(planned(frames=())), "utf-8")
        self.assertIn("a method without frames", self.study("one")[2])
        self.path.write_bytes(b"\xff\xfe\x00")
        self.assertIn("it is no text", self.study("one")[2])


class HeldAgainst(unittest.TestCase):
    def taken(self, *values: float | None) -> list[Taken]:
        return [Taken(0, 0, "A", Reading("psnr", "Face", v, v, v, "dB", "1")) for v in values]

    def test_namesakes_are_compared_in_their_order_and_other_sets_passed_over(self) -> None:
        plan = planned()
        table = readings_csv(plan, self.taken(30.0, 31.0))
        self.assertEqual(held_against(plan, self.taken(30.0, 31.0), table).equal, 2)
        close = held_against(plan, self.taken(30.0 * (1 + 5e-7), 31.0), table)
        self.assertEqual((close.equal, close.differing), (2, ()))
        found = held_against(plan, self.taken(31.0, 30.0, 7.0, None), table)
        self.assertEqual((found.equal, len(found.differing), found.only_here), (0, 2, 1))
        found = held_against(plan, self.taken(30.0), table)
        self.assertEqual(found.only_there, ("psnr of A, Face, Face “A”",))
        other = table.replace("reason\r\n", "reason,basis\r\n").replace(",,\r\n", ",,,matched\r\n")
        self.assertEqual(held_against(plan, self.taken(30.0), other).only_here, 1)
