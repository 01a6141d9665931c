"""How a figure's crops are shown, against other ways to the same pixels."""

from __future__ import annotations

import unittest

import colour
import numpy as np
import skimage.color

from glenhail.core.errors import BadRequest
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.shown import (
    DE_TOP,
    MIDDLE,
    STOPS,
    Showing,
    difference_codes,
    lifted,
    showing_of,
)
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from tests.pictures import facts, photograph
from tests.seeds import SEED


def laid(pixels: Floats, usable: Rect | None = None) -> AlignedPicture:
    """Lined up as it is."""
    picture = Picture(pixels, facts())
    return AlignedPicture(picture, Mapping(1, 1, 0, 0), usable or picture.bounds)


class Lifted(unittest.TestCase):
    def test_light_is_lifted_by_powers_of_two_before_it_is_encoded(self) -> None:
        # IEC 61966-2-1, by colour-science.
        pixels = photograph("china")[100:180, 200:320]
        for lift in (-3, 0, 2, 6):
            with self.subTest(lift=lift):
                light = np.clip(pixels.astype(np.float64) * 2.0**lift, 0, 1)
                want = 255 * colour.models.eotf_inverse_sRGB(light)
                self.assertLessEqual(np.abs(lifted(pixels, lift) - want).max(), 0.51)

    def test_words_and_data_tell_the_same(self) -> None:
        cases = [
            (Showing(), ""),
            (Showing(lift=2), "lifted by 2 EV"),
            (Showing(lift=-1), "lowered by 1 EV"),
            (Showing(against="U", kind="brightness", gain=4), "brightness less that of U, 4 times"),
            (Showing(against="T", kind="de00", gain=2), "CIEDE2000 from T, 0 dark to 10 light"),
        ]
        for showing, words in cases:
            with self.subTest(words):
                self.assertEqual(showing.words, words)
                self.assertEqual(showing_of(showing.as_json()), showing)
                self.assertEqual(showing.plain, not words)

    def test_what_is_none_is_refused(self) -> None:
        for told in (
            {"lift": 7},
            {"gain": 3},
            {"against": "U"},
            {"kind": "brightness"},
            {"against": "U", "kind": "hue"},
            {"against": "U", "kind": "de00", "lift": 1},
        ):
            with self.subTest(told), self.assertRaises(BadRequest):
                showing_of(told)


class Differing(unittest.TestCase):
    def setUp(self) -> None:
        self.frame = photograph("china")[60:200, 100:300].copy()
        noise = np.random.default_rng(SEED).normal(0, 0.02, self.frame.shape).astype(np.float32)
        self.other = np.clip(self.frame + noise, 0, 1)
        self.part = Rect(30, 20, 90, 60)
        self.place = np.s_[20:80, 30:120]

    def codes(self, kind: Kind, gain: int) -> np.ndarray:
        return difference_codes(laid(self.other), laid(self.frame), self.part, kind, gain)

    def encoded(self, linear: Floats) -> np.ndarray:
        told = colour.models.eotf_inverse_sRGB(linear[self.place].astype(np.float64))
        return np.asarray(told)

    def test_brightness_lies_about_the_middle_and_channels_from_black(self) -> None:
        apart = 255 * (self.encoded(self.other) - self.encoded(self.frame))
        # ITU-R BT.709-6.
        luma = apart @ np.array([0.2126, 0.7152, 0.0722])
        want = np.clip(MIDDLE + 4 * luma, 0, 255)
        found = self.codes(Kind.BRIGHTNESS, 4)
        self.assertLessEqual(np.abs(found - want[..., None]).max(), 0.55)
        channels = self.codes(Kind.ABSOLUTE, 8)
        self.assertLessEqual(np.abs(channels - np.clip(8 * np.abs(apart), 0, 255)).max(), 0.55)

    def test_ciede2000_is_told_on_a_scale_of_growing_lightness(self) -> None:
        labs = [skimage.color.rgb2lab(self.encoded(p)) for p in (self.other, self.frame)]
        de = skimage.color.deltaE_ciede2000(*labs)
        found = self.codes(Kind.DE00, 2)
        stops = np.array(STOPS, dtype=float)
        at = np.clip(2 * de / DE_TOP, 0, 1) * (len(STOPS) - 1)
        want = np.stack([np.interp(at, range(len(STOPS)), stops[:, c]) for c in range(3)], axis=-1)
        # One step of 256 on the scale, and rounding.
        self.assertLessEqual(np.abs(found - want).max(), 2.5)

    def test_where_one_shows_nothing_it_is_the_middle(self) -> None:
        usable = Rect(0, 0, 75, self.frame.shape[0])
        found = difference_codes(
            laid(self.other, usable), laid(self.frame), self.part, Kind.BRIGHTNESS, 32
        )
        self.assertTrue((found[:, 45:] == MIDDLE).all())
        self.assertGreater(found[:, :45].std(), 20)
        outside = Rect(120, 20, 60, 60)
        none = difference_codes(
            laid(self.other, usable), laid(self.frame), outside, Kind.BRIGHTNESS, 32
        )
        self.assertTrue((none == MIDDLE).all())
