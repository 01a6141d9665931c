"""Reasons for an advantage: their sum, what each is alone, and that order plays no part."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

from glenhail.core.sensor.decomposition import CaughtLight, reasons_of

BODY = CaughtLight(864.0, 2e8, 3.0, 24e6)


def reasons(one: CaughtLight, other: CaughtLight, measured: float = 0.0) -> dict[str, float]:
    return {r.name: r.stops for r in reasons_of(one, other, measured)}


class Reasons(unittest.TestCase):
    def test_one_thing_that_differs_is_the_only_reason(self) -> None:
        larger = replace(BODY, area=1728.0, pixels=48e6)
        found = reasons(larger, BODY, 1.0)
        # A little less than a stop: more light lifts a body over its read noise as well.
        self.assertTrue(0.99 < found["area"] < 1.0)
        for name in ("electrons per area", "read noise"):
            self.assertAlmostEqual(found[name], 0.0)
        self.assertAlmostEqual(found["what is left"], 1.0 - found["area"])
        quieter = reasons(replace(BODY, read_noise=1.5), BODY)
        self.assertGreater(quieter["read noise"], 0)
        self.assertEqual((quieter["area"], quieter["electrons per area"]), (0, 0))

    def test_with_much_light_a_stop_of_it_is_a_stop(self) -> None:
        bright = replace(BODY, electrons_per_area=1e12)
        found = reasons(replace(bright, electrons_per_area=2e12), bright)
        self.assertAlmostEqual(found["electrons per area"], 1.0, places=4)

    def test_they_sum_to_what_was_measured_and_turn_their_sign_with_the_bodies(self) -> None:
        phone = CaughtLight(72.0, 2.6e8, 1.4, 50e6)
        there, back = reasons(BODY, phone, 2.9), reasons(phone, BODY, -2.9)
        self.assertAlmostEqual(sum(there.values()), 2.9)
        for name, stops in there.items():
            self.assertAlmostEqual(stops, -back[name])

    def test_a_stop_of_light_is_a_stop_however_dark_it_is(self) -> None:
        for electrons in (1e4, 1e7, 1e10):
            dim = replace(BODY, electrons_per_area=electrons)
            found = reasons(replace(dim, electrons_per_area=2 * electrons), dim)
            self.assertAlmostEqual(found["electrons per area"], 1.0)

    def test_two_that_work_together_share_as_by_hand(self) -> None:
        # Electrons and read noise in both orders; light that is needed by halving intervals.
        other = replace(BODY, electrons_per_area=1e7, read_noise=6.0)
        q1, q2 = BODY.electrons_per_area, other.electrons_per_area
        r1, r2 = BODY.read_variance_per_area, other.read_variance_per_area

        def ratio(q: float, r: float) -> float:
            return q / math.sqrt(q + r)

        def light(q: float, r: float, wanted: float) -> float:
            low, high = -20.0, 20.0
            for _ in range(80):
                middle = (low + high) / 2
                low, high = (middle, high) if ratio(q * 2**middle, r) < wanted else (low, middle)
            return low

        def stops(q: float, r: float) -> float:
            return (light(q1, r1, ratio(q, r)) + light(q2, r2, ratio(q, r))) / 2

        want = ((stops(q1, r2) - stops(q2, r2)) + (stops(q1, r1) - stops(q2, r1))) / 2
        self.assertAlmostEqual(reasons(BODY, other)["electrons per area"], want)
