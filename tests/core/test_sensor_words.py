"""What lifting costs, saturation-based speed, and the sentences that are told of them."""

from __future__ import annotations

import math
import unittest

from glenhail.core.interval import Interval
from glenhail.core.sensor import averaging, lifting, shadows, speed
from glenhail.core.sensor.averaging import Averaging
from glenhail.core.sensor.shadows import Shadow
from glenhail.core.sensor.speed import LitAt
from glenhail.core.sensor.stages import ReadNoiseAt


def noise(iso: float, value: float, share: float = 0.01) -> ReadNoiseAt:
    return ReadNoiseAt(iso, Interval(value, value * (1 - share), value * (1 + share)))


class Lifting(unittest.TestCase):
    def test_the_deepest_shadow_is_where_signal_and_noise_are_equal(self) -> None:
        for read in (0.0, 0.5, 2.0, 10.0):
            electrons = lifting.deepest(read)
            with self.subTest(read=read):
                self.assertAlmostEqual(electrons / math.sqrt(electrons + read**2), 1)

    def test_a_cost_is_how_much_more_light_the_shadow_takes(self) -> None:
        found = lifting.lift_costs([noise(3200, 1.0), noise(100, 4.0), noise(800, 4.0)])
        self.assertEqual([(c.iso, c.to, c.ev) for c in found], [(100, 800, 3), (100, 3200, 5)])
        self.assertAlmostEqual(found[0].stops.value, 0)
        # By hand: (1 + sqrt(65)) / 2 = 4.531 and (1 + sqrt(5)) / 2 = 1.618 electrons.
        self.assertAlmostEqual(found[1].stops.value, math.log2(4.5311 / 1.6180), places=3)
        for cost in found:
            self.assertLess(cost.stops.low, cost.stops.value)
            self.assertGreater(cost.stops.high, cost.stops.value)

    def test_it_is_told_of_one_to_six_stops_from_the_lowest_iso(self) -> None:
        isos = [100, 125, 160, 200, 1600, 6400, 12_800]
        found = lifting.lift_costs([noise(iso, 2.0) for iso in isos])
        self.assertEqual([c.to for c in found], [200, 1600, 6400])
        self.assertEqual(lifting.lift_costs([noise(100, 2.0)]), [])

    def test_words_tell_how_far_is_free_and_what_most_costs(self) -> None:
        for want, isos in (
            ("", {100: 3.0}),
            (
                "lifted by up to 4 EV, the deepest shadows are as good",
                {100: 2.0, 400: 2.0, 1600: 2.0},
            ),
            (
                "lifted by 5 EV, the deepest shadows take 1.49 stops (1.47 to 1.50) more light than"
                " at ISO 3,200. Lifting by 3 EV costs nothing that is measurable.",
                {100: 4.0, 800: 4.0, 3200: 1.0},
            ),
            ("lifted by 3 EV, the deepest shadows take 1.49 stops", {100: 4.0, 800: 1.0}),
        ):
            with self.subTest(want):
                told = lifting.told(lifting.lift_costs([noise(i, r) for i, r in isos.items()]))
                self.assertEqual(want in told, True, told)
                self.assertEqual(told == "", want == "")

    def test_what_noise_could_have_made_is_no_cost(self) -> None:
        vague = [noise(100, 2.4, 0.5), noise(400, 2.0, 0.5)]
        self.assertIn("as good as", lifting.told(lifting.lift_costs(vague)))


class Speeds(unittest.TestCase):
    def at(self, iso: float, light: float, *exposures: tuple[float, float]) -> LitAt:
        return LitAt(iso, Interval(light, light * 0.99, light * 1.01), exposures)

    def test_exposure_and_speed_by_hand(self) -> None:
        # 100 cd/m2, 1/100 s, T 4: pi/4 * 100 * 0.01 / 16 = 0.049087 lx s; a spot at 0.5 of
        # saturation saturates at 0.098175 lx s, and 78 over that is 794.5.
        self.assertAlmostEqual(speed.exposure(100, 0.01, 4), 0.049087, places=6)
        (found,) = speed.speeds([self.at(800, 0.5, (0.01, 4.0))], 100, 4)
        assert found.speed is not None
        assert found.above is not None
        self.assertAlmostEqual(found.speed.value, 794.5, delta=0.05)
        self.assertAlmostEqual(found.speed.high / found.speed.low, 1.01 / 0.99)
        self.assertAlmostEqual(found.above.value, math.log2(794.5 / 800), places=4)

    def test_a_spot_of_grey_at_a_meters_exposure_has_half_a_stop_of_headroom(self) -> None:
        # The standard's own definition: at H = 10 / S an 18 % reflectance lies at 12.7 % of
        # what saturates (78 = 10 / 0.128), so that white has half a stop left.
        exposed = 10 / 400
        found = speed.saturation_speed(Interval(10 / 78, 10 / 78, 10 / 78), exposed)
        self.assertAlmostEqual(found.value, 400)

    def test_what_can_not_be_told_has_a_reason(self) -> None:
        one = self.at(100, 0.4, (0.1, 4.0))
        for words, spot in (
            ("tell no shutter", [self.at(100, 0.4)]),
            ("tell no shutter", [self.at(100, 0.4, (0.0, 4.0))]),
            ("several shutters", [self.at(100, 0.4, (0.1, 4.0), (0.2, 4.0))]),
            ("several apertures", [one, self.at(200, 0.4, (0.1, 5.6))]),
            ("cut off", [self.at(100, 0.985, (0.1, 4.0))]),
            ("no brighter than black", [LitAt(100, Interval(0.001, 0.0, 0.002), ((0.1, 4.0),))]),
        ):
            with self.subTest(words):
                found = speed.speeds(spot, 100, 4)
                self.assertTrue(all(s.speed is None and words in s.reason for s in found), found)
                self.assertIn(words, speed.told(found))
        self.assertIn("was not read", speed.told([]))

    def test_words_tell_from_where_to_where(self) -> None:
        steady = [self.at(iso, 0.5, (0.01 * 800 / iso, 4.0)) for iso in (400, 800, 1600)]
        self.assertIn("lies 0.01 EV below the ISO", speed.told(speed.speeds(steady, 100, 4)))
        self.assertIn("(3 of 3 read)", speed.told(speed.speeds(steady, 100, 4)))
        moving = [*steady[:2], self.at(1600, 0.4, (0.005, 4.0))]
        self.assertIn("lies 0.01 to 0.33 EV below", speed.told(speed.speeds(moving, 100, 4)))
        for want, light in (
            ("lies 0.25 EV above", 0.6),
            ("from 0.01 EV below to 0.25 above", None),
        ):
            some = [self.at(400, light or 0.5, (0.02, 4.0)), self.at(800, 0.6, (0.01, 4.0))]
            with self.subTest(want):
                self.assertIn(want, speed.told(speed.speeds(some, 100, 4)))


class Words(unittest.TestCase):
    def test_what_averaging_brings_is_told_beside_white_noise(self) -> None:
        told = averaging.told(Averaging(2.0, Interval(1.8, 1.7, 1.9)), "Quill")
        self.assertIn("by 5.1 dB by its noise’s spectrum; 6.0 dB if that were white", told)
        self.assertEqual(averaging.told(Averaging(1.0, Interval(1.0, 1.0, 1.0)), "Quill"), "")

    def test_casts_are_told_by_spot_and_those_that_nobody_sees_are_not(self) -> None:
        found = [
            Shadow(0, 100, 0.0, 0.0, ""),
            Shadow(1, 1600, 0.1, 0.1, "magenta"),
            Shadow(1, 6400, 0.2, 0.1, "magenta"),
            Shadow(1, 12_800, 0.0, -0.2, "yellow"),
        ]
        self.assertEqual(
            shadows.told(found, ["Wall", "Loom"]),
            ["Loom: turns magenta at ISO 1,600, 6,400 and yellow at ISO 12,800."],
        )
