"""The core's command line, as a script would call it."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import numpy as np

from glenhail.core.files.encoding import write_tiff
from tests.pictures import noisy, photograph


def run(*arguments: object) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "glenhail.core", *map(str, arguments)]
    return subprocess.run(command, capture_output=True, text=True, check=False)


class CommandLine(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.temporary = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.temporary.cleanup)
        cls.folder = Path(cls.temporary.name)
        truth = photograph("china")
        write_tiff(cls.folder / "truth.tif", truth)
        write_tiff(cls.folder / "frame.tif", noisy(truth, 900))
        write_tiff(cls.folder / "output.tif", noisy(truth, 5000))
        (cls.folder / "bad.tif").write_bytes(b"II*\0")

    def test_measure_prints_one_json_object(self) -> None:
        done = run(
            "measure",
            "--source",
            self.folder / "frame.tif",
            "--output",
            self.folder / "output.tif",
            "--truth",
            self.folder / "truth.tif",
            "--patch",
            "sky:flat:20,20,80,60",
            "--measures",
            "psnr,noise_luma",
            "--json",
        )
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        found = json.loads(done.stdout)
        self.assertEqual(found["lineup"]["scale"], [1.0, 1.0])
        self.assertEqual(
            [(r["measure"], r["patch"]) for r in found["readings"]],
            [("psnr", "sky"), ("noise_luma", "sky")],
        )
        self.assertGreater(found["readings"][0]["value"], 25)

    def test_several_outputs_are_compared_in_words_and_one_by_one(self) -> None:
        done = run(
            "compare",
            "--source",
            self.folder / "frame.tif",
            "--truth",
            self.folder / "truth.tif",
            "--output",
            f"clean={self.folder / 'output.tif'}",
            "--output",
            f"same={self.folder / 'frame.tif'}",
            "--patch",
            "sky:flat:20,20,80,60",
            "--patch",
            "roof:texture:200,150,160,160",
            "--json",
        )
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        told = json.loads(done.stdout)
        self.assertIn("of the frame's brightness noise", told["findings"][0]["text"])
        answers = {(t["measure"], t["one"], t["other"]): t["answer"] for t in told["standings"]}
        self.assertEqual(answers["psnr", "clean", "U"], "better")
        self.assertEqual(answers["psnr", "same", "U"], "no measurable difference")
        refused = run("compare", "--source", self.folder / "frame.tif", "--output", "nameless.tif")
        self.assertEqual((refused.returncode, "NAME=FILE" in refused.stderr), (2, True))

    def test_a_picture_suggests_patches_in_the_form_that_measure_takes(self) -> None:
        lines = run("suggest", self.folder / "truth.tif").stdout.splitlines()
        self.assertIn("edge", {line.split(":")[0] for line in lines})
        patch = lines[0].split("  ")[0]
        done = run("measure", "--source", self.folder / "truth.tif", "--patch", f"first:{patch}")
        self.assertEqual((done.returncode, done.stderr), (0, ""))

    def test_degrade_writes_what_the_recipe_says_and_tells_it(self) -> None:
        recipe = json.dumps(
            {
                "seed": 3,
                "steps": [{"kind": "shrink", "factor": 2}, {"kind": "plain_noise", "sigma": 5}],
            }
        )
        made = self.folder / "worse.tif"
        done = run("degrade", self.folder / "truth.tif", made, "--recipe", recipe)
        self.assertIn(
            "Shrink, factor 2 x, filter area, on values linear; then Plain noise", done.stdout
        )
        self.assertEqual(json.loads(run("facts", made).stdout)["width"], 320)
        refused = run(
            "degrade", self.folder / "truth.tif", made, "--recipe", '{"steps": [{"kind": "magic"}]}'
        )
        self.assertEqual((refused.returncode, "Choose among" in refused.stderr), (2, True))

    def test_treat_does_what_a_method_does_and_tells_its_times(self) -> None:
        made = self.folder / "treated.tif"
        done = run(
            "treat",
            self.folder / "frame.tif",
            made,
            "--method",
            "bicubic",
            "--values",
            '{"factor": 1.5}',
        )
        told = json.loads(done.stdout.splitlines()[-1])
        self.assertEqual(set(told), {"load_s", "process_s"})
        self.assertEqual(json.loads(run("facts", made).stdout)["width"], 960)
        kept = run(
            "treat",
            self.folder / "frame.tif",
            made,
            "--method",
            "gaussian",
            "--part",
            "0,0,50,100",
            "--strength",
            "50",
        )
        self.assertEqual((kept.returncode, kept.stderr), (0, ""))
        refused = run("treat", self.folder / "frame.tif", made, "--method", "magic")
        self.assertEqual((refused.returncode, "There are nearest" in refused.stderr), (2, True))

    def test_tone_tells_an_exposure_that_was_put_in(self) -> None:
        write_tiff(
            self.folder / "darker.tif", np.asarray(photograph("china") * np.float32(2**-0.3))
        )
        found = json.loads(
            run("tone", self.folder / "truth.tif", self.folder / "darker.tif", "--json").stdout
        )
        self.assertAlmostEqual(found["exposure"]["value"], -0.3, delta=0.01)
        self.assertIn(
            "exposure -0.300",
            run("tone", self.folder / "truth.tif", self.folder / "darker.tif").stdout,
        )
        black = self.folder / "black.tif"
        write_tiff(black, np.zeros((200, 300, 3), np.float32))
        refused = run("tone", black, black)
        self.assertEqual((refused.returncode, "too few areas" in refused.stderr), (2, True))

    def test_bad_input_ends_with_2_and_one_line_that_names_the_file_and_the_remedy(self) -> None:
        source = ("--source", self.folder / "frame.tif")
        cases = {
            "bad.tif": ("facts", self.folder / "bad.tif"),
            "missing.tif": ("facts", self.folder / "missing.tif"),
            "outside": ("measure", *source, "--patch", "p:flat:9000,0,50,50"),
            "NAME:ROLE": ("measure", *source, "--patch", "nonsense"),
            "no such measure": ("measure", *source, "--measures", "beauty"),
            "turned": ("lineup", self.folder / "frame.tif", self.folder / "turned.tif"),
        }
        write_tiff(self.folder / "turned.tif", photograph("china").transpose(1, 0, 2))
        for words, arguments in cases.items():
            with self.subTest(words):
                done = run(*arguments)
                self.assertEqual(done.returncode, 2)
                self.assertEqual(len(done.stderr.splitlines()), 1, done.stderr)
                self.assertIn(words, done.stderr)
