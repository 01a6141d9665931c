"""What was done to raw codes before they were written is told, and only that."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
import scipy.ndimage

from glenhail.core.files.raw import Mosaic
from glenhail.core.sensor.raw_doubts import raw_doubts
from tests.core.simulated_sensors import SimulatedSensor, wedge

SENSOR = SimulatedSensor(side=400, gain=1.2, read=4.0)


def pair(light: np.ndarray | float, seed: int, sensor: SimulatedSensor = SENSOR) -> list[Mosaic]:
    rng, fixed = np.random.default_rng(seed), sensor.fixed(1)
    return [sensor.frame(light, fixed, rng) for _ in range(2)]


def changed(pair_of: list[Mosaic], how: object) -> list[Mosaic]:
    return [replace(m, values=how(m.values.astype(float)).astype(np.uint16)) for m in pair_of]  # type: ignore[operator]


class RawDoubts(unittest.TestCase):
    def test_files_as_the_sensor_gave_them_raise_none(self) -> None:
        quiet = replace(SENSOR, gain=0.1, read=1.0)
        for seed in range(20):
            for light in (0.0, 900.0, wedge(400, 200, 9000)):
                self.assertEqual(raw_doubts(*pair(light, seed)), [])
        self.assertEqual(raw_doubts(*pair(0.0, 1, quiet)), [])

    def test_black_that_was_cut_off(self) -> None:
        cut = changed(pair(0.0, 1), lambda v: np.maximum(v, 512))
        (words,) = raw_doubts(*cut)
        self.assertRegex(words, r"^black is cut off: 5\d % of a dark frame")
        # A lit frame has lost nothing.
        self.assertEqual(raw_doubts(*changed(pair(900.0, 1), lambda v: np.maximum(v, 512))), [])

    def test_noise_that_was_filtered_by_as_much_as_it_was(self) -> None:
        def smooth(values: np.ndarray) -> np.ndarray:
            out = values.copy()
            for row, column in np.ndindex(2, 2):
                plane = values[row::2, column::2]
                # A tenth to each of four neighbours: they go together by 0.27.
                kernel = np.array([[0, 0.1, 0], [0.1, 0.6, 0.1], [0, 0.1, 0]])
                out[row::2, column::2] = scipy.ndimage.convolve(plane, kernel)
            return np.rint(out)

        (words,) = raw_doubts(*changed(pair(900.0, 2), smooth))
        # By hand: 2 x 0.6 x 0.1 over 0.6^2 + 4 x 0.1^2.
        told = float(words.partition("by ")[2].split(",")[0])
        self.assertAlmostEqual(told, 0.12 / 0.40, delta=0.03)
        self.assertIn("told too low", words)

    def test_codes_that_were_stretched(self) -> None:
        stretched = changed(
            pair(wedge(400, 600, 2200), 3), lambda v: np.rint(512 + np.rint((v - 512) / 1.5) * 1.5)
        )
        (words,) = raw_doubts(*stretched)
        self.assertRegex(words, r"^codes were stretched: 3\d % of those between")
