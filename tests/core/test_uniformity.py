"""Fixed pattern out of stacks, against simulated sensors by code of their own."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from glenhail.core.sensor.uniformity import (
    LEAST_FRAMES,
    Stack,
    Stacked,
    dark_non_uniformity,
    response_non_uniformity,
    stacked,
)
from tests.core.simulated_sensors import SimulatedSensor

SENSOR = SimulatedSensor(side=320, prnu=0.008)
Y, X = np.mgrid[0:320, 0:320] / 320
SHADED = 12_000 * (1 - 0.3 * ((X - 0.5) ** 2 + (Y - 0.5) ** 2))


def planes(
    sensor: SimulatedSensor, light: np.ndarray | float, seed: int, frames: int = 12
) -> list[Stack]:
    rng, fixed = np.random.default_rng(seed), sensor.fixed(4)
    stacks = [Stacked() for _ in range(4)]
    for _ in range(frames):
        mosaic = sensor.frame(light, fixed, rng)
        for at, stack in enumerate(stacks):
            stack.add(mosaic.plane(at // 2, at % 2), mosaic.black)
    found = [stack.result() for stack in stacks]
    return [f for f in found if f is not None]


class Uniformity(unittest.TestCase):
    def test_response_differs_by_what_was_put_in_whatever_the_shading(self) -> None:
        for name, light in (("even", 12_000.0), ("shaded", SHADED)):
            with self.subTest(name):
                within = 0
                for seed in range(6):
                    flat, dark = planes(SENSOR, light, seed), planes(SENSOR, 0.0, seed + 50)
                    found = response_non_uniformity(flat, dark)
                    assert found is not None
                    self.assertAlmostEqual(found.value / SENSOR.prnu, 1, delta=0.06)
                    own = SENSOR.fixed(4).std()
                    within += found.low <= own <= found.high
                self.assertGreaterEqual(within, 4)

    def test_a_sensor_without_pattern_shows_none(self) -> None:
        even = replace(SENSOR, prnu=0.0)
        found = response_non_uniformity(planes(even, 12_000.0, 1), planes(even, 0.0, 2))
        self.assertTrue(found is None or found.value < 0.0012, found)

    def test_few_frames_tell_nothing(self) -> None:
        self.assertEqual(planes(SENSOR, 9000.0, 1, LEAST_FRAMES - 1), [])
        self.assertEqual(len(planes(SENSOR, 9000.0, 1, LEAST_FRAMES)), 4)
        self.assertIsNone(stacked([], 0.0))

    def test_dark_pattern_rows_and_hot_pixels_are_told_apart(self) -> None:
        rng = np.random.default_rng(7)
        pattern = rng.normal(0, 3, (256, 256))
        rows = rng.normal(0, 2, (256, 1))
        hot = rng.random((256, 256)) < 0.001
        frames = [
            np.rint(512 + pattern + rows + 80 * hot + rng.normal(0, 4, (256, 256))).astype(
                np.uint16
            )
            for _ in range(16)
        ]
        found = stacked(frames, 512.0)
        assert found is not None
        self.assertAlmostEqual(found.rows, 2, delta=0.35)
        self.assertLess(found.columns, 0.5)
        self.assertAlmostEqual(found.hot, hot.mean(), delta=0.0003)
        told = dark_non_uniformity([found], 2.0)
        assert told is not None
        self.assertAlmostEqual(told.value, np.hypot(3, 2) / 2, delta=0.12)
