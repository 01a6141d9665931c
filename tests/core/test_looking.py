"""Planes and differences for looking, against other ways to the same numbers."""

from __future__ import annotations

import unittest
from dataclasses import replace

import colour
import numpy as np
import scipy.ndimage
import skimage.color

from glenhail.core.colour import srgb
from glenhail.core.lineup.grids import to_frame_grid
from glenhail.core.looking.differences import (
    ComparedSide,
    Kind,
    common_part,
    difference,
    difference_on_frame,
    halved_mapping,
    on_frame,
)
from glenhail.core.looking.planes import MADE, REACH, Plane, finest_octave, noise_left
from glenhail.core.picture import Bend, Floats, Mapping, Rect
from tests.pictures import photograph
from tests.seeds import SEED


def waves(period: float, side: int = 96) -> Floats:
    """A grating of a period in px, about a mid grey."""
    row = 0.5 + 0.25 * np.cos(2 * np.pi * np.arange(side) / period + 0.3)
    return np.tile(row.astype(np.float32)[:, None], (side, 1, 3))


class Planes(unittest.TestCase):
    def test_the_finest_octave_has_what_the_kernels_formula_leaves_of_a_grating(self) -> None:
        # Response of [1 4 6 4 1]/16 (Burt and Adelson 1983): cos(pi f)^4; what is left is 1 less.
        for period in (2.5, 4.0, 8.0, 32.0):
            with self.subTest(period=period):
                found = finest_octave(waves(period))[40, 20:76, 0]
                want = 0.25 * (1 - np.cos(np.pi / period) ** 4)
                self.assertAlmostEqual(found.std() * np.sqrt(2), want, delta=0.05 * want + 0.002)

    def test_planes_are_what_another_library_makes_of_them(self) -> None:
        encoded = srgb.encode(photograph("china")[:120, :140])
        binomial = np.array([1, 4, 6, 4, 1]) / 16
        for c in range(3):
            plane = encoded[..., c].astype(np.float64)
            low = scipy.ndimage.convolve1d(plane, binomial, axis=0, mode="reflect")
            low = scipy.ndimage.convolve1d(low, binomial, axis=1, mode="reflect")
            mean = scipy.ndimage.uniform_filter(plane, 15, mode="reflect")
            np.testing.assert_allclose(finest_octave(encoded)[..., c], plane - low, atol=2e-6)
            np.testing.assert_allclose(noise_left(encoded)[..., c], plane - mean, atol=2e-6)

    def test_a_part_with_its_reach_gives_what_the_whole_gives(self) -> None:
        encoded = srgb.encode(photograph("china"))
        for plane in Plane:
            reach, whole = REACH[plane], MADE[plane](encoded)
            part = MADE[plane](encoded[100 - reach : 180 + reach, 50 - reach : 90 + reach])
            np.testing.assert_allclose(
                part[reach:-reach, reach:-reach], whole[100:180, 50:90], atol=2e-6
            )


class Differences(unittest.TestCase):
    def setUp(self) -> None:
        self.frame = photograph("china")
        noise = np.random.default_rng(SEED).normal(0, 0.02, self.frame.shape).astype(np.float32)
        self.other = np.clip(self.frame + noise, 0, 1)

    def test_brightness_is_signed_luma_in_8_bit_levels(self) -> None:
        # BT.709 weights on IEC 61966-2-1 values, by colour-science.
        want = 255 * (self.luma(self.other) - self.luma(self.frame))
        np.testing.assert_allclose(
            difference(self.other, self.frame, Kind.BRIGHTNESS), want, atol=2e-3
        )
        back = difference(self.frame, self.other, Kind.BRIGHTNESS)
        np.testing.assert_allclose(back, -want, atol=2e-3)

    def luma(self, linear: Floats) -> np.ndarray:
        encoded = colour.models.eotf_inverse_sRGB(linear.astype(np.float64))
        return np.asarray(encoded @ np.array([0.2126, 0.7152, 0.0722]))

    def test_absolute_is_each_channels_distance(self) -> None:
        found = difference(self.other, self.frame, Kind.ABSOLUTE)
        want = 255 * np.abs(srgb.encode(self.other) - srgb.encode(self.frame))
        np.testing.assert_allclose(found, want, atol=1e-3)

    def test_colour_difference_is_another_librarys_ciede2000(self) -> None:
        one, two = (srgb.encode(p[:60, :60]).astype(np.float64) for p in (self.frame, self.other))
        want = skimage.color.deltaE_ciede2000(
            skimage.color.rgb2lab(one), skimage.color.rgb2lab(two)
        )
        found = difference(self.frame[:60, :60], self.other[:60, :60], Kind.DE00)
        # The two libraries' matrices differ in the fourth place.
        np.testing.assert_allclose(found, want, atol=0.02)


def side(pixels: Floats, mapping: Mapping) -> ComparedSide:
    whole = Rect(0, 0, pixels.shape[1], pixels.shape[0])

    def read(r: Rect) -> Floats:
        assert r.is_whole() and r.inside(whole.w, whole.h), r
        return pixels[int(r.y) : int(r.y + r.h), int(r.x) : int(r.x + r.w)]

    return ComparedSide(mapping, whole, whole, read)


def at_hand(pixels: Floats, mapping: Mapping, asked: list[Rect]) -> ComparedSide:
    encoded = srgb.encode(pixels)

    def read(r: Rect) -> Floats:
        asked.append(r)
        return encoded[int(r.y) : int(r.y + r.h), int(r.x) : int(r.x + r.w)]

    return replace(side(pixels, mapping), encoded=read)


class Sides(unittest.TestCase):
    """A part is read alone, and is what the whole output would have given."""

    FRAME = Rect(0, 0, 640, 427)
    BEND = Bend(320, 213, 320, (0.0, 0.4, 0, 0, 0, 0, 0.6, 0, 0, 0), (0.2,) + (0.0,) * 9)

    def test_a_part_on_the_frames_pixels_is_the_same_as_from_the_whole(self) -> None:
        frame = photograph("china")
        doubled = frame.repeat(2, axis=0).repeat(2, axis=1)
        cases = {
            "same grid": (frame, Mapping()),
            "shifted by whole pixels": (frame, Mapping(dx=-7, dy=3)),
            "shifted by parts": (frame, Mapping(dx=-0.4, dy=0.3)),
            "enlarged": (doubled, Mapping(2, 2)),
            "enlarged and shifted": (doubled, Mapping(2, 2, 5.5, -3.25)),
            "made smaller": (frame[::2, ::2], Mapping(0.5, 0.5)),
            "bent": (frame, Mapping(bend=self.BEND)),
        }
        for name, (pixels, mapping) in cases.items():
            for rect in (Rect(200, 120, 96, 64), Rect(0, 0, 40, 40), Rect(600, 400, 40, 27)):
                with self.subTest(name, rect=rect):
                    one = side(pixels, mapping)
                    part = common_part(rect, one, one)
                    if part.w < 1 or part.h < 1:
                        continue
                    want = to_frame_grid(pixels, mapping, part).pixels
                    np.testing.assert_allclose(on_frame(one, part), want, atol=2e-5)

    def test_encoded_values_at_hand_give_the_difference_that_light_gives(self) -> None:
        frame = photograph("china")
        other = np.clip(frame[::-1] * np.float32(1.1), 0, 1)
        for shift in (Mapping(), Mapping(dx=-7, dy=3), Mapping(dx=-0.4, dy=0.3)):
            one, two = side(other, shift), side(frame, Mapping())
            part = common_part(Rect(200, 120, 96, 64), one, two)
            asked: list[Rect] = []
            both = [at_hand(other, shift, asked), at_hand(frame, Mapping(), asked)]
            for kind in Kind:
                with self.subTest(kind, shift=shift):
                    want = difference(on_frame(one, part), on_frame(two, part), kind)
                    found = difference_on_frame(both[0], both[1], part, kind)
                    np.testing.assert_allclose(found, want, atol=3e-3)
            # Only where pixels are untouched, and never where light is asked about.
            self.assertEqual(len(asked), 4 if shift.keeps_pixels() else 2)

    def test_a_halved_pair_lies_as_the_whole_one_does(self) -> None:
        mapping = Mapping(2, 2, 6, -10, self.BEND)
        for level in (0, 1, 3):
            with self.subTest(level=level):
                small, share = halved_mapping(mapping, level), 0.5**level
                rect = Rect(100 * share, 80 * share, 50 * share, 40 * share)
                whole, half = mapping.rect(Rect(100, 80, 50, 40)), small.rect(rect)
                for a, b in zip(
                    (whole.x, whole.y, whole.w, whole.h),
                    (half.x, half.y, half.w, half.h),
                    strict=True,
                ):
                    self.assertAlmostEqual(a * share, b, places=6)

    def test_only_what_both_show_is_compared(self) -> None:
        pixels = photograph("china")
        left, right = side(pixels[:, :400], Mapping()), side(pixels[:, 200:], Mapping(dx=-200))
        self.assertEqual(common_part(self.FRAME, left, right), Rect(200, 0, 200, 427))
