"""Flat patches with something in them are told; noise of any grain is not taken for
structure.
"""

from __future__ import annotations

import unittest

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, OWN, Patch, take
from glenhail.core.measures.noise import not_plain
from glenhail.core.measures.plainness import structure_in
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.suggested_patches import suggest
from glenhail.core.picture import Floats, Mapping, Rect
from tests.pictures import noisy, photograph, picture
from tests.seeds import drawn


def surface(rng: np.random.Generator, side: int, grain: float, codes: float = 5.0) -> Floats:
    """An evenly lit surface that falls off to one side, under noise of a Gaussian's
    grain.
    """
    noise = rng.normal(size=(side + 40, side + 40, 3))
    if grain:
        noise = scipy.ndimage.gaussian_filter(noise, (grain, grain, 0)) * 2 * np.sqrt(np.pi) * grain
    y, x = np.mgrid[0:side, 0:side] / side
    level = 120 + rng.uniform(-30, 30) * x + rng.uniform(-10, 10) * y**2
    return np.asarray(
        srgb.decode(((level[..., None] + codes * noise[20:-20, 20:-20]) / 255).astype(np.float32))
    )


class Plain(unittest.TestCase):
    def test_noise_of_any_grain_is_plain(self) -> None:
        alarms = 0
        for _, rng in drawn(60):
            alarms += bool(
                structure_in(
                    surface(rng, int(rng.integers(48, 160)), rng.uniform(0, 3), rng.uniform(1, 12))
                )
            )
        self.assertLessEqual(alarms, 3)

    def test_things_in_a_patch_are_told(self) -> None:
        rng = np.random.default_rng(3)
        y, x = np.mgrid[0:96, 0:96]
        for name, shape in {
            "a helmet": 90.0 * ((y - 40) ** 2 + (x - 60) ** 2 < 15**2),
            "a speck of light": 160.0 * ((y - 20) ** 2 + (x - 20) ** 2 < 3**2),
            "an edge": 40.0 * (x + 0.2 * y > 50),
            "a weave": 8 * np.sin(0.9 * x + 0.4 * y),
            "tiles": 10.0 * ((x // 4 + y // 4) % 2),
        }.items():
            with self.subTest(name):
                codes = srgb.encode(surface(rng, 96, 0)) + (shape / 255)[..., None]
                self.assertTrue(structure_in(srgb.decode(codes.astype(np.float32))))

    def test_parts_of_photographs_are_not_taken_for_plain(self) -> None:
        told = 0
        for _, rng in drawn(40):
            photo = photograph(("astronaut", "coffee", "chelsea")[rng.integers(3)])
            y, x = (int(rng.integers(n - 96)) for n in photo.shape[:2])
            part = photo[y : y + 96, x : x + 96]
            busy = float(srgb.luma(part).std()) * 255 > 12
            told += (
                bool(structure_in(np.clip(noisy(part, 1500, int(rng.integers(1000))), 0, 1)))
                or not busy
            )
        self.assertGreaterEqual(told, 36)

    def test_a_reading_of_such_a_patch_has_a_reason_whatever_the_output(self) -> None:
        rng = np.random.default_rng(4)
        codes = srgb.encode(surface(rng, 96, 0))
        codes[30:60, 40:70] += 0.3
        frame = picture(srgb.decode(codes))
        smooth = picture(scipy.ndimage.gaussian_filter(frame.pixels, (6, 6, 0)))
        for output in (frame, smooth):
            s = Subject(frame, AlignedPicture(output, Mapping(), output.bounds))
            for measure in (
                "noise_luma",
                "noise_chroma",
                "snr",
                "grain",
                "unevenness",
                "banding_rows",
            ):
                self.assertIn(
                    "not plain",
                    take(s, MEASURES[measure], Patch("p", "flat", Rect(0, 0, 96, 96))).reason or "",
                )
        self.assertTrue(not_plain(s, Rect(0, 0, 96, 96)))

    def test_suggested_patches_read_something_in_their_frame(self) -> None:
        for name in ("coffee", "chelsea", "flower"):
            frame = picture(np.clip(noisy(photograph(name), 3000), 0, 1))
            s = Subject(frame, AlignedPicture(frame, Mapping(), frame.bounds))
            for one in suggest(frame):
                if one.role not in ("texture", "face"):
                    with self.subTest(name, role=one.role):
                        found = take(s, MEASURES[OWN[one.role]], Patch("p", one.role, one.rect))
                        self.assertIsNotNone(found.value, found.reason)
