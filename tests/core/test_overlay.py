"""Outputs laid over their frames, and parts of pictures put together from tiles."""

from __future__ import annotations

import unittest

import numpy as np
import skimage.data

from glenhail.core.files.pyramid import TILE, part_of
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.overlay import overlay
from glenhail.core.picture import Mapping, Rect
from tests.pictures import photograph, picture

FRAME = Rect(0, 0, 640, 427)


def laid(pixels: np.ndarray, mapping: Mapping) -> AlignedPicture:
    made = picture(pixels)
    return AlignedPicture(made, mapping, made.bounds)


class Overlays(unittest.TestCase):
    def setUp(self) -> None:
        self.frame = photograph("china")

    def test_an_output_of_the_frames_own_grid_is_untouched_wherever_it_was_cut(self) -> None:
        for left, top, right, bottom in ((0, 0, 640, 427), (13, 7, 640, 427), (5, 0, 600, 400)):
            with self.subTest(left=left, top=top):
                cut = self.frame[top:bottom, left:right]
                over = overlay(laid(cut, Mapping(1, 1, -left, -top)), FRAME)
                self.assertEqual((over.x, over.y), (left, top))
                np.testing.assert_array_equal(over.pixels, cut)

    def test_pixels_doubled_come_back_as_they_were(self) -> None:
        doubled = self.frame.repeat(2, axis=0).repeat(2, axis=1)
        over = overlay(laid(doubled, Mapping(2, 2, 0, 0)), FRAME)
        self.assertEqual((over.x, over.y), (0, 0))
        np.testing.assert_allclose(over.pixels, self.frame, atol=1e-6)

    def test_on_a_finer_grid_all_layers_have_its_size_and_lie_on_one_another(self) -> None:
        doubled = self.frame.repeat(2, axis=0).repeat(2, axis=1)
        own = overlay(laid(doubled, Mapping(2, 2, 0, 0)), FRAME, 2)
        plain = overlay(laid(self.frame, Mapping(1, 1, 0, 0)), FRAME, 2)
        cut = overlay(laid(self.frame[20:, 30:], Mapping(1, 1, -30, -20)), FRAME, 2)
        self.assertEqual(own.pixels.shape, plain.pixels.shape)
        self.assertEqual(own.pixels.shape, (854, 1280, 3))
        np.testing.assert_allclose(own.pixels, doubled, atol=1e-5)
        self.assertEqual((cut.x, cut.y), (60, 40))
        inner = cut.pixels[20:-20, 20:-20]
        same = plain.pixels[60:-20, 80:-20]
        np.testing.assert_allclose(inner, same, atol=1e-4)


class Parts(unittest.TestCase):
    def test_any_part_is_the_pictures_own_and_each_tile_is_read_once(self) -> None:
        codes = np.tile(skimage.data.astronaut(), (3, 3, 1))[:1100, :1300]
        read: list[tuple[int, int]] = []

        def tile(column: int, row: int) -> np.ndarray:
            read.append((column, row))
            left, top = column * TILE, row * TILE
            return codes[top : top + TILE, left : left + TILE]

        for x, y, w, h in (
            (0, 0, 1, 1),
            (511, 511, 2, 2),
            (512, 512, 512, 512),
            (1290, 1090, 10, 10),
            (3, 5, 1200, 1090),
        ):
            with self.subTest(x=x, y=y):
                read.clear()
                found = part_of(Rect(x, y, w, h), tile)
                np.testing.assert_array_equal(found, codes[y : y + h, x : x + w])
                self.assertEqual(len(read), len(set(read)))
                across = (x + w - 1) // TILE - x // TILE + 1
                down = (y + h - 1) // TILE - y // TILE + 1
                self.assertEqual(len(read), across * down)
