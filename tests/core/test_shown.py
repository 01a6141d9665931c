"""How a figure's crops are shown, against other ways to the same pixels."""

from __future__ import annotations

import ast
import re
import unittest
from dataclasses import asdict
from pathlib import Path

import colour
import numpy as np
import skimage.color
from scipy.ndimage import convolve1d, uniform_filter

from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.light import GAINED, GAINS, LIFTS, MIDDLE, PLANES, lifted, lit_codes
from glenhail.core.looking.shown import DE_TOP, STOPS, Showing, difference_codes, showing_of
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from glenhail.core.uses.table import USES
from tests.pictures import facts, photograph
from tests.seeds import SEED

VIEWER = Path(__file__).parents[2] / "web" / "src" / "viewer"


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
            (Showing(plane="red"), "red alone"),
            (Showing(lift=3, plane="colour", gain=4), "lifted by 3 EV, colour alone, 4 times"),
            (Showing(plane="noise", gain=8), "noise left, 8 times"),
            (
                Showing(use=USES["fifth"], centre=(0.2, 0.8)),
                "as seen in use: crop to a fifth, 2048 px, JPEG 85",
            ),
            (
                Showing(use=USES["video-16"]),
                "as seen in use: video at 16 Mbit/s, 1080p, 30/s, H.264, 4:2:0",
            ),
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
            {"against": "U", "kind": "de00", "plane": "red"},
            {"plane": "infrared"},
            {"plane": "noise", "lift": 1},
            {"use": asdict(USES["post"]), "lift": 1},
            {"use": asdict(USES["post"]), "plane": "red"},
            {"use": asdict(USES["post"]), "centre": [0.5, 1.5]},
            {"use": asdict(USES["post"]) | {"width": 10**7}},
            {"use": asdict(USES["video-8"]) | {"video_mbit": -1}},
            {"use": {"name": "half told"}},
            {"use": "post"},
            {"use": [1]},
            {"centre": ["a", "b"]},
            {"centre": 0.5},
            {"lift": ["much"]},
        ):
            with self.subTest(told), self.assertRaises(BadRequest):
                showing_of(told)


class Screen(unittest.TestCase):
    """What the close look paints by is written down in its own language as well."""

    def test_the_web_part_has_the_same_numbers(self) -> None:
        for file, name, wanted in (
            ("light.ts", "LIFTS", LIFTS),
            ("light.ts", "GAINS", GAINS),
            ("light.ts", "PLANES", PLANES),
            ("light.ts", "MID", MIDDLE),
            ("light.ts", "LUMA", tuple(float(f"{v:.4f}") for v in srgb.LUMA)),
            ("differences.ts", "KINDS", tuple(Kind)),
            ("differences.ts", "DE_TOP", DE_TOP),
            ("ramp.ts", "STOPS", STOPS),
        ):
            with self.subTest(name):
                told = (VIEWER / file).read_text("utf-8")
                found = re.search(rf"const {name}\b[^=]*=\s*([^;]+?)( as const)?;", told)
                assert found is not None
                value = ast.literal_eval(found[1])
                plain = (
                    [tuple(v) if isinstance(v, list) else v for v in value]
                    if isinstance(value, list)
                    else value
                )
                self.assertEqual(plain, list(wanted) if isinstance(wanted, tuple) else wanted)


class Planes(unittest.TestCase):
    """Against scipy's filters and BT.709's weights (ITU-R BT.709-6, item 3.2), by
    colour-science's sRGB curve.
    """

    def setUp(self) -> None:
        self.pixels = photograph("china")[100:180, 200:320]
        self.bounds = Rect(0, 0, 120, 80)
        light = self.pixels.astype(np.float64)
        self.values = 255 * colour.models.eotf_inverse_sRGB(light)

    def shown(self, plane: str, part: Rect, lift: int = 0, gain: int = 1) -> np.ndarray:
        def read(rect: Rect) -> Floats:
            x, y = int(rect.x), int(rect.y)
            return self.pixels[y : y + int(rect.h), x : x + int(rect.w)]

        return lit_codes(read, self.bounds, part, plane, lift, gain)

    def wanted(self, plane: str) -> np.ndarray:
        values = self.values
        if plane in ("red", "green", "blue"):
            return values[..., [("red", "green", "blue").index(plane)] * 3]
        brightness = (values * (0.2126, 0.7152, 0.0722)).sum(axis=2, keepdims=True)
        if plane == "brightness":
            return np.repeat(brightness, 3, axis=2)
        if plane == "colour":
            return MIDDLE + 4 * (values - brightness)
        if plane == "noise":
            return MIDDLE + 4 * (values - uniform_filter(values, (15, 15, 0), mode="mirror"))
        low = values
        for axis in (0, 1):
            low = convolve1d(low, np.array([1, 4, 6, 4, 1]) / 16, axis=axis, mode="reflect")
        return MIDDLE + 4 * (values - low)

    def test_each_is_what_its_formula_says_wherever_it_is_cut(self) -> None:
        # Within, and at the corner where a part's neighbours end.
        for part, place in (
            (Rect(30, 20, 50, 40), np.s_[20:60, 30:80]),
            (self.bounds, np.s_[:, :]),
        ):
            for plane in PLANES[1:]:
                with self.subTest(plane, part=part):
                    gain = 4 if plane in GAINED else 1
                    want = np.clip(self.wanted(plane), 0, 255)
                    made = self.shown(plane, part, gain=gain)
                    off = np.abs(made - want[place])
                    # Single precision, and the edge that scipy mirrors in its own way for a mean.
                    self.assertLess(np.median(off), 0.3)
                    inner = off[8:-8, 8:-8]
                    self.assertLessEqual(inner.max(), 0.55)

    def test_light_is_lifted_before_a_plane_is_taken(self) -> None:
        part = Rect(0, 0, 120, 80)
        red = lifted(self.pixels, 2)[..., 0]
        np.testing.assert_array_equal(self.shown("red", part, lift=2)[..., 1], red)


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
