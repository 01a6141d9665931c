"""Figures as pictures of a given size: whole pixels, nothing over them, readable words."""

from __future__ import annotations

import unittest

import numpy as np

from glenhail.core.files.contact_sheet import PAPER, SURROUND, Exhibit
from glenhail.core.files.posters import SIZES, TEXT, Poster, draw_poster, grid_of
from glenhail.core.picture import Rect
from glenhail.server.publishing.press import MONO_FONT, TEXT_FONT
from tests.seeds import SEED

# Width and height, how many: columns, rows and magnification.
GRIDS = [
    ((200, 100), 1, (1000, 600), (1, 1, 5)),
    ((200, 100), 4, (1000, 700), (2, 2, 2)),
    ((280, 120), 4, (1862, 860), (2, 2, 2)),
    ((280, 210), 6, (1015, 1100), (2, 3, 1)),
    ((100, 300), 4, (1000, 700), (4, 1, 2)),
    ((900, 700), 2, (1000, 700), (2, 1, 0.5)),
    ((9000, 7000), 2, (100, 700), (1, 2, 100 / 9000)),
    ((90, 60), 12, (1000, 1200), (3, 4, 3)),
]


def exhibit(letter: str, codes: np.ndarray, title: str = "Sedgewash 3.0") -> Exhibit:
    """A crop without surroundings."""
    box = Rect(0, 0, codes.shape[1], codes.shape[0])
    return Exhibit(codes, box, letter, "#225577", title, "Detail kept 0.87 ±0.02")


class Posters(unittest.TestCase):
    def setUp(self) -> None:
        rng = np.random.default_rng(SEED)
        self.codes = [rng.integers(0, 256, (60, 80, 3), np.uint8) for _ in range(5)]

    def drawn(self, size: tuple[int, int], **other: str) -> np.ndarray:
        shown = [exhibit(x, c, **other) for x, c in zip("ABCDE", self.codes, strict=True)]
        poster = Poster("Check cloth, Loom table", "Which is better? · edition 2", shown, 80, 60)
        return np.asarray(draw_poster(poster, size, TEXT_FONT, MONO_FONT))

    def test_rows_are_those_in_which_crops_are_largest(self) -> None:
        for size, count, room, (columns, rows, times) in GRIDS:
            with self.subTest(size=size, count=count):
                grid = grid_of(count, size, room, 100)
                self.assertEqual((grid.columns, grid.rows), (columns, rows))
                self.assertAlmostEqual(grid.times, times)

    def test_every_crop_is_there_whole_with_nothing_over_it(self) -> None:
        for size in SIZES:
            with self.subTest(size=size):
                made = self.drawn(size)
                self.assertEqual(made.shape, (size[1], size[0], 3))
                # Found by the codes of its first row, each repeated as often as it is magnified.
                spots = set()
                for codes in self.codes:
                    times, (y, x) = self.found(made, codes)
                    whole = codes.repeat(times, axis=0).repeat(times, axis=1)
                    part = made[y : y + whole.shape[0], x : x + whole.shape[1]]
                    np.testing.assert_array_equal(part, whole)
                    spots.add((y, x))
                self.assertEqual(len(spots), 5)

    def found(self, made: np.ndarray, codes: np.ndarray) -> tuple[int, tuple[int, int]]:
        for y, x in np.argwhere((made == codes[0, 0]).all(axis=-1)):
            for times in range(16, 0, -1):
                row = codes[0, :8].repeat(times, axis=0)
                if np.array_equal(made[y, x : x + len(row)], row):
                    return times, (int(y), int(x))
        raise AssertionError("the crop is not there")

    def test_words_can_be_read_on_a_phone(self) -> None:
        # WCAG has no least size; 12 CSS px is common practice, no source.
        for size in SIZES:
            across = 390 if size[0] < size[1] else 390 * size[0] / size[1]
            self.assertGreaterEqual(TEXT * min(size) * across / size[0], 12)

    def test_long_words_end_within_the_picture_and_nothing_is_of_no_ground(self) -> None:
        made = self.drawn((1080, 1350), title="A tool with a very long name indeed, " * 9)
        for edge in (made[:, :4], made[:, -4:]):
            self.assertEqual({tuple(map(int, c)) for c in edge.reshape(-1, 3)}, {PAPER, SURROUND})
