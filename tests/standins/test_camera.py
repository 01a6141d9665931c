"""The stand-in camera's bodies: what they write is what was exposed, in every form; and
what is read of it is what they were made with.
"""

from __future__ import annotations

import contextlib
import io
import json
import sys
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np

from glenhail.core.__main__ import main as core
from glenhail.core.errors import BadFile
from glenhail.core.files.decoding import read_facts, read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.files.raw import read_mosaic
from glenhail.standins import series
from glenhail.standins.camera import BODIES, SIX_BY_SIX, expose, write_dng


def wedge(height: int = 300, width: int = 480) -> np.ndarray:
    """Light from a fiftieth of white to nearly all of it."""
    row = np.geomspace(0.02, 0.9, width)[None, :, None]
    return np.repeat(np.repeat(row, height, axis=0), 3, axis=2).astype(np.float32)


class Camera(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def test_every_body_writes_the_codes_it_exposed(self) -> None:
        for key, body in BODIES.items():
            with self.subTest(key):
                codes = expose(wedge(), body, 800, 3)
                path = self.folder / f"{key}.dng"
                write_dng(path, codes, body, {"iso": 800, "shutter_s": 0.01, "aperture": 4})
                mosaic = read_mosaic(path)
                np.testing.assert_array_equal(mosaic.values, codes)
                self.assertEqual(mosaic.pattern, body.pattern)
                self.assertEqual((mosaic.black, mosaic.white), (body.black, body.white))
                facts = read_facts(path)
                self.assertEqual((facts.camera, facts.iso), (body.model, 800))

    def test_packing_loses_nothing_and_saves_room(self) -> None:
        body = BODIES["quill61"]
        codes = expose(wedge(), body, 100, 4)
        sizes = []
        for packed in (False, True):
            path = self.folder / f"{packed}.dng"
            write_dng(path, codes, replace(body, packed=packed), {"iso": 100})
            np.testing.assert_array_equal(read_mosaic(path).values, codes)
            sizes.append(path.stat().st_size)
        self.assertLess(sizes[1], 0.9 * sizes[0])

    def test_six_by_six_filters_are_developed_and_too_small_ones_refused_with_the_reason(
        self,
    ) -> None:
        body = BODIES["quill61"]
        self.assertEqual(body.pattern, SIX_BY_SIX)
        grey = np.full((540, 600, 3), 0.3, np.float32)
        for size, refused in (((540, 600), False), ((300, 600), True)):
            path = self.folder / f"{size[0]}.dng"
            codes = expose(grey[: size[0]], replace(body, corner_stops=0), 100, 5)
            write_dng(path, codes, body, {"iso": 100})
            if refused:
                with self.assertRaisesRegex(BadFile, "6 x 6 mosaic under 512 px"):
                    read_picture(path)
                continue
            means = read_picture(path).pixels.mean(axis=(0, 1))
            np.testing.assert_allclose(means, means.mean(), rtol=0.02)

    def test_uneven_response_is_the_bodys_own_and_the_same_in_every_exposure(self) -> None:
        flat = np.full((240, 240, 3), 0.6, np.float32)
        body = replace(BODIES["lull2"], corner_stops=0, hot=0)
        mean = np.mean([expose(flat, body, 100, seed) for seed in range(12)], axis=0)
        green = mean[0::2, 1::2]
        # Twelve frames' noise left in the mean: photons of 0.6 of the well.
        noise = np.sqrt(0.6 * body.full_well / 12) / (0.6 * body.full_well)
        spread = green.std() / green.mean()
        self.assertAlmostEqual(spread, np.hypot(body.uneven, noise), delta=0.0015)

    def told(self, *arguments: str) -> dict[str, Any]:
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            self.assertEqual(core(["sensor", "--json", *arguments]), 0)
        return dict(json.loads(out.getvalue()))

    def shot(self, key: str, *options: str) -> list[str]:
        """A series as the command line shoots it."""
        scene, folder = self.folder / "scene.tif", self.folder / key
        write_tiff(scene, wedge())
        given = ["series", str(scene), str(folder), "--body", key, *options]
        with mock.patch.object(sys, "argv", given):
            self.assertEqual(series.main(), 0)
        return [str(p) for p in sorted(folder.iterdir())]

    def test_a_series_is_shot_in_pairs_and_read_as_the_body_was_made(self) -> None:
        files = self.shot("quill61", "--isos", "100", "1600", "--dark", "2")
        self.assertEqual(len(files), 8)
        body = BODIES["quill61"]
        told = self.told(*files)
        (of,) = told["bodies"]
        self.assertEqual((of["name"], told["left_out"]), (body.model, []))
        for at, read in zip(of["facts"]["isos"], body.read_noise, strict=True):
            top = body.full_well * 100 / at["iso"]
            self.assertAlmostEqual(at["top"][0] / top, 1, delta=0.05)
            self.assertAlmostEqual(at["read_noise"][0] / read, 1, delta=0.1)
            self.assertEqual(at["doubts"], [])

    def test_a_body_that_cuts_black_off_is_told_as_such(self) -> None:
        told = self.told(*self.shot("lull2", "--isos", "800", "--dark", "2"))
        (at,) = told["bodies"][0]["facts"]["isos"]
        self.assertIn("black is cut off", " ".join(at["doubts"]))

    def test_a_scene_that_is_none_is_refused_and_nothing_half_is_left(self) -> None:
        (self.folder / "no.tif").write_bytes(b"no picture")
        given = ["series", str(self.folder / "no.tif"), str(self.folder / "made")]
        said = io.StringIO()
        with mock.patch.object(sys, "argv", given), contextlib.redirect_stderr(said):
            self.assertEqual(series.main(), 2)
        self.assertIn("no.tif", said.getvalue())
        self.assertFalse((self.folder / "made").exists())
