"""Levels other than sharpness by a mask: noise, coarse contrast, size, and a blur undone;
what was put in is found again, and what it costs told.
"""

from __future__ import annotations

import unittest
from functools import cache
from typing import Any

import numpy as np
from PIL import Image

from glenhail.core.assess import assess
from glenhail.core.errors import NotMeasurable
from glenhail.core.level.contrast import coarse_gain, contrast_said
from glenhail.core.level.costs import AtOneLevel, costs_told
from glenhail.core.level.deconvolved import deconvolution_said
from glenhail.core.level.noise import noise_said
from glenhail.core.level.size import size_said
from glenhail.core.level.told import levelled_told, slider_step
from glenhail.core.level.way import Levelled, Sought, Way
from glenhail.core.level.ways import MEANS, brought
from glenhail.core.measures.catalogue import Patch
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats, Rect
from tests.core.lying import laid_as_they_are
from tests.core.test_level import pair_of, scene, soft
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
        found = brought(Way.NOISE, pair_of(noisy(), other, [SKY, ROOF], source=noisy()))
        self.assertAlmostEqual(float(found.sought.values["variance"]) / 0.002, 1, delta=0.05)
        self.assertIn("a slider does it", found.said)
        self.assertAlmostEqual(found.sought.numbers["left"], 1, delta=0.01)

    def test_one_that_keeps_detail_is_worth_its_method(self) -> None:
        other = soft(0.004)
        found = brought(Way.NOISE, pair_of(noisy(), other, [SKY, ROOF], source=noisy()))
        self.assertRegex(found.said, r"as clean as B and .*less detail.*B's method is worth it\.")
        noise = next(r for r in found.readings if (r.measure, r.patch) == ("noise_luma", "Sky"))
        assert noise.before and noise.made and noise.other
        self.assertAlmostEqual(noise.made / noise.other, 1, delta=0.05)

    def test_what_no_filter_reaches_and_what_needs_none(self) -> None:
        even = noisy().copy()
        even[20:120, 20:180] = even[20:120, 20:180].mean()
        found = brought(Way.NOISE, pair_of(noisy(), even, [SKY], source=noisy()))
        self.assertIn("no such filter reaches it", found.said)
        back = brought(Way.NOISE, pair_of(even, noisy(), [SKY], source=noisy()))
        self.assertEqual(back.sought.method, "")
        self.assertIn("nothing has to be taken away", back.said)

    def test_without_a_plain_patch_it_asks_for_one(self) -> None:
        for patches in ([], [ROOF], [Patch("Roof", "flat", ROOF.rect)]):
            with self.subTest(patches), self.assertRaisesRegex(NotMeasurable, "plain patch"):
                brought(Way.NOISE, pair_of(noisy(), soft(), patches))


class Cropped(unittest.TestCase):
    def test_a_plain_patch_that_the_other_does_not_show_tells_nothing(self) -> None:
        with self.assertRaisesRegex(NotMeasurable, "plain patch tells both"):
            brought(Way.NOISE, pair_of(noisy(), soft(0.004)[36:, 20:], [SKY], source=noisy()))


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
                found = brought(Way.CONTRAST, pair_of(one, other))
                self.assertIn(words, found.said)

    def test_at_equal_contrast_both_are_measured(self) -> None:
        other = done(soft(0.01), "contrast", gain=1.2, pivot=128)
        found = brought(Way.CONTRAST, pair_of(soft(0.01), other, [SKY, ROOF]))
        noise = next(r for r in found.readings if (r.measure, r.patch) == ("noise_luma", "Sky"))
        assert noise.before and noise.made and noise.other
        self.assertAlmostEqual(noise.made / noise.before, 1.2, delta=0.02)
        self.assertIn("worse by a tenth in nothing", found.said)

    def test_an_even_picture_has_no_contrast_to_tell_by(self) -> None:
        even = picture(np.full((200, 200, 3), 0.3, dtype=np.float32))
        with self.assertRaisesRegex(NotMeasurable, "too even"):
            coarse_gain(even, even)


class Size(unittest.TestCase):
    def test_plain_enlarging_is_held_against_the_larger_one(self) -> None:
        one = soft(0.01)
        other = done(one, "lanczos", factor=2)
        found = brought(Way.SIZE, pair_of(one, other, [SKY, ROOF]))
        self.assertEqual(found.sought.values["factor"], 2)
        self.assertEqual(found.made.pixels.shape, other.shape)
        self.assertIn("Enlarged 2 times by Lanczos, A is as large as B", found.said)
        self.assertIn("plain resampling does it", found.said)
        # What was made lies as a line-up of its own would have it.
        own = assess(picture(scene()), found.made, picture(scene()), [SKY, ROOF]).readings
        alone = {(r.measure, r.patch): r.value for r in own}
        for r in found.readings:
            if r.made is not None:
                self.assertAlmostEqual(r.made / (alone[r.measure, r.patch] or 0), 1, delta=0.02)
        # Held against Pillow's own, of 8-bit codes: the same filter (Pillow's docs, LANCZOS).
        codes = [
            Image.fromarray(np.rint(255 * p).astype(np.uint8)) for p in (one, found.made.pixels)
        ]
        theirs = np.asarray(codes[0].resize(codes[1].size, Image.Resampling.LANCZOS), dtype=float)
        inner = np.s_[16:-16, 16:-16]
        apart = np.abs(theirs - np.asarray(codes[1], dtype=float))[inner]
        self.assertLess(float(apart.mean()), 1.0)

    def test_one_size_needs_nothing_and_too_far_apart_is_refused(self) -> None:
        found = brought(Way.SIZE, pair_of(soft(), scene()))
        self.assertEqual((found.sought.method, found.readings), ("", ()))
        self.assertIn("of one size already", found.said)


class Deconvolution(unittest.TestCase):
    def setUp(self) -> None:
        laid_as_they_are(self)

    def test_the_filter_that_was_put_in_is_reached(self) -> None:
        one = soft(0.001)
        other = done(one, "wiener", size=0.8, balance=0.01)
        found = brought(Way.DECONVOLUTION, pair_of(one, other, [SKY]))
        self.assertLess(found.sought.numbers["left"], 0.05)
        self.assertIn("A is as sharp as B, and worse by a tenth in nothing", found.said)
        self.assertEqual(
            len(found.sought.fitted), found.sought.curve.ratio.size if found.sought.curve else -1
        )

    def test_what_is_as_sharp_is_left_alone(self) -> None:
        found = brought(Way.DECONVOLUTION, pair_of(scene(), soft()))
        self.assertEqual(found.sought.method, "")


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
        self.assertEqual(set(MEANS), set(Way))

    def test_a_step_is_the_middle_of_what_frames_take(self) -> None:
        def frame(**values: float | str) -> dict[str, Any]:
            return levelled_told(Levelled(Sought("guided", values), picture(scene()), (), ""))

        told = [frame(radius=4.0, variance=v) for v in (0.001, 0.00312345, 0.1)]
        none = levelled_told(Levelled(Sought(), picture(scene()), (), ""))
        step = slider_step([none, *told])
        assert step is not None
        self.assertEqual(step.method, "guided")
        self.assertEqual(
            {s.name: s.value for s in step.settings}, {"radius": 4, "variance": 0.00312}
        )
        self.assertIsNone(slider_step([none]))
