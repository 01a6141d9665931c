"""The made-up tools: each fault is there, and is found by measuring, not by knowing."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from glenhail.core.assess import laid
from glenhail.core.files.reading import read_picture
from glenhail.core.files.writing import write_tiff
from glenhail.core.lineup.border import Border
from glenhail.core.lineup.register import line_up
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.table import MEASURES, Patch, take
from glenhail.core.picture import Mapping, Picture, Rect
from glenhail.core.targets.fields import square_of
from glenhail.core.targets.sheet import paint, sheet_of
from tests.pictures import noisy

SHEET = sheet_of({"width": 800, "height": 800, "fields": [{"kind": "edges", "dark": 0.3, "light": 0.52}, {"kind": "star"},
                                                         {"kind": "wedge"}, {"kind": "lines"}]})  # fmt: skip
CELL = SHEET.cells[0]


class Tools(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        temporary = tempfile.TemporaryDirectory()
        cls.addClassCleanup(temporary.cleanup)
        cls.folder = Path(temporary.name)
        write_tiff(cls.folder / "frame.tif", noisy(paint(SHEET), 1200))
        cls.frame = read_picture(cls.folder / "frame.tif")
        place = square_of(SHEET.fields[0].values, int(CELL.w), int(CELL.h)).edge_patch(0)
        cls.edge = Patch("edge", "edge", Rect(place.x + CELL.x, place.y + CELL.y, place.w, place.h))

    def made(self, tool: str, ending: str = "tif", *options: str) -> Picture:
        target = self.folder / f"{tool}.{ending}"
        command = [sys.executable, "-m", f"glenhail.standins.{tool}", str(self.folder / "frame.tif"), str(target), *options]
        done = subprocess.run(command, capture_output=True, text=True, check=True)
        self.assertEqual(set(json.loads(done.stdout)), {"load_s", "process_s", "export_s"})
        return read_picture(target)

    def read(self, output: Picture, measure: str, patch: Patch | None) -> float:
        value = take(Subject(self.frame, laid(output, line_up(self.frame, output))), MEASURES[measure], patch).value
        assert value is not None
        return value

    def test_mossgate_moves_the_picture_leaves_black_lines_and_opens_shadows(self) -> None:
        output = self.made("mossgate", "png")
        found = line_up(self.frame, output)
        self.assertEqual((found.mapping, found.border), (Mapping(1, 1, 1, 1), Border(1, 1, 0, 0)))
        self.assertEqual(output.facts.bits, 8)

    def test_keenfold_draws_halos_and_sedgewash_does_not(self) -> None:
        self.assertGreater(self.read(self.made("keenfold"), "overshoot", self.edge), 3)
        self.assertLess(self.read(self.made("sedgewash"), "overshoot", self.edge), 2)

    def test_tarnlift_enlarges_and_sharpens_unasked(self) -> None:
        output = self.made("tarnlift", "tif", "--scale", "2")
        self.assertEqual(line_up(self.frame, output).mapping, Mapping(2, 2))
        self.assertGreater(self.read(output, "overshoot", self.edge), 3)

    def test_a_file_that_is_none_ends_with_2_and_its_name(self) -> None:
        command = [sys.executable, "-m", "glenhail.standins.keenfold", "missing.tif", "out.tif"]
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 2)
        self.assertIn("missing.tif", done.stderr)
