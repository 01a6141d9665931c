"""Line pairs of picture and sensor, and what aliases."""

from __future__ import annotations

import unittest

from glenhail.core.sensor.size import SensorSize
from glenhail.core.targets.sharpness import aliasing_told, line_pairs


class Sharpness(unittest.TestCase):
    def test_a_frequency_in_line_pairs_as_by_hand(self) -> None:
        # 36 x 24 mm of 6,000 x 4,000 px: a pixel is 6 um, so that 0.5 cycles/px are a pair in
        # 12 um, 83.3 a mm and 2,000 a picture height.
        sensor = SensorSize(36, 24, 6000, 4000)
        for cycles, per_height, per_mm in ((0.5, 2000, 83.333), (0.25, 1000, 41.667)):
            found = line_pairs(cycles, 640, sensor)
            self.assertAlmostEqual(found.per_height, per_height)
            self.assertAlmostEqual(found.per_mm or 0, per_mm, places=3)
        alone = line_pairs(0.25, 640, None)
        self.assertEqual((alone.per_height, alone.per_mm), (160, None))

    def test_contrast_at_the_finest_pairs_tells_whether_moire_is_likely(self) -> None:
        for at_half, words in ((0.05, "5 % of contrast is left"), (0.34, "moiré is likely")):
            told = aliasing_told([0, 0.25, 0.5, 1.0], [1, 0.6, at_half, 0])
            self.assertIn(words, told)
        self.assertIn("little that could alias", aliasing_told([0, 0.5], [1, 0.1]))
        self.assertEqual(aliasing_told([0, 0.4], [1, 0.2]), "")
        self.assertEqual(aliasing_told([], []), "")
