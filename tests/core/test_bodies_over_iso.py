"""Bodies against each other over ISO: proposals, brightness, equal size, the whole, and
what an edition's reader works out again.
"""

from __future__ import annotations

import json
import math
import unittest
from dataclasses import replace
from functools import cache

import numpy as np
import scipy.ndimage

from glenhail.core.articles.drawn_curves import drawn
from glenhail.core.checking.series import series_again
from glenhail.core.files.raw import Mosaic
from glenhail.core.interval import Interval
from glenhail.core.picture import Rect
from glenhail.core.sensor.averaging import averaging, spectrum_of
from glenhail.core.sensor.banding import banding
from glenhail.core.sensor.brightness import Lift, lifts
from glenhail.core.sensor.brightness import told as brightness_told
from glenhail.core.sensor.comparison import At, Basis, BodyShots, Compared, compare
from glenhail.core.sensor.proposal import ShotTold, doubts_told, series_told
from glenhail.core.sensor.series import IsoFacts
from glenhail.core.sensor.shadows import hue_of
from glenhail.core.sensor.size import SensorSize
from glenhail.core.sensor.spot_places import share_of
from glenhail.core.sensor.spots import SpotCurve, SpotReading
from glenhail.core.sensor.stops import SnrCurve, StopsAhead, alike
from glenhail.core.sensor.told import as_stated, compared_told
from glenhail.core.shots import nearest_iso
from tests.core.simulated_sensors import SimulatedSensor
from tests.core.test_sensor import DARK, LIT, body_of

SENSOR = SimulatedSensor(side=288, gain=0.3, read=2.0)


def shots(body: str, counts: dict[float, int], shutter: float = 0.01) -> list[ShotTold]:
    return [
        ShotTold(0, f"{body}-{iso:g}-{n}.dng", body, iso, shutter, 4.0)
        for iso, count in counts.items()
        for n in range(count)
    ]


class Proposals(unittest.TestCase):
    def test_frames_are_sorted_into_series_and_those_that_name_nothing_belong_to_none(self) -> None:
        given = shots("B", {800: 2, 100: 2}) + shots("A", {100: 1, 200: 2, 400: 2})
        found = series_told([*given[::-1], ShotTold(9, "x.dng", "", 100), ShotTold(9, "y", "A", 0)])
        self.assertEqual(
            [(s.body, list(s.by_iso)) for s in found],
            [
                ("A", [100, 200, 400]),
                ("B", [100, 800]),
            ],
        )
        self.assertEqual([s.name for s in found[1].by_iso[100]], ["B-100-0.dng", "B-100-1.dng"])
        self.assertEqual([s.frames for s in found], [5, 4])
        (named,) = series_told([ShotTold(0, n, "A", 100) for n in ("a-b.dng", "a.dng")])
        self.assertEqual([s.name for s in named.by_iso[100]], ["a.dng", "a-b.dng"])

    def test_the_iso_that_belongs_is_the_nearest_within_a_third_of_a_stop(self) -> None:
        for iso, others, found in (
            (3200, [2500, 3200, 4000], 3200),
            (3200, [2500, 4000], 4000),
            (3200, [2500], 2500),  # a third of a stop, as bodies round it
            (3200, [2000, 6400], None),
            (1600, [1625], 1625),
            (100, [], None),
        ):
            with self.subTest(iso=iso, others=others):
                self.assertEqual(nearest_iso(iso, others), found)

    def test_gaps_doubles_lone_frames_and_mixed_exposures_are_told(self) -> None:
        even = shots("A", {100: 2, 200: 2}), shots("B", {100: 2, 200: 2})
        cases = (
            ((), even[0] + even[1]),
            (("A has one frame alone at ISO 400",), [*even[0], *even[1], *shots("A", {400: 1})]),
            (("A has more than two frames at ISO 100",), [*shots("A", {100: 3, 200: 2}), *even[1]]),
            (
                ("B was exposed in several ways at ISO 200",),
                [*even[0], *even[1], *shots("B", {200: 2}, 0.02)],
            ),
            (
                ("B was not shot within a third of a stop of ISO 800 and 1,600, where A was",),
                [*shots("A", {100: 2, 200: 2, 800: 2, 1600: 2}), *even[1]],
            ),
        )
        for words, given in cases:
            with self.subTest(words):
                told = " ".join(doubts_told(series_told(given)))
                self.assertEqual(told == "", words == ())
                for part in words:
                    self.assertIn(part, told)


class Sizes(unittest.TestCase):
    def pair(self, blur: float, seed: int = 1, side: int = 720) -> tuple[Mosaic, Mosaic]:
        rng = np.random.default_rng(seed)

        def frame() -> Mosaic:
            noise = scipy.ndimage.gaussian_filter(rng.normal(0, 60, (side, side)), blur)
            codes = np.clip(np.rint(4000 + noise), 0, 16383)
            return Mosaic(codes.astype(np.uint16), ("G",), 512.0, 16383.0)

        return frame(), frame()

    def test_of_white_noise_averaging_brings_the_root_of_the_pixel_ratio(self) -> None:
        # The averaging law, as handbooks have it (Janesick 2007): independent noise falls by
        # the root of how many values are averaged.
        spectrum = spectrum_of(*self.pair(0))
        assert spectrum is not None
        for pixels, smaller in ((33e6, 24e6), (61e6, 12e6), (24e6, 8e6)):
            with self.subTest(pixels=pixels, smaller=smaller):
                found = averaging([spectrum], pixels, smaller)
                want = math.sqrt(pixels / smaller)
                self.assertAlmostEqual(found.white, want)
                self.assertAlmostEqual(found.measured.value / want, 1, delta=0.02)
                self.assertTrue(found.measured.low <= want * 1.01)
                self.assertTrue(found.measured.high >= want * 0.99)

    def test_of_noise_that_was_smoothed_it_brings_less_as_numbers_say(self) -> None:
        spectrum = spectrum_of(*self.pair(0.8))
        assert spectrum is not None
        found = averaging([spectrum], 4e6, 1e6)
        # By hand: a Gaussian's share of power below half of the finest frequency, both ways.
        f = np.fft.fftfreq(4096)
        power = np.exp(-((2 * math.pi * f * 0.8) ** 2))
        share = power[np.abs(f) < 0.25].sum() / power.sum()
        self.assertAlmostEqual(found.measured.value, 1 / share, delta=0.04)  # blocks leak a little
        self.assertLess(found.measured.high, 0.75 * found.white)

    def test_a_body_with_no_more_pixels_is_left_as_it_is(self) -> None:
        found = averaging([np.ones((16, 24, 24))], 24e6, 33e6)
        self.assertEqual((found.white, found.measured.value), (1.0, 1.0))
        self.assertIsNone(spectrum_of(*self.pair(0, side=48)))


class Bands(unittest.TestCase):
    def test_lines_that_move_together_are_told_apart_from_pixels_noise(self) -> None:
        rng = np.random.default_rng(2)

        def dark(rows: float, columns: float) -> Mosaic:
            values = 512 + rng.normal(0, 5, (400, 400))
            values += rng.normal(0, rows, (400, 1)) + rng.normal(0, columns, (1, 400))
            return Mosaic(np.rint(values).astype(np.uint16), ("G",), 512.0, 16383.0)

        for rows, columns in ((0.0, 0.0), (2.0, 0.0), (0.0, 1.0)):
            with self.subTest(rows=rows, columns=columns):
                found = banding(dark(rows, columns), dark(rows, columns))
                for got, want in zip(found, (rows, columns), strict=True):
                    self.assertAlmostEqual(got, want**2, delta=max(0.03, 0.25 * want**2))


def curve(light: dict[float, float], exposure: tuple[float, float] = (0.01, 4.0)) -> SpotCurve:
    """A spot of so many shares of saturation, known to a thousandth of themselves."""
    rows = tuple(
        SpotReading(iso, (), Interval(v, v * 0.999, v * 1.001), Interval(9, 8, 10), {})
        for iso, v in light.items()
    )
    return SpotCurve(rows, (), {iso: {exposure} for iso in light})


class Brightness(unittest.TestCase):
    def test_a_body_is_lifted_by_what_its_codes_lie_higher_at_the_same_iso(self) -> None:
        other = curve({100: 0.2, 200: 0.2, 400: 0.2})
        (lift,) = lifts([curve({200: 0.2 * 2**0.14})], [other])
        self.assertAlmostEqual(lift.stops.value, 0.14, places=6)
        self.assertAlmostEqual(lift.effective_iso, 200 * 2**-0.14, places=6)
        self.assertTrue(lift.stops.low < 0.14 < lift.stops.high < 0.15)
        self.assertEqual((lift.exposure, lift.doubtful), (0.0, False))

    def test_an_iso_between_two_is_told_between_them_and_one_beyond_is_not(self) -> None:
        other = curve({100: 0.2, 400: 0.05})
        told = lifts([curve({50: 0.2, 200: 0.1, 800: 0.1})], [other])
        self.assertEqual([lift.iso for lift in told], [200])
        self.assertAlmostEqual(told[0].stops.value, 0, places=9)

    def test_what_shutter_and_aperture_explain_is_told_apart(self) -> None:
        (lift,) = lifts([curve({100: 0.4}, (0.02, 4.0))], [curve({100: 0.2})])
        self.assertAlmostEqual(lift.exposure or 0, 1)
        words = brightness_told([lift], ("B", "A"))
        self.assertIn("B is brighter than A at the same ISO by 1.00 EV", words)
        self.assertIn("explain +1.00", words)
        (lift,) = lifts([curve({100: 0.4}, (0.0, 0.0))], [curve({100: 0.2})])
        self.assertIsNone(lift.exposure)

    def test_spots_that_differ_make_it_doubtful(self) -> None:
        lit, dark = curve({100: 0.2}), curve({100: 0.01})
        (lift,) = lifts([lit, curve({100: 0.014})], [lit, dark])
        self.assertTrue(lift.doubtful)
        self.assertAlmostEqual(lift.differ, math.log2(1.4), places=5)
        self.assertIn("Spots differ", brightness_told([lift], ("B", "A")))
        for found, words in (
            ([], "at no ISO in common"),
            ([Lift(100, Interval(0.01, 0, 0.02), 0, None)], "are equally bright"),
            ([Lift(100, Interval(-0.3, -0.31, -0.29), 0, None)], "B is darker than A"),
        ):
            self.assertIn(words, brightness_told(found, ("B", "A")))


class Alike(unittest.TestCase):
    def test_the_iso_as_noisy_lies_as_many_stops_lower_and_names_the_nearest_shot(self) -> None:
        other = SnrCurve([400, 800, 1600], [Interval(9, 8, 10)] * 3)
        (found,) = alike([StopsAhead(1600, Interval(0.7, 0.6, 0.8))], other)
        self.assertAlmostEqual(found.other_iso, 1600 / 2**0.7)
        self.assertEqual(found.shot, 800)


class Places(unittest.TestCase):
    def test_a_place_of_an_upright_picture_lies_where_the_mosaic_recorded_it(self) -> None:
        mosaic = np.zeros((60, 90), int)
        mosaic[10:20, 30:60] = 1
        # Exif 2.3, orientation: 3 turned by 180, 6 by 90 clockwise, 8 by 90 the other way.
        for orientation, turns in ((1, 0), (3, 2), (6, 3), (8, 1)):
            with self.subTest(orientation=orientation):
                upright = np.rot90(mosaic, turns)
                y, x = (v.min() for v in np.nonzero(upright))
                h, w = (v.max() - v.min() + 1 for v in np.nonzero(upright))
                share = share_of(Rect(x, y, w, h), *upright.shape[::-1], orientation)
                assert share is not None
                self.assertAlmostEqual(share.x, 30 / 90)
                self.assertAlmostEqual(share.y, 10 / 60)
                self.assertAlmostEqual(share.w, 30 / 90)
                self.assertAlmostEqual(share.h, 10 / 60)
        self.assertIsNone(share_of(Rect(100, 0, 9, 9), 90, 60))
        self.assertEqual(share_of(Rect(-10, 0, 100, 60), 90, 60), Rect(0, 0, 1, 1))


class Hues(unittest.TestCase):
    def test_a_cast_is_told_by_its_hue(self) -> None:
        for red, blue, hue in (
            (0.0, 0.05, ""),
            (0.2, 0.2, "magenta"),
            (-0.2, -0.1, "green"),
            (0.3, 0.0, "red"),
            (-0.3, 0.0, "cyan"),
            (0.0, 0.3, "blue"),
            (0.05, -0.3, "yellow"),
        ):
            self.assertEqual(hue_of(red, blue), hue, (red, blue))


@cache
def compared() -> Compared:
    """A body with half a stop more light and less read noise, with the same codes a
    electron; and a third body like the second.
    """
    size = SensorSize(36, 24, 288, 288)
    better = body_of(replace(SENSOR, read=4.0), 16_000 * 2**0.5, 2)
    plain = body_of(replace(SENSOR, read=8.0), 16_000, 3)
    other = body_of(replace(SENSOR, read=8.0), 16_000, 4)
    made = [("A", better), ("B", plain), ("C", other)]
    return compare([BodyShots(n, pairs, (), [LIT, DARK], size) for n, pairs in made])


class Whole(unittest.TestCase):
    def ahead(self, one: int, other: int, spot: int, basis: Basis) -> list[float]:
        (found,) = (
            a
            for a in compared().ahead
            if (a.one, a.other, a.spot, a.basis, a.at) == (one, other, spot, basis, At.COMMON)
        )
        return [s.stops.value for s in found.stops]

    def test_as_shot_the_light_counts_and_equally_bright_it_does_not(self) -> None:
        self.assertAlmostEqual(self.ahead(0, 1, 0, Basis.AS_SHOT)[1], 0.5, delta=0.15)
        for stops in self.ahead(0, 1, 0, Basis.MATCHED)[:2]:
            self.assertAlmostEqual(stops, 0.0, delta=0.15)
        # Less read noise stays an advantage in the dark.
        self.assertGreater(self.ahead(0, 1, 1, Basis.MATCHED)[-1], 0.3)

    def test_of_three_bodies_every_pair_is_compared_and_equal_ones_are_told_so(self) -> None:
        pairs = {(a.one, a.other) for a in compared().ahead}
        self.assertEqual(pairs, {(0, 1), (0, 2), (1, 2)})
        (same,) = (
            a
            for a in compared().ahead
            if (a.one, a.other, a.spot, a.at, a.basis) == (1, 2, 0, At.COMMON, Basis.AS_SHOT)
        )
        self.assertIn("no measurable difference", same.said)
        self.assertIn("0.50 EV", compared().brightness[0])

    def test_the_reasons_add_up_to_what_was_measured(self) -> None:
        why = [w for w in compared().why if (w.one, w.other, w.spot) == (0, 1, 1)]
        self.assertTrue(why)
        for w, stops in zip(why, self.ahead(0, 1, 1, Basis.AS_SHOT), strict=True):
            self.assertAlmostEqual(sum(r.stops for r in w.reasons), stops, places=9)
        by = {r.name: r.stops for r in why[-1].reasons}
        self.assertAlmostEqual(by["area"], 0, delta=1e-9)
        self.assertGreater(by["read noise"], 0.2)

    def test_it_is_told_in_plain_values_that_a_reader_works_out_again(self) -> None:
        told = json.loads(json.dumps(compared_told(compared(), ["Lit", "Dark"])))
        self.assertEqual([b["name"] for b in told["bodies"]], ["A", "B", "C"])
        wanted = ("equally bright", "common")
        for body in told["bodies"]:
            body["gain"] = body["common"]["measured"][0]
            counts = {lift["iso"]: lift["effective_iso"] for lift in body["lifts"]}
            for spot in body["spots"]:
                for r in spot["readings"]:
                    r["counts_as"] = counts.get(r["iso"], r["iso"])
        series = {
            **told,
            "ahead": [a for a in told["ahead"] if (a["basis"], a["at"]) == wanted],
            "spots": [{"name": "Lit"}, {"name": "Dark"}],
        }
        checks = list(series_again({"series": series}))
        self.assertEqual({c.state for c in checks}, {"equal"})
        self.assertEqual(len(checks), 12)
        series["bodies"][0]["spots"][0]["readings"][1]["snr"][0] *= 1.2
        wrong = [c for c in series_again({"series": series}) if c.state != "equal"]
        self.assertTrue(wrong)
        self.assertEqual(list(series_again({"series": None})), [])


class Stated(unittest.TestCase):
    def at(self, iso: float, read: float | None) -> IsoFacts:
        top = Interval(42_000 * 100 / iso, 1, 1)
        noise = None if read is None else Interval(read, read * 0.99, read * 1.01)
        facts = compared().bodies[0].facts[0]
        transfer = replace(facts.transfer, read_noise=noise)
        return replace(facts, iso=iso, top=top, transfer=transfer)

    def test_a_body_is_described_by_its_lowest_iso_and_the_stage_that_was_found(self) -> None:
        for isos, want in (
            ([(200, 3.2), (400, 3.2), (800, 1.456)], (42_000, 3.2, 800, 1.46)),
            ([(200, 3.2), (400, 3.1), (800, 3.0)], (42_000, 3.2, None, None)),
            ([(100, None), (200, 3.256)], (42_000, 3.26, None, None)),
        ):
            with self.subTest(isos=isos):
                told = as_stated([self.at(*one) for one in isos])
                assert told is not None
                self.assertEqual(tuple(told.values()), want)
        self.assertIsNone(as_stated([self.at(100, None)]))


class Sheet(unittest.TestCase):
    def test_equal_steps_across_are_stops_and_marks_are_round(self) -> None:
        found = drawn([[(100, 40.0), (400, 33.0), (1600, 21.0)]], 400, 200)
        assert found is not None
        self.assertEqual([text for _, text in found.across], ["100", "200", "400", "800", "1,600"])
        self.assertEqual([at for at, _ in found.across], [0, 100, 200, 300, 400])
        self.assertEqual([text for _, text in found.up], ["20", "25", "30", "35", "40"])
        points = [tuple(map(float, p.split(","))) for p in found.curves[0].points.split()]
        self.assertEqual(points[0], (0, 0))
        self.assertEqual(points[1], (200, 70))
        self.assertEqual(found.curves[0].end, points[-1])

    def test_nothing_to_draw_is_no_sheet_and_one_value_is_one(self) -> None:
        self.assertIsNone(drawn([[], []], 9, 9))
        found = drawn([[(100, 5.0)], []], 9, 9)
        assert found is not None
        self.assertEqual(found.curves[1].points, "")
