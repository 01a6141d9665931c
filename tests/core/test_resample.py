"""Filters: held against Pillow's. Area averages: held against plain means, against
OpenCV's, and against themselves however they are worked through.
"""

from __future__ import annotations

import unittest
from unittest import mock

import cv2
import numpy as np
from PIL import Image

from glenhail.core.filters import resample as module
from glenhail.core.filters.resample import FILTERS, resample
from glenhail.core.filters.taps import separable
from glenhail.core.picture import Rect
from tests.seeds import drawn

# Pillow, "Image.resize" on mode F: the library that these three came from.
PILLOWS = {
    "bilinear": Image.Resampling.BILINEAR,
    "bicubic": Image.Resampling.BICUBIC,
    "lanczos": Image.Resampling.LANCZOS,
}


class Area(unittest.TestCase):
    def test_whole_ratios_are_means_of_blocks(self) -> None:
        for case, rng in drawn(6):
            down, across, channels = (int(n) for n in rng.integers(1, 9, 3))
            height, width = (int(n) for n in rng.integers(1, 60, 2))
            values = rng.random((height * down, width * across, min(3, channels)), dtype=np.float32)
            blocks = (
                values.reshape(height, down, width, across, -1).astype(np.float64).mean(axis=(1, 3))
            )
            with self.subTest(case):
                found = resample(
                    values, Rect(0, 0, width * across, height * down), width, height, "area"
                )
                np.testing.assert_allclose(found, blocks, atol=2e-6)

    def test_any_reduction_is_the_one_of_opencv(self) -> None:
        # OpenCV's INTER_AREA (4.x) averages exactly over the area too, where it reduces.
        for case, rng in drawn(6):
            height, width = (int(n) for n in rng.integers(40, 400, 2))
            h, w = (int(n * rng.uniform(0.05, 1)) + 1 for n in (height, width))
            values = rng.random((height, width, 3), dtype=np.float32)
            with self.subTest(case):
                found = resample(values, Rect(0, 0, width, height), w, h, "area")
                np.testing.assert_allclose(
                    found, cv2.resize(values, (w, h), interpolation=cv2.INTER_AREA), atol=2e-5
                )

    def test_a_part_keeps_its_mean_wherever_its_borders_lie_within_a_pixel(self) -> None:
        for case, rng in drawn(6):
            values = rng.random((90, 120), dtype=np.float32)
            x, y = rng.uniform(0, 40, 2)
            part = Rect(
                float(x), float(y), float(rng.uniform(20, 120 - x)), float(rng.uniform(20, 90 - y))
            )
            found = resample(values, part, 7, 5, "area")
            # The mean of a part is the integral over it: of a table of sums, at its corners.
            table = np.pad(values.astype(np.float64).cumsum(0).cumsum(1), ((1, 0), (1, 0)))

            def up_to(px: float, py: float, table: np.ndarray = table) -> float:
                c, r = min(int(px), 119), min(int(py), 89)
                a, b = px - c, py - r
                corners = table[r, c] * (1 - a) * (1 - b) + table[r, c + 1] * a * (1 - b)
                return float(corners + table[r + 1, c] * (1 - a) * b + table[r + 1, c + 1] * a * b)

            right, bottom = part.x + part.w, part.y + part.h
            whole = (
                up_to(right, bottom)
                - up_to(part.x, bottom)
                - up_to(right, part.y)
                + up_to(part.x, part.y)
            )
            with self.subTest(case):
                self.assertAlmostEqual(float(found.mean()), whole / (part.w * part.h), places=5)

    def test_colours_planes_bands_and_threads_make_no_difference(self) -> None:
        for case, rng in drawn(4):
            values = rng.random((int(rng.integers(200, 700)), 93, 3), dtype=np.float32)
            box = Rect(3.4, 5.25, 80.5, values.shape[0] - 20.0)
            for method in FILTERS:
                whole = resample(values, box, 31, 150, method)
                with self.subTest(f"{case}, {method}"):
                    self.assertEqual(
                        (whole.dtype, whole.shape, whole.flags.c_contiguous),
                        (np.float32, (150, 31, 3), True),
                    )
                    for i in range(3):
                        np.testing.assert_array_equal(
                            resample(values[..., i], box, 31, 150, method), whole[..., i]
                        )
                    for band, least in ((1, 1), (7, 64), (1000, 10_000)):
                        with (
                            mock.patch.object(module, "BAND", band),
                            mock.patch.object(module, "FEW_ROWS", least),
                        ):
                            np.testing.assert_array_equal(
                                resample(values, box, 31, 150, method), whole
                            )

    def test_filters_are_those_of_pillow_to_the_last_bit_but_one(self) -> None:
        for case, rng in drawn(12):
            h, w, height, width = (int(n) for n in rng.integers(5, 300, 4))
            values = rng.random((h, w, 3), dtype=np.float32)
            left, top = rng.uniform(0, w / 2), rng.uniform(0, h / 2)
            part = left, top, rng.uniform(left + 1, w), rng.uniform(top + 1, h)
            for box in ((0.0, 0.0, float(w), float(h)), tuple(map(float, part))):
                for method, its in PILLOWS.items():
                    planes = (
                        Image.fromarray(np.ascontiguousarray(values[..., i])) for i in range(3)
                    )
                    theirs = [p.resize((width, height), its, box=box) for p in planes]
                    with self.subTest(f"{case}, {method}, {box}"):
                        np.testing.assert_allclose(
                            separable(values, box, width, height, method),
                            np.stack([np.asarray(plane) for plane in theirs], axis=-1),
                            atol=2.4e-7,
                        )

    def test_what_stays_as_large_as_it_is_stays_as_it_is(self) -> None:
        values = np.random.default_rng(4).random((40, 30, 3), dtype=np.float32)
        for method in FILTERS:
            found = resample(values, Rect(0, 0, 30, 40), 30, 40, method)
            np.testing.assert_array_equal(found, values, method)
            self.assertFalse(np.shares_memory(found, values), method)

    def test_a_filter_nobody_knows_is_named(self) -> None:
        with self.assertRaisesRegex(ValueError, "unknown filter 'soft', one of nearest"):
            resample(np.zeros((4, 4), dtype=np.float32), Rect(0, 0, 4, 4), 2, 2, "soft")
