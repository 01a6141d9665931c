"""Tone and colour put in by an independent library, and by closed forms, are found
again on a noisy photograph.
"""

from __future__ import annotations

import unittest
from collections.abc import Callable
from functools import cache

import numpy as np
import skimage.color
from skimage import data

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.files.decoding import Facts
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from glenhail.core.tone.cast import cast, hue_of
from glenhail.core.tone.curve import contrast, curve, exposure, vignetting, zones
from glenhail.core.tone.matched import MatchedTone, match
from glenhail.core.tone.matching import at_scale, matched, patch_stops

FACTS = Facts("x", "TIFF", 0, 0, 16, "unsigned", "", "sRGB", True)


@cache
def photo() -> Floats:
    """scikit-image's photograph of a coffee cup, encoded, kept off both ends."""
    return (0.06 + 0.86 * data.coffee().astype(np.float32) / 255).astype(np.float32)


def noisy(encoded: Floats, sigma: float, seed: int) -> Floats:
    return (encoded + np.random.default_rng(seed).normal(0, sigma, encoded.shape)).astype(
        np.float32
    )


def picture(encoded: Floats) -> Picture:
    return Picture(srgb.decode(np.clip(encoded, 0, 1).astype(np.float32)), FACTS)


def compared(change: Callable[[Floats], Floats], sigma: float = 0.03) -> MatchedTone:
    """The photograph with noise against its changed self with other noise."""
    frame, output = picture(noisy(photo(), sigma, 1)), picture(noisy(change(photo()), sigma, 2))
    return match(frame, AlignedPicture(output, Mapping(), Rect(0, 0, output.width, output.height)))


def linear(change: Callable[[Floats], Floats]) -> Callable[[Floats], Floats]:
    return lambda encoded: srgb.encode(change(srgb.decode(encoded)).astype(np.float32))


class Tone(unittest.TestCase):
    def test_an_exposure_put_in_is_found_to_a_fiftieth_of_a_stop(self) -> None:
        for stops in (-0.5, -0.15, 0.0, 0.1, 0.15):
            with self.subTest(stops):
                found = exposure(compared(linear(lambda v, s=stops: v * 2**s)))  # type: ignore[misc]
                assert found is not None
                self.assertAlmostEqual(found.value, stops, delta=0.02)
                self.assertLess(found.high - found.low, 0.04)

    def test_a_gamma_put_in_comes_back_as_its_curve(self) -> None:
        for gamma in (0.8, 1.0, 1.25):
            with self.subTest(gamma):
                found = curve(compared(lambda e, g=gamma: e**g))  # type: ignore[misc]
                assert found is not None
                np.testing.assert_allclose(
                    found.output, np.asarray(found.source) ** gamma, atol=0.012
                )
                self.assertTrue(np.all(np.diff(found.output) >= 0))

    def test_opened_shadows_are_told_apart_from_mids_and_lights(self) -> None:
        found = zones(compared(lambda e: e + 0.05 * np.clip(1 - e / 0.4, 0, 1)))
        self.assertGreater(found["shadows"].low, 0.01)
        self.assertAlmostEqual(found["lights"].value, 0, delta=0.004)

    def test_contrast_is_the_slope_put_in_and_sharpening_does_not_count(self) -> None:
        from glenhail.core.methods.sharpen import unsharp

        for slope in (0.85, 1.0, 1.1):
            found = contrast(compared(lambda e, s=slope: 0.45 + s * (e - 0.45)))  # type: ignore[misc]
            assert found is not None
            self.assertAlmostEqual(found.value, slope, delta=0.015)
        sharp = contrast(
            compared(
                lambda e: np.stack([unsharp(e[..., i].copy(), 1.0, 1.5) for i in range(3)], -1)
            )
        )
        assert sharp is not None
        self.assertAlmostEqual(sharp.value, 1, delta=0.015)

    def test_corners_that_were_brightened_are_found_as_vignetting(self) -> None:
        height, width = photo().shape[:2]
        y, x = np.mgrid[-1 : 1 : height * 1j, -1 : 1 : width * 1j]
        gain = 2 ** (0.4 * (x**2 + y**2) / 2)
        found = vignetting(compared(linear(lambda v: v * gain[..., None])))
        assert found is not None
        self.assertAlmostEqual(found.value, 0.4, delta=0.04)


class Colour(unittest.TestCase):
    def test_saturation_and_hue_turned_in_cielab_by_scikit_image_are_found(self) -> None:
        for chroma, degrees in ((0.8, 0.0), (1.15, 0.0), (1.0, 8.0)):

            def change(encoded: Floats, c: float = chroma, d: float = degrees) -> Floats:
                lch = skimage.color.lab2lch(skimage.color.rgb2lab(encoded))
                lch[..., 1] *= c
                lch[..., 2] += np.radians(d)
                return skimage.color.lab2rgb(skimage.color.lch2lab(lch)).astype(np.float32)

            with self.subTest(chroma=chroma, degrees=degrees):
                found = cast(compared(change, 0.015))
                assert found is not None
                assert found.saturation is not None
                self.assertAlmostEqual(found.saturation.value, chroma, delta=0.03)
                most = max(found.hues, key=lambda h: h.areas)
                self.assertAlmostEqual(most.turned, degrees, delta=1.5)

    def test_a_warmer_white_moves_greys_to_yellow_and_nothing_moves_nothing(self) -> None:
        warm, same = (
            cast(compared(linear(lambda v: v * np.array([1.04, 1.0, 0.93], np.float32)))),
            cast(compared(lambda e: e)),
        )
        assert warm is not None
        assert same is not None
        assert warm.grey_b is not None
        assert same.grey_b is not None
        self.assertGreater(warm.grey_b.low, 1.5)
        self.assertAlmostEqual(same.grey_b.value, 0, delta=0.2)
        self.assertLess(same.de00, 1.0)  # the noise alone

    def test_hues_have_the_names_of_their_primaries(self) -> None:
        from glenhail.core.colour.lab import lab

        named = {
            "red": (1, 0, 0),
            "yellow": (1, 1, 0),
            "green": (0, 1, 0),
            "cyan": (0, 1, 1),
            "blue": (0, 0, 1),
            "purple": (1, 0, 1),
            "orange": (1, 0.3, 0),
        }
        for name, rgb in named.items():
            self.assertEqual(hue_of(lab(np.array([rgb], dtype=float))), [name])


class Areas(unittest.TestCase):
    def test_what_is_cut_off_is_left_out_and_its_share_told(self) -> None:
        found = compared(linear(lambda v: v * 2.0))
        self.assertGreater(found.white[1], 0.02)
        self.assertEqual(found.white[0] < 0.002, True)
        lifted = exposure(found)
        assert lifted is not None
        self.assertAlmostEqual(lifted.value, 1.0, delta=0.02)

    def test_a_black_picture_has_no_tone_to_compare(self) -> None:
        black = Picture(np.zeros((200, 300, 3), np.float32), FACTS)
        with self.assertRaisesRegex(NotMeasurable, "too few areas"):
            match(black, AlignedPicture(black, Mapping(), black.bounds))


class Matching(unittest.TestCase):
    """Taking off what was put in gives the frame's brightness back."""

    def test_exposure_and_tone_come_off(self) -> None:
        codes = photo()
        frame = picture(codes)
        cases: dict[str, tuple[Floats, float]] = {
            "exposure": (linear(lambda v: v * 2**0.15)(codes), 0.004),
            "gamma": (codes**1.2, 0.012),
        }
        for name, (changed, exact) in cases.items():
            with self.subTest(name):
                output = AlignedPicture(picture(changed), Mapping(), frame.bounds)
                areas = match(frame, output)
                stops, tones = exposure(areas), curve(areas)
                assert stops is not None and tones is not None
                back = (
                    matched(output, stops.value, None)
                    if name == "exposure"
                    else matched(output, None, tones)
                )
                off = srgb.encode(back.picture.pixels) - codes
                self.assertLess(float(np.sqrt((off**2).mean())), exact)

    def test_a_common_size_keeps_the_places(self) -> None:
        frame = picture(photo())
        large = resample(frame.pixels, frame.bounds, frame.width * 2, frame.height * 2, "lanczos")
        laid_large = AlignedPicture(
            Picture(large, FACTS), Mapping(2, 2), Rect(0, 0, frame.width * 2, frame.height * 2)
        )
        back = at_scale(laid_large, 1.0)
        self.assertEqual((back.picture.width, back.mapping), (frame.width, Mapping(1, 1)))
        self.assertLess(float(np.abs(back.picture.pixels - frame.pixels)[8:-8, 8:-8].mean()), 0.01)
        self.assertIs(at_scale(back, 1.0), back)

    def test_exposure_of_one_patch_is_its_own(self) -> None:
        frame = picture(photo())
        lit = frame.pixels.copy()
        lit[:, 300:] *= np.float32(2**0.4)
        output = AlignedPicture(Picture(lit, FACTS), Mapping(), frame.bounds)
        self.assertAlmostEqual(patch_stops(frame, output, Rect(320, 50, 128, 128)), 0.4, delta=1e-3)
        self.assertAlmostEqual(patch_stops(frame, output, Rect(20, 50, 128, 128)), 0.0, delta=1e-3)
