"""All tests are run: each module is in one piece and in no other."""

from __future__ import annotations

from pathlib import Path
from unittest import TestCase

from glenhail.launch.tests import pieces

ROOT = Path(__file__).parents[2]


class Pieces(TestCase):
    def test_each_module_of_tests_is_run_once(self) -> None:
        labels = [name for names in pieces(ROOT) for name in names]
        modules = [
            ".".join(path.relative_to(ROOT).with_suffix("").parts)
            for path in (ROOT / "tests").rglob("test_*.py")
        ]
        self.assertGreater(len(modules), 100)
        for module in modules:
            held = [name for name in labels if f"{module}.".startswith(f"{name}.")]
            self.assertEqual(len(held), 1, module)
