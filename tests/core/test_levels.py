"""Levels other than sharpness by a mask: noise, coarse contrast, size, and a blur undone;
what was put in is found again, and what it costs told.
"""

from __future__ import annotations

import unittest
from functools import cache
from typing import Any

import numpy as np
from PIL import Image

from glenhail.core.errors import NotMeasurable
from glenhail.core.level.contrast import coarse_gain, contrast_said, match_contrast
from glenhail.core.level.costs import AtOneLevel, costs_told
from glenhail.core.level.deconvolved import deconvolution_said, match_by_deconvolution
from glenhail.core.level.noise import match_noise, noise_said
from glenhail.core.level.size import match_size, size_said
from glenhail.core.level.told import levelled_told, slider_step
from glenhail.core.level.way import Levelled, Way
from glenhail.core.level.ways import DONE, MATCH, SAID, WHAT
from glenhail.core.measures.catalogue import Patch
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats, Rect
from tests.core.lying import laid_as_they_are
from tests.core.test_level import scene, soft
from tests.pictures import picture

NAMES = ("A", "B")
SKY = Patch("Sky", "flat", Rect(40, 30, 120, 80))
ROOF = Patch("Roof", "texture", Rect(130, 140, 160, 120))


def done(of: Floats, method: str, **values: Any) -> Floats:
    return np.clip(treat(of, method, values), 0, 1).astype(np.float32)


@cache
def noisy() -> Floats:
    return soft(0.02)


class Noise(unittest.TestCase):
    def setUp(self) -> None:
        laid_as_they_are(self)

    def test_the_filter_that_was_put_in_is_found_again(self) -> None:
        other = done(noisy(), "guided", radius=4, variance=0.002)
        found = match_noise(
            picture(noisy()), picture(noisy()), picture(other), picture(scene()), [SKY, ROOF]
        )
        self.assertAlmostEqual(float(found.values["variance"]) / 0.002, 1, delta=0.05)
        self.assertIn("a slider does it", found.said)
        self.assertAlmostEqual(found.numbers["left"], 1, delta=0.01)

    def test_one_that_keeps_detail_is_worth_its_method(self) -> None:
        other = soft(0.004)
        found = match_noise(
            picture(noisy()), picture(noisy()), picture(other), picture(scene()), [SKY, ROOF]
        )
        self.assertRegex(found.said, r"as clean as B and .*less detail.*B's method is worth it\.")
        noise = next(r for r in found.readings if (r.measure, r.patch) == ("noise_luma", "Sky"))
        assert noise.before and noise.made and noise.other
        self.assertAlmostEqual(noise.made / noise.other, 1, delta=0.05)

    def test_what_no_filter_reaches_and_what_needs_none(self) -> None:
        even = noisy().copy()
        even[20:120, 20:180] = even[20:120, 20:180].mean()
        found = match_noise(picture(noisy()), picture(noisy()), picture(even), None, [SKY])
        self.assertIn("no such filter reaches it", found.said)
        back = match_noise(picture(noisy()), picture(even), picture(noisy()), None, [SKY])
        self.assertEqual(back.method, "")
        self.assertIn("nothing has to be taken away", back.said)

    def test_without_a_plain_patch_it_asks_for_one(self) -> None:
        for patches in ([], [ROOF], [Patch("Roof", "flat", ROOF.rect)]):
            with self.subTest(patches), self.assertRaisesRegex(NotMeasurable, "plain patch"):
                match_noise(
                    picture(soft()), picture(noisy()), picture(soft()), picture(scene()), patches
                )


class Contrast(unittest.TestCase):
    def setUp(self) -> None:
        laid_as_they_are(self)

    def test_the_gain_that_was_put_in_is_found_again(self) -> None:
        for gain in (0.8, 1.1, 1.25):
            with self.subTest(gain):
                other = done(soft(0.005), "contrast", gain=gain, pivot=140)
                told, pivot = coarse_gain(picture(soft(0.005)), picture(other))
                self.assertAlmostEqual(told.value, gain, delta=0.01)
                self.assertAlmostEqual(pivot, 140, delta=3)
                self.assertLess(told.high - told.low, 0.05)

    def test_contrast_sold_as_sharpness_is_told_apart(self) -> None:
        one = soft()
        raised = done(one, "contrast", gain=1.2, pivot=128)
        sharper = done(one, "unsharp", gain=1.0, reach=0.8)
        for other, words in (
            (raised, "what looks like sharpness is contrast"),
            (sharper, "what it has of sharpness is no contrast"),
            (done(raised, "unsharp", gain=1.0, reach=0.8), "% of what looks like sharpness"),
        ):
            with self.subTest(words):
                found = match_contrast(picture(scene()), picture(one), picture(other))
                self.assertIn(words, found.said)

    def test_at_equal_contrast_both_are_measured(self) -> None:
        other = done(soft(0.01), "contrast", gain=1.2, pivot=128)
        found = match_contrast(
            picture(scene()), picture(soft(0.01)), picture(other), picture(scene()), [SKY, ROOF]
        )
        noise = next(r for r in found.readings if (r.measure, r.patch) == ("noise_luma", "Sky"))
        assert noise.before and noise.made and noise.other
        self.assertAlmostEqual(noise.made / noise.before, 1.2, delta=0.02)
        self.assertIn("no worse in what was measured", found.said)

    def test_an_even_picture_has_no_contrast_to_tell_by(self) -> None:
        even = picture(np.full((200, 200, 3), 0.3, dtype=np.float32))
        with self.assertRaisesRegex(NotMeasurable, "too even"):
            coarse_gain(even, even)


class Size(unittest.TestCase):
    def test_plain_enlarging_is_held_against_the_larger_one(self) -> None:
        one = soft(0.01)
        other = done(one, "lanczos", factor=2)
        found = match_size(
            picture(scene()), picture(one), picture(other), picture(scene()), [SKY, ROOF]
        )
        self.assertEqual(found.values["factor"], 2)
        self.assertEqual(found.made.pixels.shape, other.shape)
        self.assertIn("Enlarged 2 times by Lanczos, A is as large as B", found.said)
        self.assertIn("plain resampling does it", found.said)
        # Held against Pillow's own, of 8-bit codes: the same filter (Pillow's docs, LANCZOS).
        codes = [
            Image.fromarray(np.rint(255 * p).astype(np.uint8)) for p in (one, found.made.pixels)
        ]
        theirs = np.asarray(codes[0].resize(codes[1].size, Image.Resampling.LANCZOS), dtype=float)
        inner = np.s_[16:-16, 16:-16]
        apart = np.abs(theirs - np.asarray(codes[1], dtype=float))[inner]
        self.assertLess(float(apart.mean()), 1.0)

    def test_one_size_needs_nothing_and_too_far_apart_is_refused(self) -> None:
        found = match_size(picture(scene()), picture(soft()), picture(scene()))
        self.assertEqual((found.method, found.readings), ("", ()))
        self.assertIn("of one size already", found.said)


class Deconvolution(unittest.TestCase):
    def setUp(self) -> None:
        laid_as_they_are(self)

    def test_the_filter_that_was_put_in_is_reached(self) -> None:
        one = soft(0.001)
        other = done(one, "wiener", size=0.8, balance=0.01)
        found = match_by_deconvolution(
            picture(scene()), picture(one), picture(other), picture(scene()), [SKY]
        )
        self.assertLess(found.numbers["left"], 0.05)
        self.assertIn("A is as sharp as B, and no worse", found.said)
        self.assertEqual(len(found.fitted), found.curve.ratio.size if found.curve else -1)

    def test_what_is_as_sharp_is_left_alone(self) -> None:
        found = match_by_deconvolution(picture(scene()), picture(scene()), picture(soft()))
        self.assertEqual(found.method, "")


def reading(measure: str, made: float | None, other: float | None) -> AtOneLevel:
    return AtOneLevel(measure, "P", "", 1.0, made, other)


class Words(unittest.TestCase):
    def test_what_is_worse(self) -> None:
        for readings, worse, read in (
            ([], [], []),
            ([reading("noise_luma", 1.3, 1.0)], ["is 30 % noisier"], ["noise_luma"]),
            ([reading("noise_luma", 1.05, 1.0)], [], ["noise_luma"]),
            ([reading("noise_luma", 5.0, 0.0)], ["is over 900 % noisier"], ["noise_luma"]),
            ([reading("detail_kept", 40.0, 80.0)], ["keeps 50 % less detail"], ["detail_kept"]),
            ([reading("detail_kept", 80.0, 40.0)], [], ["detail_kept"]),
            ([reading("mtf50", None, 0.2)], [], []),
        ):
            with self.subTest(worse=worse):
                asked = ("noise_luma", "detail_kept", "mtf50")
                self.assertEqual(costs_told(readings, asked), (worse, read))

    def test_each_way_says_what_its_numbers_do(self) -> None:
        for told, words in (
            (contrast_said({"gain": 0.9, "fine": 1.3}, (), NAMES), "is no contrast."),
            (contrast_said({"gain": 1.2, "fine": 1.0}, (), NAMES), "and no more sharpness."),
            (contrast_said({"gain": 1.1, "fine": 1.21}, (), NAMES), "50 % of what looks like"),
            (noise_said({"variance": 0.01, "left": 1.4}, (), NAMES), "with 40 % more noise left"),
            (size_said({"factor": 0.5}, (), NAMES), "Made 0.5 times its size by Lanczos"),
            (
                deconvolution_said({"size": 1.0, "balance": 0.1, "left": 0.5}, (), NAMES),
                "no such filter reaches it",
            ),
        ):
            with self.subTest(words):
                self.assertIn(words, told)

    def test_all_ways_are_told(self) -> None:
        for told in (MATCH, SAID, DONE, WHAT):
            self.assertEqual(set(told), set(Way))

    def test_a_step_is_the_middle_of_what_frames_take(self) -> None:
        def frame(**values: float | str) -> dict[str, Any]:
            made = Levelled(picture(scene()), "guided", values, {}, (), "")
            return levelled_told(made)

        told = [frame(radius=4.0, variance=v) for v in (0.001, 0.00312345, 0.1)]
        none = levelled_told(Levelled(picture(scene()), "", {}, {}, (), ""))
        step = slider_step([none, *told])
        assert step is not None
        self.assertEqual(step.method, "guided")
        self.assertEqual(
            {s.name: s.value for s in step.settings}, {"radius": 4, "variance": 0.00312}
        )
        self.assertIsNone(slider_step([none]))
