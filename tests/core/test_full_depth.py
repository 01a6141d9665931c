"""Full-depth copies: what they keep, and where it lies."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.files.full_depth import (
    BLACK,
    SPAN,
    Layout,
    bytes_of,
    encoded_of,
    steps_of,
    tile_of,
    write_full_depth,
)
from glenhail.core.files.pyramid import TILE, halved, part_of
from glenhail.core.picture import Rect
from tests.pictures import picture
from tests.seeds import SEED


class Steps(unittest.TestCase):
    def test_black_and_white_stand_where_the_format_says(self) -> None:
        found = steps_of(np.array([[[0.0, 1.0, 0.5]]], dtype=np.float32))
        # IEC 61966-2-1: half the light is 0.735357 of the way, encoded.
        self.assertEqual(found.ravel().tolist(), [BLACK, BLACK + SPAN, BLACK + 24096])

    def test_every_8_bit_level_and_every_16_bit_one_comes_back(self) -> None:
        for bits, most in ((8, 0.0), (16, 0.5)):
            with self.subTest(bits=bits):
                top = 2**bits - 1
                levels = np.arange(top + 1)
                light = srgb.decode((levels / top).astype(np.float32).reshape(-1, 1))
                back = encoded_of(steps_of(light.repeat(3, axis=1)))[:, 0] * top
                self.assertLessEqual(np.abs(back - levels).max(), max(most, 0.004) * 2.1)

    def test_what_lies_beyond_srgb_is_kept(self) -> None:
        light = np.array([[[-0.05, 1.4, 2.0]]], dtype=np.float32)
        np.testing.assert_allclose(encoded_of(steps_of(light)), srgb.encode(light), atol=2e-5)

    def test_what_lies_beyond_the_format_is_its_end(self) -> None:
        light = np.array([[[-9.0, 90.0, 3.0]]], dtype=np.float32)
        self.assertEqual(steps_of(light).ravel().tolist(), [0, 65535, 65535])


class Files(unittest.TestCase):
    def test_every_tile_of_every_level_is_the_picture_halved(self) -> None:
        for width, height in ((1100, 700), (513, 512), (40, 30), (1, 1025)):
            with self.subTest(width=width, height=height), tempfile.TemporaryDirectory() as folder:
                level = np.random.default_rng(SEED).random((height, width, 3), dtype=np.float32)
                layout, path = Layout(width, height), Path(folder) / "copy"
                write_full_depth(picture(level), path)
                data = path.read_bytes()
                self.assertEqual(len(data), layout.size)
                for number in range(layout.levels):
                    wide, high = layout.at(number)
                    self.assertEqual((high, wide), level.shape[:2])
                    whole = part_of(
                        Rect(0, 0, wide, high),
                        lambda c, r, n=number: self.tile(data, layout, n, c, r),
                    )
                    np.testing.assert_array_equal(whole, steps_of(level))
                    level = halved(level)

    def tile(self, data: bytes, layout: Layout, level: int, column: int, row: int) -> np.ndarray:
        place = layout.tile(level, column, row)
        assert place is not None
        return tile_of(data[place.start : place.start + place.size], place)

    def test_there_is_no_tile_beyond_the_edge(self) -> None:
        layout = Layout(TILE + 1, TILE)
        self.assertIsNotNone(layout.tile(0, 1, 0))
        for level, column, row in ((0, 2, 0), (0, 0, 1), (2, 0, 0), (9, 0, 0)):
            with self.subTest(level=level, column=column, row=row):
                self.assertIsNone(layout.tile(level, column, row))

    def test_planes_are_written_one_after_the_other_and_rounded(self) -> None:
        planes = np.array([[[1.4, 70000.0], [2.6, -3.0]]])
        self.assertEqual(np.frombuffer(bytes_of(planes), "<u2").tolist(), [1, 3, 65535, 0])
