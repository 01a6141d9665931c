"""Print arithmetic, by hand: an inch is 2.54 cm."""

from __future__ import annotations

import math
import unittest

from glenhail.core.errors import BadRequest
from glenhail.core.prints import print_plan, print_said, print_size, print_sizes, size_said


class Prints(unittest.TestCase):
    def test_by_hand(self) -> None:
        # 6000 px at 300 ppi are 20 in, 50.8 cm; for 101.6 cm twice as many are needed.
        plan = print_plan(6000, 4000, 300, 101.6, 50.8)
        self.assertAlmostEqual(plan.size.width_cm, 50.8)
        self.assertAlmostEqual(plan.size.height_cm, 4000 / 300 * 2.54)
        self.assertAlmostEqual(plan.factor, 2)
        self.assertAlmostEqual(plan.wanted_ppi, 150)
        # From 20 in, a degree is 20 in times twice the tangent of half a degree: 0.349 in, 52 px.
        degree = 40 * math.tan(math.radians(0.5))
        self.assertAlmostEqual(plan.per_degree, 150 * degree)
        self.assertEqual(plan.lost, 0)
        # Sixty of its pixels lie in a degree from so far away.
        self.assertAlmostEqual(plan.nearest_cm, 50.8 * 60 / plan.per_degree)

    def test_the_longer_side_is_meant_whichever_it_is(self) -> None:
        upright, across = print_plan(4000, 6000, 300, 60, 60), print_plan(6000, 4000, 300, 60, 60)
        self.assertEqual(upright.factor, across.factor)
        self.assertEqual(upright.size.height_cm, across.size.width_cm)

    def test_a_size_is_said_to_the_millimetre(self) -> None:
        self.assertEqual(size_said(print_size(6000, 4000, 300)), "50.8 × 33.9 cm")

    def test_words(self) -> None:
        for numbers, words in (
            (
                (6000, 4000, 300, 101.6, 50.8),
                "101.6 cm along the longer side at 300 ppi takes 2.00 times",
            ),
            ((6000, 4000, 300, 50.8, 50.8), "at 300 ppi takes its pixels as they are."),
            ((6000, 4000, 300, 25.4, 50.8), "takes 0.50 of its pixels a side"),
            ((6000, 4000, 300, 101.6, 50.8), "single pixels are told apart up to 58 cm"),
            ((6000, 4000, 300, 50.8, 101.6), "71 % of its finest detail is not seen"),
            ((600, 400, 72, 20, 30), "Changing ppi alone changes no pixel."),
            ((600, 400, 72, 20, 30), "At 72 ppi it prints 21.2 × 14.1 cm (8.3 × 5.6 in)"),
        ):
            with self.subTest(words):
                self.assertIn(words, " ".join(print_said(print_plan(*numbers))))

    def test_numbers_that_make_no_sense_are_refused(self) -> None:
        for numbers in ((600, 400, 0, 20, 30), (600, 400, 300, 1e9, 30), (600, 400, 300, 20, 0)):
            with self.subTest(numbers), self.assertRaises(BadRequest):
                print_plan(*numbers)

    def test_a_files_own_resolution_comes_first_where_it_is_unusual(self) -> None:
        self.assertEqual([p.ppi for p in print_sizes(600, 400, 72)], [72, 300, 240])
        self.assertEqual([p.ppi for p in print_sizes(600, 400, 300)], [300, 240])
