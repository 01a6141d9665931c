"""A burst's mean as truth."""

from __future__ import annotations

import unittest

import numpy as np

from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.errors import BadRequest
from glenhail.core.truth.burst import burst_mean
from tests.pictures import photograph as reference
from tests.pictures import picture

SENSOR = Sensor(20_000, 4)


class Bursts(unittest.TestCase):
    def setUp(self) -> None:
        self.scene = reference("china")
        self.shots = [photograph(self.scene, SENSOR, 800, seed) for seed in range(9)]

    def test_the_mean_of_nine_has_a_third_of_the_noise_and_what_passed_through_one_is_gone(self) -> None:
        passing = self.shots[4].copy()
        passing[100:140, 200:260] = 1.0  # a bird
        frames = [picture(p) for p in (*self.shots[:4], passing, *self.shots[5:])]
        made = burst_mean(frames)
        unclipped = self.scene < 0.9
        one, mean = (float((p - self.scene)[unclipped].std()) for p in (self.shots[0], made.mean))
        # Left-out values cost a little; the square root of nine is three.
        self.assertAlmostEqual(one / mean, 3, delta=0.05)
        self.assertLess(float(np.abs(made.mean - self.scene)[105:135, 205:255].max()), 0.12)
        self.assertAlmostEqual(made.rejected, 40 * 60 / (427 * 640 * 9), delta=3e-4)
        self.assertAlmostEqual(made.temporal / made.left, 3, delta=1e-6)

    def test_what_is_no_burst_is_refused_with_the_frames_name(self) -> None:
        first, second, third = (picture(p) for p in self.shots[:3])
        moved = picture(np.roll(self.shots[2], 3, axis=1))
        brighter = picture(self.shots[2] * 1.1)
        smaller = picture(self.shots[2][:200])
        other = picture(photograph(reference("flower"), SENSOR, 800, 1))
        for frames, words in (
            ([first, second], "at least 3"),
            ([first, second, moved], "moved by"),
            ([first, second, brighter], "0.14 EV"),
            ([first, second, smaller], "640 x 200"),
            ([first, second, other], "Leave it out"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadRequest, words):
                burst_mean(frames)
        burst_mean([first, second, third])
