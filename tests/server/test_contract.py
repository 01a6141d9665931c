"""The committed OpenAPI document is what the server answers to, and the web part's
types are made from it.
"""

from __future__ import annotations

import subprocess
import unittest
from pathlib import Path

from django.core.management import call_command

ROOT = Path(__file__).resolve().parents[2]


class Contract(unittest.TestCase):
    def test_the_openapi_document_is_current(self) -> None:
        made = ROOT / "var" / "openapi-now.yaml"
        made.parent.mkdir(exist_ok=True)
        call_command("spectacular", file=str(made), validate=True)
        self.assertEqual(
            made.read_text(),
            (ROOT / "openapi.yaml").read_text(),
            "run: manage.py spectacular --file openapi.yaml",
        )

    def test_the_web_parts_types_are_made_from_it(self) -> None:
        made = ROOT / "var" / "schema-now.d.ts"
        command = [
            "npx",
            "--no-install",
            "openapi-typescript",
            str(ROOT / "openapi.yaml"),
            "-o",
            str(made),
        ]
        subprocess.run(command, cwd=ROOT / "web", check=True, capture_output=True)
        self.assertEqual(
            made.read_text(),
            (ROOT / "web/src/api/schema.d.ts").read_text(),
            "run: npm run types, in web/",
        )
