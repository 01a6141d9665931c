"""What outputs cost: medians, spreads, seconds a megapixel, and how long the rest will
take.
"""

from __future__ import annotations

import unittest

from glenhail.core.execution.timing import Spread, Timing, middle, speed, time_left


class Costs(unittest.TestCase):
    def test_the_median_stands_with_the_least_and_the_greatest(self) -> None:
        self.assertEqual(middle([3.0, None, 1.0, 2.0]), Spread(2.0, 1.0, 3.0))
        self.assertEqual(middle([1.0, 2.0]), Spread(1.5, 1.0, 2.0))
        self.assertIsNone(middle([None, None]))

    def test_a_time_that_was_clocked_counts_before_what_was_told_and_megapixels_are_the_source_s(
        self,
    ) -> None:
        runs = [
            Timing(24, 4, 8, 12, 30),
            Timing(12, load_s=2, process_s=None, export_s=4),
            Timing(24),
        ]
        told = speed(runs)
        self.assertEqual(
            (told.runs, told.load, told.export), (3, Spread(3, 2, 4), Spread(8, 4, 12))
        )
        self.assertEqual(told.total, Spread(18, 6, 30))
        self.assertEqual(told.per_megapixel, Spread(0.875, 0.5, 1.25))  # 30 / 24 and 6 / 12

    def test_the_time_left_fills_in_what_is_not_known_and_never_undercuts_the_longest(self) -> None:
        for waiting, side_by_side, seconds in (
            ([10, 10, 10, 10], 2, 20),
            ([10, None, 10, None], 2, 20),
            ([60, 1, 1], 2, 60),
            ([None, None], 2, None),
            ([8], 0, 8),
        ):
            self.assertEqual(time_left(waiting, side_by_side), seconds)
