"""Runs the web part's unit tests (Vitest) and reports each of them."""

from __future__ import annotations

import json
import subprocess
import tempfile
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
PATIENCE = 300  # seconds


class WebUnits(unittest.TestCase):
    def test_every_unit_test_of_the_web_part_passes(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            told = Path(folder) / "told.json"
            command = [
                "npm",
                "run",
                "--silent",
                "units",
                "--",
                "--reporter=json",
                f"--outputFile={told}",
            ]
            done = subprocess.run(
                command,
                cwd=ROOT / "web",
                capture_output=True,
                text=True,
                timeout=PATIENCE,
                check=False,
            )
            self.assertTrue(told.exists(), done.stdout + done.stderr)
            found = json.loads(told.read_text())
        files = {Path(one["name"]).name for one in found["testResults"]}
        self.assertEqual(files, {p.name for p in (ROOT / "tests" / "web").rglob("*.test.ts")})
        for one in found["testResults"]:
            name = Path(one["name"]).name
            with self.subTest(name):
                self.assertTrue(one["assertionResults"], one.get("message"))
            for case in one["assertionResults"]:
                with self.subTest(f"{name}: {case['fullName']}"):
                    self.assertEqual(
                        case["status"], "passed", "\n".join(case.get("failureMessages", []))
                    )
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr)
