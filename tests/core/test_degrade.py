"""Noise and targets whose truth is known by construction."""

from __future__ import annotations

import unittest

import numpy as np

from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.degrade.targets import Square, paint_square, paint_wedge
from glenhail.core.measures.subject import Laid, Subject
from glenhail.core.measures.table import MEASURES, Patch, take
from glenhail.core.picture import Mapping, Rect
from tests.pictures import picture


class Noise(unittest.TestCase):
    def test_the_photon_transfer_curve_gives_back_gain_and_read_noise(self) -> None:
        # Janesick, Photon Transfer (2007): variance against mean is a line; slope 1/gain, intercept read noise squared.
        sensor, iso = Sensor(full_well=40_000, read_noise=5.0), 3200
        levels = np.linspace(0.02, 0.7, 9)
        fields = [photograph(np.full((150, 150, 3), v, np.float32), sensor, iso, i) for i, v in enumerate(levels)]
        means, variances = ([float(f(p)) for p in fields] for f in (np.mean, np.var))
        slope, intercept = np.polyfit(means, variances, 1)
        white = sensor.electrons_at_white(iso)
        self.assertAlmostEqual(1 / slope / white, 1, delta=0.02)
        self.assertAlmostEqual(np.sqrt(max(0.0, intercept)) * white, 5, delta=1.5)

    def test_the_same_seed_gives_the_same_picture_and_white_clips(self) -> None:
        scene = np.full((20, 20, 3), 0.99, np.float32)
        one, two, other = (photograph(scene, Sensor(5000, 3), 800, seed) for seed in (1, 1, 2))
        np.testing.assert_array_equal(one, two)
        self.assertFalse(np.array_equal(one, other))
        self.assertEqual(one.max(), 1.0)


class Targets(unittest.TestCase):
    def test_a_painted_slanted_edge_measures_what_its_gaussian_says(self) -> None:
        canvas = np.full((500, 500, 3), 0.75, np.float32)
        square = Square(250, 250, 260, 5, 0.03, 0.75)
        paint_square(canvas, square, 0.8)
        p = picture(canvas)
        reading = take(Subject(p, Laid(p, Mapping(), p.bounds)), MEASURES["mtf50"], Patch("e", "edge", square.edge_patch()))
        self.assertAlmostEqual(reading.value or 0, 0.18739 / 0.8, delta=0.004)
        self.assertAlmostEqual(reading.details["angle_deg"], 5, delta=0.1)

    def test_wedge_fields_are_plain_and_fall_by_equal_stops(self) -> None:
        canvas = np.zeros((60, 800, 3), np.float32)
        fields = paint_wedge(canvas, Rect(0, 0, 800, 60), 5, -8)
        values = [canvas[30, int(f.x + f.w / 2), 0] for f in fields]
        np.testing.assert_allclose(np.diff(np.log2(values)), -2, atol=1e-5)
