"""Sensor noise whose truth is known by construction."""

from __future__ import annotations

import unittest

import numpy as np

from glenhail.core.degrade.noise import Sensor, photograph


class Noise(unittest.TestCase):
    def test_the_photon_transfer_curve_gives_back_gain_and_read_noise(self) -> None:
        # Janesick, Photon Transfer (2007): variance against mean is a line; slope 1/gain, intercept
        # read noise squared.
        sensor, iso = Sensor(full_well=40_000, read_noise=5.0), 3200
        levels = np.linspace(0.02, 0.7, 9)
        fields = [
            photograph(np.full((150, 150, 3), v, np.float32), sensor, iso, i)
            for i, v in enumerate(levels)
        ]
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
