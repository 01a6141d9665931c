"""The made-up tools: each fault is there, and is found by measuring, not by knowing."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.execution.command import Command
from glenhail.core.execution.program import RunResult, run_program
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.lineup.aligned import aligned
from glenhail.core.lineup.border import Border
from glenhail.core.lineup.register import line_up
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from glenhail.core.targets.fields import square_of
from glenhail.core.targets.layout import paint, sheet_of
from glenhail.standins.catalogue import install
from tests.pictures import noisy

SHEET = sheet_of(
    {
        "width": 800,
        "height": 800,
        "fields": [
            {"kind": "edges", "dark": 0.3, "light": 0.52},
            {"kind": "star"},
            {"kind": "wedge"},
            {"kind": "lines"},
        ],
    }
)
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

    def run_tool(
        self, program: str, *options: str, source: str = "frame.tif", ending: str = "tif"
    ) -> RunResult:
        """As a bench runs a tool: a starter among the allowed programs, in a folder of
        its own, within limits.
        """
        install(self.folder / "allowed")
        self.target = self.folder / f"{program}.{ending}"
        line = [
            str(self.folder / "allowed" / program),
            str(self.folder / source),
            str(self.target),
            *options,
        ]
        with tempfile.TemporaryDirectory() as folder:
            return run_program(line, Path(folder), Command(program, ()), f"test-{program}")

    def made(self, program: str, *options: str, ending: str = "tif") -> Picture:
        ran = self.run_tool(program, *options, ending=ending)
        self.assertEqual(ran.trouble, "")
        self.assertIsNotNone(ran.told.load_s)
        self.told = ran.told
        return read_picture(self.target)

    def read(self, output: Picture, measure: str, patch: Patch | None) -> float:
        value = take(
            Subject(self.frame, aligned(output, line_up(self.frame, output))),
            MEASURES[measure],
            patch,
        ).value
        assert value is not None
        return value

    def test_mossgate_moves_the_picture_leaves_black_lines_and_opens_shadows(self) -> None:
        output = self.made("mossgate-11", ending="png")
        found = line_up(self.frame, output)
        self.assertEqual((found.mapping, found.border), (Mapping(1, 1, 1, 1), Border(1, 1, 0, 0)))
        self.assertEqual((output.facts.bits, output.facts.profile), (8, "Mossgate wide"))
        dark = [
            float(np.quantile(srgb.luma(p.pixels[8:-8, 8:-8]), 0.02)) for p in (output, self.frame)
        ]

        self.assertGreater(dark[0], dark[1] + 0.01)
        self.assertGreater(self.told.load_s or 0, 0.3 * 0.64)  # it waits for each megapixel

    def test_keenfold_draws_halos_and_sedgewash_does_not(self) -> None:
        self.assertGreater(self.read(self.made("keenfold-5.1"), "overshoot", self.edge), 3)
        self.assertLess(self.read(self.made("sedgewash-3.0"), "overshoot", self.edge), 2)

    def test_tarnlift_enlarges_and_sharpens_unasked(self) -> None:
        output = self.made("tarnlift-1.8", "--scale", "2", "--detail", "0")
        self.assertEqual(line_up(self.frame, output).mapping, Mapping(2, 2))
        self.assertGreater(self.read(output, "overshoot", self.edge), 3)

    def test_tarnlift_invents_texture_that_was_in_no_scene_and_stops_at_5x(self) -> None:
        plain, invented = (
            self.made("tarnlift-1.8", "--scale=2", f"--detail={d}").pixels for d in (0, 100)
        )
        self.assertGreater(np.abs(srgb.encode(invented) - srgb.encode(plain)).mean(), 0.004)
        self.assertIn("from 1 to 5 times", self.run_tool("tarnlift-1.8", "--scale=7").trouble)

    def test_sedgewash_below_full_strength_leaves_places_untouched_and_takes_raw_where_it_says(
        self,
    ) -> None:
        grey = noisy(np.full((480, 480, 3), 0.2, np.float32), 3200)
        write_tiff(self.folder / "grey.tif", grey)

        def left(program: str, strength: int) -> np.ndarray:
            """Noise left in each square of 24 px, over what there was: an even touch
            leaves as much everywhere.
            """
            self.run_tool(program, f"--strength={strength}", source="grey.tif")
            noises = [luma_noise(p) for p in (read_picture(self.target).pixels, grey)]
            return noises[0] / noises[1]

        self.assertLess(left("sedgewash-3.0", 100).max(), 0.45)
        old, new = left("sedgewash-2.4", 50), left("sedgewash-3.0", 50)
        self.assertGreater(np.quantile(old, 0.8), 0.95)
        self.assertLess(np.quantile(old, 0.2), 0.45)
        self.assertTrue(
            np.quantile(old, 0.2)
            < np.quantile(new, 0.2)
            < np.quantile(new, 0.8)
            < np.quantile(old, 0.8)
        )
        refused = self.run_tool("sedgewash-3.0", "--mode=raw-only").trouble
        self.assertRegex(
            refused, "exit code 4.*raw-only mode takes raw files only, and frame.tif is a TIFF"
        )

    def test_a_file_that_is_none_ends_with_2_and_its_name(self) -> None:
        self.assertRegex(
            self.run_tool("keenfold-5.1", source="missing.tif").trouble, "exit code 2.*missing.tif"
        )


def luma_noise(pixels: Floats) -> np.ndarray:
    luma = srgb.luma(pixels)
    squares = luma.reshape(20, 24, 20, 24).swapaxes(1, 2)
    return np.asarray(squares.std((2, 3)))
