"""A burst's mean as truth."""

from __future__ import annotations

import unittest

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.errors import BadRequest
from glenhail.core.picture import Picture
from glenhail.core.truth.burst import Burst, burst_mean
from tests.pictures import photograph as reference
from tests.pictures import picture

SENSOR = Sensor(20_000, 4)


def mean_of(frames: list[Picture]) -> Burst:
    return burst_mean([lambda f=f: f for f in frames])  # type: ignore[misc]


class Bursts(unittest.TestCase):
    def setUp(self) -> None:
        self.scene = reference("china")
        self.shots = [photograph(self.scene, SENSOR, 800, seed) for seed in range(9)]

    def test_the_mean_of_nine_has_a_third_of_the_noise_and_what_passed_through_one_is_gone(
        self,
    ) -> None:
        passing = self.shots[4].copy()
        passing[100:140, 200:260] = 1.0  # a bird
        frames = [picture(p) for p in (*self.shots[:4], passing, *self.shots[5:])]
        made = mean_of(frames)
        unclipped = self.scene < 0.9
        one, mean = (float((p - self.scene)[unclipped].std()) for p in (self.shots[0], made.mean))
        # Left-out values cost a little; the square root of nine is three.
        self.assertAlmostEqual(one / mean, 3, delta=0.05)
        self.assertLess(float(np.abs(made.mean - self.scene)[105:135, 205:255].max()), 0.12)
        self.assertAlmostEqual(made.rejected, 40 * 60 / (427 * 640 * 9), delta=3e-4)
        self.assertAlmostEqual(made.temporal / made.left, 3, delta=0.02)

    def test_what_is_no_burst_is_refused_with_the_frames_name(self) -> None:
        first, second, third = (picture(p) for p in self.shots[:3])
        moved = picture(np.roll(self.shots[2], 3, axis=1))
        brighter = picture(self.shots[2] * 1.1)
        smaller = picture(self.shots[2][:200])
        other = picture(photograph(reference("flower"), SENSOR, 800, 1))
        for frames, words in (
            ([first, second], "3 to 64 frames; 2"),
            ([first, second, moved], "moved by"),
            ([first, second, brighter], "0.14 EV"),
            ([first, second, smaller], "640 × 200"),
            ([first, second, other], "Leave it out"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadRequest, words):
                mean_of(frames)
        mean_of([first, second, third])
        # Deep shadow at a high ISO, cut off at black as files are: still one exposure.
        dark = [
            picture(np.clip(photograph(self.scene / 10, SENSOR, 6400, seed), 0, 1))
            for seed in range(3)
        ]
        mean_of(dark)

    def test_each_frames_own_noise_is_told_apart_from_what_stays(self) -> None:
        # Pixels differ by 2 % in what they catch, as a real sensor's do, and frames in noise; half
        # of the scene is plain.
        rng = np.random.default_rng(5)
        plain = self.scene.clip(0.02, 0.9)
        plain[:200] = plain[200:400]  # its roofs rather than its sky
        plain[200:] = np.linspace(0.2, 0.35, 640, dtype=np.float32)[None, :, None]
        pattern = 1 + 0.02 * rng.standard_normal((427, 640, 1)).astype(np.float32)
        field = plain * pattern
        wells = (20_000, 20_000, 5_000, 20_000)
        shots = [photograph(field, Sensor(w, 0), 800, seed) for seed, w in enumerate(wells)]
        made = mean_of([picture(s) for s in shots])
        for shot, noise in zip(shots, made.noises, strict=True):
            true = float((srgb.encode(shot) - srgb.encode(field)).std() * 255)
            self.assertAlmostEqual(noise / true, 1, delta=0.05)
        below = srgb.luma(field[200:]) * 255
        self.assertAlmostEqual(
            made.fixed / float((below - below.mean(axis=0)).std()), 1, delta=0.06
        )
        still = [photograph(plain, Sensor(20_000, 0), 800, seed) for seed in range(4)]
        self.assertLess(mean_of([picture(s) for s in still]).fixed, 0.35)
