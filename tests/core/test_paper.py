"""Crops on paper: they fit the page, keep their shape, and have 300 px in an inch."""

from __future__ import annotations

import unittest

from glenhail.core.articles.paper import GAP, INCH, PAGE, TALLEST, TALLEST_LEAD, paper_crop, repeats


class Paper(unittest.TestCase):
    def test_a_row_fits_between_the_margins_and_every_crop_keeps_its_shape(self) -> None:
        for count in range(1, 21):
            for width, height in ((280, 210), (64, 64), (40, 300), (900, 30), (1, 1)):
                with self.subTest(count=count, width=width, height=height):
                    box = paper_crop(width, height, count)
                    self.assertLessEqual(box.row - GAP, PAGE + 1e-9)
                    self.assertLessEqual(box.height, TALLEST + 1e-9)
                    self.assertAlmostEqual(box.width / box.height, width / height)
                    # No more of them in a row than the rows are even.
                    self.assertLessEqual(round(box.row / (box.width + GAP)), 3)

    def test_four_stand_two_by_two_and_one_alone_takes_no_whole_page(self) -> None:
        cases = {1: 2, 2: 2, 3: 3, 4: 2, 5: 3, 6: 3, 7: 3, 9: 3}
        for count, abreast in cases.items():
            with self.subTest(count=count):
                box = paper_crop(100, 50, count)
                self.assertEqual(round(box.row / (box.width + GAP)), abreast)

    def test_the_lead_is_lower(self) -> None:
        self.assertAlmostEqual(paper_crop(100, 300, 6, TALLEST_LEAD).height, TALLEST_LEAD)

    def test_pixels_are_repeated_until_an_inch_has_300(self) -> None:
        # 25.4 mm of 300 px are enough, of 299 not; small pixels of a large crop are left alone.
        cases = [(300, 25.4, 1), (299, 25.4, 2), (64, 58, 11), (2400, 84, 1), (100, INCH, 3)]
        for pixels, wide, wanted in cases:
            with self.subTest(pixels=pixels, wide=wide):
                self.assertEqual(repeats(pixels, wide), wanted)
                self.assertGreaterEqual(pixels * wanted / (wide / INCH), 300 - 1e-9)
