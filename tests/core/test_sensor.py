"""Sensors out of pairs of frames, against simulated ones by code of their own, and
against formulas by hand.
"""

from __future__ import annotations

import contextlib
import io
import json
import math
import tempfile
import unittest
from collections.abc import Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path

import numpy as np

from glenhail.core.__main__ import main
from glenhail.core.errors import BadRequest
from glenhail.core.files.raw import Mosaic
from glenhail.core.interval import Interval
from glenhail.core.picture import Facts, Rect
from glenhail.core.sensor import stages
from glenhail.core.sensor.frames import FramePair, SensorFrame, pairs_of
from glenhail.core.sensor.pairs import Moments, moments_of
from glenhail.core.sensor.photon_transfer import PhotonTransfer, photon_transfer
from glenhail.core.sensor.range import NoiseModel, of_print, ranges_of
from glenhail.core.sensor.reading import read_pairs
from glenhail.core.sensor.series import IsoFacts, sensor_series
from glenhail.core.sensor.spots import SpotCurve, curves_of, differing
from glenhail.core.sensor.stages import ReadNoiseAt, gain_steps, nothing_gained_from
from glenhail.core.sensor.stops import SnrCurve, StopsAhead, stops_ahead, told
from glenhail.standins.camera import BODIES, expose, write_dng
from tests.core.simulated_sensors import SimulatedSensor, wedge


def _same(mosaic: Mosaic) -> Mosaic:
    return mosaic


def shot(
    sensor: SimulatedSensor, light: np.ndarray | float, seed: int, fixed: np.ndarray
) -> dict[str, Moments]:
    rng = np.random.default_rng(seed)
    return moments_of(sensor.frame(light, fixed, rng), sensor.frame(light, fixed, rng))


def read(
    sensor: SimulatedSensor, lights: Sequence[np.ndarray | float], seed: int
) -> PhotonTransfer:
    fixed = sensor.fixed(seed + 7919)
    pairs = [shot(sensor, light, seed + 31 * i, fixed) for i, light in enumerate(lights)]
    return photon_transfer(Moments.joined([m for pair in pairs for m in pair.values()]))


class Pairs(unittest.TestCase):
    def test_the_variance_is_half_that_of_the_difference_and_mean_that_of_both(self) -> None:
        # EMVA 1288 release 4: by hand, on two planes without scene.
        rng = np.random.default_rng(1)
        one, two = (rng.integers(600, 700, (96, 96)).astype(np.uint16) for _ in range(2))
        planes = [Mosaic(v, ("R",), 512.0, 16383.0) for v in (one, two)]
        found = moments_of(planes[0], planes[1])["R"]
        a, b = (v[:24, :24].astype(float) for v in (one, two))
        ratio = (two - 512.0).mean() / (one - 512.0).mean()
        apart = a - 512 - (b - 512) / ratio
        self.assertAlmostEqual(found.variances[0], apart.var(ddof=1) / (1 + ratio**-2))
        self.assertAlmostEqual(found.means[0], ((a - 512) + (b - 512) / ratio).mean() / 2)
        self.assertEqual((found.means.size, found.count), (16, 576))

    def test_a_lamp_that_flickers_and_fixed_pattern_add_no_noise(self) -> None:
        sensor = SimulatedSensor(prnu=0.03)
        rng, fixed = np.random.default_rng(2), sensor.fixed(3)
        pair = sensor.frame(9000, fixed, rng), sensor.frame(9000 * 1.03, fixed, rng)
        found = moments_of(*pair)["G"]
        want = 9000 * 1.015 * sensor.gain**2
        self.assertAlmostEqual(float(found.variances.mean()) / want, 1, delta=0.04)

    def test_blocks_that_are_cut_off_are_left_out_and_counted(self) -> None:
        sensor = SimulatedSensor(full_well=1e6)
        light = np.full((240, 240), 2000.0)
        light[:120] = 60_000
        found = shot(sensor, light, 4, sensor.fixed(5))["R"]
        self.assertGreater(found.cut, 0.3)
        self.assertLess(float(found.means.max()), 0.97 * (sensor.white - sensor.black))

    def test_texture_that_stands_still_is_read_and_texture_that_moved_is_left_out(self) -> None:
        sensor, rng = SimulatedSensor(), np.random.default_rng(6)
        fixed, x = sensor.fixed(5), np.arange(240)

        def cloth(shift: float) -> np.ndarray:
            return np.broadcast_to(9000 + 6000 * np.sin((x - shift) / 3.5), (240, 240))

        for shift, left_out in ((0.0, False), (0.5, True)):
            with self.subTest(shift=shift):
                pair = [sensor.frame(cloth(by), fixed, rng) for by in (0.0, shift)]
                found = moments_of(pair[0], pair[1])["G"]
                self.assertEqual(found.moved > 0.9, left_out)
                if not left_out:
                    want = (9000 + sensor.read**2) * sensor.gain**2
                    self.assertAlmostEqual(float(found.variances.mean()) / want, 1, delta=0.03)

    def test_frames_of_two_bodies_are_no_pair(self) -> None:
        with self.assertRaises(ValueError):
            moments_of(
                Mosaic(np.zeros((48, 48), np.uint16), ("RG", "GB"), 0, 99),
                Mosaic(np.zeros((48, 50), np.uint16), ("RG", "GB"), 0, 99),
            )


class Transfer(unittest.TestCase):
    KINDS: dict[str, tuple[SimulatedSensor, Sequence[np.ndarray | float]]] = {
        "a wedge and a dark pair": (SimulatedSensor(), [wedge(240, 20, 20_000), 0.0]),
        "three flat pairs and a dark one": (SimulatedSensor(), [500.0, 5000.0, 20_000.0, 0.0]),
        "a well that is full before the converter is": (
            SimulatedSensor(),
            [wedge(240, 400, 60_000), 9000.0, 39_000.0, 50_000.0, 0.0],
        ),
        "high gain": (
            SimulatedSensor(gain=4, read=1.6, full_well=4000),
            [wedge(240, 5, 3000), 0.0],
        ),
        "6 x 6 filters": (
            SimulatedSensor(
                side=288, pattern=("GBGGRG", "RGRBGB", "GBGGRG", "GRGGBG", "BGBRGR", "GRGGBG")
            ),
            [400.0, 4000.0, 16_000.0, 0.0],
        ),
    }

    def test_gain_and_read_noise_lie_within_their_intervals(self) -> None:
        # 2,000 of each are in bench/sensors; here as many as a test has time for.
        for name, (sensor, lights) in self.KINDS.items():
            with self.subTest(name):
                within = 0
                for seed in range(12):
                    found = read(sensor, lights, seed)
                    assert found.gain and found.read_noise and found.read_codes, found.reason
                    within += found.gain.low <= sensor.gain <= found.gain.high
                    within += found.read_noise.low <= sensor.read <= found.read_noise.high
                    self.assertAlmostEqual(found.gain.value / sensor.gain, 1, delta=0.06)
                    self.assertAlmostEqual(
                        found.read_codes.value,
                        sensor.read * sensor.gain,
                        delta=0.1 * sensor.gain * 4,
                    )
                self.assertGreaterEqual(within, 19)

    def test_a_full_well_is_found_where_noise_stops_growing(self) -> None:
        sensor, lights = self.KINDS["a well that is full before the converter is"]
        found = read(sensor, lights, 3)
        assert found.full_at and found.gain
        low, high = found.full_at.low / found.gain.high, found.full_at.high / found.gain.low
        self.assertTrue(low <= sensor.full_well <= high, (low, high))
        self.assertLess((high - low) / sensor.full_well, 0.25)
        self.assertIsNone(read(*self.KINDS["high gain"], 3).full_at)

    def test_two_plain_grounds_alone_are_no_full_well(self) -> None:
        sensor = SimulatedSensor(side=288, gain=1.2, read=8.0)
        light = np.repeat([[4000.0]] * 144 + [[250.0]] * 144, 288, axis=1)
        for seed in range(20):
            found = read(sensor, [light], seed)
            self.assertIsNone(found.full_at)
            assert found.gain and found.read_noise, found.reason
            self.assertAlmostEqual(found.read_noise.value, 8, delta=1.5)

    def test_what_the_frames_do_not_carry_has_a_reason_that_names_the_frame_to_shoot(self) -> None:
        plain = SimulatedSensor()
        for words, sensor, lights in (
            ("shoot a darker pair of the same too", plain, [5000.0]),
            ("everything is cut off; shoot a darker pair", SimulatedSensor(full_well=9e9), [9e5]),
            (
                "rounding to whole codes hides read noise: it is below",
                SimulatedSensor(gain=0.1, read=2.0),
                [600.0, 6000.0, 30_000.0, 0.0],
            ),
        ):
            with self.subTest(words):
                found = read(sensor, lights, 1)
                self.assertIn(words, found.reason)
                self.assertIsNone(found.read_noise)

    def test_read_noise_that_rounding_hides_is_told_by_its_bound_and_gain_all_the_same(
        self,
    ) -> None:
        sensor = SimulatedSensor(gain=0.1, read=2.0)
        found = read(sensor, [600.0, 6000.0, 30_000.0, 0.0], 2)
        assert found.gain is not None
        self.assertAlmostEqual(found.gain.value, 0.1, delta=0.005)
        bound = float(found.reason.partition("below ")[2].split()[0])
        self.assertAlmostEqual(bound, 0.40 / 0.1, delta=0.3)


class Ranges(unittest.TestCase):
    def test_snr_and_range_follow_from_electrons(self) -> None:
        model = NoiseModel(40_000, 3.0)
        # Shot noise alone, by hand: sqrt(10,000) = 100, of which 9 electrons^2 take a little.
        self.assertAlmostEqual(model.snr(10_000), 10_000 / math.sqrt(10_009))
        for snr in (1.0, 10.0):
            signal = model.signal_at(snr)
            assert signal is not None
            self.assertAlmostEqual(model.snr(signal), snr)
            self.assertAlmostEqual(model.dynamic_range(snr) or 0, math.log2(40_000 / signal))
        self.assertEqual(model.snr(0), 0)

    def test_range_is_that_of_a_step_wedge_by_the_standards_own_definition(self) -> None:
        # ISO 15739:2023: from the highest luminance that is not clipped down to that at which
        # signal and temporal noise are equal; here on a wedge of steps, by plain numpy.
        sensor, rng = SimulatedSensor(gain=0.35, read=9.0), np.random.default_rng(8)
        top = (sensor.white - sensor.black) / sensor.gain
        steps = top * 2.0 ** -np.arange(0, 14, 0.25)
        ratios = []
        for light in steps:
            frames = rng.poisson(light, (40, 400)) + rng.normal(0, sensor.read, (40, 400))
            ratios.append(frames.mean() / frames.std(axis=0, ddof=1).mean())
        where = np.interp(0.0, np.log2(ratios[::-1]), np.log2(steps[::-1]))
        exact = Interval(top, top, top), Interval(sensor.read, sensor.read, sensor.read)
        found = ranges_of(*exact, 24e6)
        assert found.one
        self.assertAlmostEqual(found.one.value, math.log2(top) - where, delta=0.06)

    def test_unevenness_bounds_the_ratio_whatever_the_light(self) -> None:
        model = NoiseModel(40_000, 3.0, 0.02)
        self.assertIsNone(model.signal_at(50.0))
        self.assertLess(model.snr(1e9), 50)
        self.assertIsNone(NoiseModel(100, 3.0).dynamic_range(20))

    def test_more_pixels_give_the_same_print_from_noisier_ones(self) -> None:
        self.assertAlmostEqual(of_print(10, 32e6), 20)
        model = NoiseModel(20_000, 4.0)
        fine, coarse = (model.dynamic_range(pixels=p) or 0 for p in (48e6, 12e6))
        self.assertGreater(fine - coarse, 0.5)


def curve(isos: list[float], constant: float, noise: float, rng: np.random.Generator) -> SnrCurve:
    """Shot noise alone: a stop of ISO takes half a stop of the ratio."""
    values = [constant / math.sqrt(i) * (1 + rng.normal(0, noise)) for i in isos]
    half = 1.96 * noise
    return SnrCurve(isos, [Interval(v, v * (1 - half), v * (1 + half)) for v in values])


ISOS = [100.0 * 2**i for i in range(8)]


class Stops(unittest.TestCase):
    def test_a_body_that_catches_more_light_is_ahead_by_as_many_stops_at_every_iso(self) -> None:
        rng = np.random.default_rng(1)
        for stops in (-1.5, -0.3, 0.0, 0.3, 1.0):
            with self.subTest(stops):
                one = curve(ISOS, 300 * 2 ** (stops / 2), 0, rng)
                found = stops_ahead(one, curve(ISOS, 300, 0, rng))
                self.assertGreaterEqual(len(found), 6)
                for at in found:
                    self.assertAlmostEqual(at.stops.value, stops)

    def test_intervals_hold_the_truth(self) -> None:
        rng = np.random.default_rng(4)
        within = shown = 0
        for _ in range(60):
            one, other = curve(ISOS, 330, 0.02, rng), curve(ISOS, 300, 0.02, rng)
            for at in stops_ahead(one, other):
                within += at.stops.low <= 2 * math.log2(1.1) <= at.stops.high
                shown += 1
        self.assertGreater(within / shown, 0.9)

    def test_beyond_what_both_reach_nothing_is_said(self) -> None:
        rng = np.random.default_rng(1)
        found = stops_ahead(curve(ISOS, 3000, 0, rng), curve(ISOS, 300, 0, rng))
        self.assertEqual([a.iso for a in found], [12_800.0])
        self.assertEqual(stops_ahead(curve(ISOS, 9e6, 0, rng), curve(ISOS, 300, 0, rng)), [])
        self.assertIn("no ratio in common", told([], ("A", "B")))

    def test_words_tell_from_where_on_who_is_ahead_and_where_nobody_is(self) -> None:
        def at(iso: float, value: float, half: float = 0.05) -> StopsAhead:
            return StopsAhead(iso, Interval(value, value - half, value + half))

        for want, ahead in (
            (
                "A is ahead by 0.3 to 0.4 stops from ISO 400 on; elsewhere no measurable"
                " difference.",
                [at(100, 0.02), at(200, 0.2, 0.3), at(400, 0.3), at(800, 0.4)],
            ),
            ("B is ahead by 1.0 stops at every ISO that was compared.", [at(100, -1), at(200, -1)]),
            (
                "A is ahead by 0.5 stops up to ISO 100; B is ahead by 0.5 stops from ISO 400 on;"
                " elsewhere no measurable difference.",
                [at(100, 0.5), at(200, 0.05, 0.01), at(400, -0.5)],
            ),
            (
                "A is ahead by 0.2 to 0.3 stops at ISO 200 and from ISO 800 on; elsewhere no"
                " measurable difference.",
                [at(100, 0.05), at(200, 0.2), at(400, 0.05), at(800, 0.3)],
            ),
            (
                "At every ISO that was compared no measurable difference.",
                # Apart by itself, but one of four: chance brings one such in ten.
                [at(100, 0), at(200, 0.11, 0.1), at(400, 0), at(800, 0)],
            ),
        ):
            with self.subTest(want):
                self.assertEqual(told(ahead, ("A", "B")), want)


def noise(**at: float) -> list[ReadNoiseAt]:
    """Read noise known to 4 % at each ISO, given as ``iso_100=4.2``."""
    return [ReadNoiseAt(float(name[4:]), Interval(v, v * 0.96, v * 1.04)) for name, v in at.items()]


class Stages(unittest.TestCase):
    def test_noise_that_falls_by_more_than_gain_could_bring_is_a_second_stage(self) -> None:
        # Ahead of the gain 1.8 electrons, behind it 4 codes at ISO 100: sqrt(1.8^2 + (4 / g)^2).
        one_stage = {f"iso_{i}": math.hypot(1.8, 400 / i) for i in (100, 200, 400, 800, 1600)}
        self.assertEqual(gain_steps(noise(**one_stage)), [])
        two = {**one_stage, "iso_640": one_stage["iso_400"], "iso_800": 0.9, "iso_1600": 0.88}
        (step,) = gain_steps(noise(**two))
        self.assertEqual((step.below, step.above), (640, 800))
        self.assertAlmostEqual(step.stops.value, math.log2(one_stage["iso_400"] / 0.9))
        self.assertAlmostEqual(step.explained, math.log2(800 / 640))
        self.assertIn("Between ISO 640 and 800", stages.told(noise(**two)))

    def test_what_only_the_doubt_of_both_could_explain_is_no_step(self) -> None:
        self.assertEqual(gain_steps(noise(iso_100=4.0, iso_200=1.95)), [])

    def test_a_higher_iso_gains_nothing_from_where_noise_falls_no_more(self) -> None:
        for want, at in (
            (800.0, {"iso_100": 4.4, "iso_800": 2.1, "iso_3200": 2.1, "iso_6400": 2.05}),
            (100.0, {"iso_100": 2.0, "iso_6400": 2.0}),
            (None, {"iso_100": 4.0, "iso_200": 3.0, "iso_400": 2.0}),
            (None, {"iso_100": 4.0}),
        ):
            with self.subTest(want=want, at=at):
                self.assertEqual(nothing_gained_from(noise(**at)), want)


def frames_of(
    sensor: SimulatedSensor, exposures: dict[float, tuple[float, int]], iso: float = 400
) -> list[SensorFrame]:
    """Frames in memory: by shutter, with what light and how many."""
    fixed, made = sensor.fixed(3), []
    for shutter, (light, count) in exposures.items():
        for i in range(count):
            rng = np.random.default_rng([int(1e6 * shutter), i])
            mosaic = sensor.frame(light, fixed, rng)
            facts = Facts(
                f"{shutter:g}-{i}.dng", "DNG", 1, 1, 14, "uint16", "none", "", False,
                iso=iso, shutter_s=shutter, aperture=4.0,
            )  # fmt: skip
            made.append(SensorFrame(Path(facts.name), facts, partial(_same, mosaic)))
    return made


class Series(unittest.TestCase):
    SENSOR = SimulatedSensor(side=288, full_well=60_000)

    def facts(self, exposures: dict[float, tuple[float, int]]) -> IsoFacts:
        pairs, _ = pairs_of(frames_of(self.SENSOR, exposures))
        (found,) = sensor_series(pairs)
        return found

    def test_stacks_tell_pattern_and_pairs_the_rest(self) -> None:
        found = self.facts({0.01: (20_000.0, 8), 0.001: (2000.0, 2), 0.0001: (0.0, 8)})
        p, s = found.pattern, self.SENSOR
        assert p.response and found.top and found.snr
        self.assertAlmostEqual(p.response.value / s.prnu, 1, delta=0.1)
        self.assertLess(p.rows or 0, 0.4)
        self.assertEqual(p.reason, "")
        self.assertEqual(len(found.files), 18)
        top = (s.white - s.black) / s.gain
        self.assertAlmostEqual(found.top.value / top, 1, delta=0.03)
        grey = 0.18 * top
        self.assertAlmostEqual(
            found.snr.value / (grey / math.sqrt(grey + s.read**2)), 1, delta=0.03
        )
        self.assertIn("no part of the frames is full", found.no_well)

    def test_what_is_missing_names_the_frames_to_shoot(self) -> None:
        few = self.facts({0.01: (20_000.0, 2), 0.001: (2000.0, 2), 0.0001: (0.0, 2)})
        self.assertIsNone(few.pattern.response)
        self.assertIn("frames or more with the cap on", few.pattern.reason)
        dark = self.facts({0.01: (20_000.0, 2), 0.001: (2000.0, 2), 0.0001: (0.0, 8)})
        self.assertIn("of an evenly lit wall, half full", dark.pattern.reason)
        self.assertIsNotNone(dark.pattern.hot)

    def test_files_are_paired_by_exposure_and_whoever_is_alone_is_told(self) -> None:
        frames = frames_of(self.SENSOR, {0.01: (900.0, 3), 0.02: (1800.0, 2)})
        pairs, alone = pairs_of(frames[::-1])
        self.assertEqual([p.exposure for p in pairs], [(0.01, 4.0), (0.02, 4.0)])
        self.assertEqual(alone, ["0.01-2.dng: no second frame of its exposure. Shoot each twice."])
        with self.assertRaisesRegex(BadRequest, "names no ISO"):
            pairs_of(frames_of(self.SENSOR, {0.01: (900.0, 1)}, iso=0))


LIT, DARK = Rect(0.1, 0.1, 0.8, 0.35), Rect(0.1, 0.55, 0.8, 0.35)


def scene(light: float) -> np.ndarray:
    """The upper half lit, the lower one a sixteenth of that, electrons."""
    return np.repeat([[light]] * 144 + [[light / 16]] * 144, 288, axis=1)


def body_of(sensor: SimulatedSensor, light: float, seed: int) -> list[FramePair]:
    """A pair at each of five ISO values, less light at each, as exposures are."""
    fixed, pairs = sensor.fixed(seed), []
    for step in range(5):
        iso, rng = 400.0 * 2**step, np.random.default_rng([seed, step])
        gained = replace(sensor, gain=sensor.gain * 2**step)
        facts = Facts(
            "x.dng", "DNG", 1, 1, 14, "uint16", "none", "", False, iso=iso, shutter_s=0.01 / 2**step
        )
        frames = [
            SensorFrame(
                Path("x.dng"),
                facts,
                partial(_same, gained.frame(scene(light / 2**step), fixed, rng)),
            )
            for _ in range(2)
        ]
        pairs.append(FramePair(iso, *frames))
    return pairs


def spot_curves(pairs: Sequence[FramePair], spots: Sequence[Rect]) -> list[SpotCurve]:
    return curves_of(read_pairs(pairs, spots), len(spots))


def spot_curve(pairs: Sequence[FramePair], spot: Rect) -> SpotCurve:
    return spot_curves(pairs, [spot])[0]


class Spots(unittest.TestCase):
    SENSOR = SimulatedSensor(side=288, gain=0.3, read=2.0)

    def test_a_spots_ratio_is_that_of_photons_and_read_noise(self) -> None:
        found = spot_curve(body_of(self.SENSOR, 16_000, 1), LIT)
        self.assertEqual(found.left_out, ())
        for step, snr in enumerate(found.at().snr):
            electrons = 16_000 / 2**step
            rounding = 1 / 12 / (self.SENSOR.gain * 2**step) ** 2
            pixel = electrons / math.sqrt(electrons + self.SENSOR.read**2 + rounding)
            self.assertAlmostEqual(snr.value / pixel, 1, delta=0.05)
            self.assertLess((snr.high - snr.low) / pixel, 0.25)

    def test_who_catches_more_light_is_ahead_by_as_many_stops_and_more_in_the_dark_with_less_noise(
        self,
    ) -> None:
        better = body_of(replace(self.SENSOR, read=1.0), 16_000 * 2**0.5, 2)
        plain = body_of(replace(self.SENSOR, read=12.0), 16_000, 3)
        lit, dark = (
            stops_ahead(spot_curve(better, spot).at(), spot_curve(plain, spot).at())
            for spot in (LIT, DARK)
        )
        self.assertAlmostEqual(lit[1].stops.value, 0.5, delta=0.25)
        self.assertLess(lit[1].stops.low, 0.55)
        self.assertGreater(dark[-1].stops.low, 0.6)

    def test_spots_that_are_cut_off_or_too_small_are_left_out_with_the_reason(self) -> None:
        full = body_of(replace(self.SENSOR, full_well=9e9), 80_000, 1)
        self.assertIn("cut off at one end", spot_curve(full, LIT).left_out[0])
        few = spot_curve(body_of(self.SENSOR, 9000, 1), Rect(0.1, 0.1, 0.08, 0.08))
        self.assertIn("too small", few.left_out[0])
        (off, there) = spot_curves(full, [Rect(0.999, 0.1, 0.001, 0.2), DARK])
        self.assertIn("not within this body's frame", off.left_out[0])
        self.assertEqual(len(there.readings), 5)

    def test_other_exposures_are_told(self) -> None:
        one = spot_curve(body_of(self.SENSOR, 9000, 1), LIT)
        other = replace(one, exposures={**one.exposures, 800.0: {(1.0, 4.0)}})
        (told_of,) = differing(one, other)
        self.assertTrue(told_of.startswith("ISO 800: shutter or aperture"), told_of)
        self.assertEqual(differing(one, one), [])


class Command(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def shoot(
        self, iso: float, light: float, shutter: float, seeds: range, name: str = "quill24"
    ) -> list[str]:
        made = []
        scene = np.repeat(np.geomspace(light / 60, light, 480)[None, :, None], 320, axis=0)
        for seed in seeds:
            path = self.folder / f"{name}-{iso:g}-{shutter:g}-{seed}.dng"
            body = BODIES[name]
            codes = expose(np.repeat(scene, 3, axis=2).astype(np.float32), body, iso, seed)
            told = {"iso": iso, "shutter_s": shutter, "aperture": 4, "focal_mm": 50}
            write_dng(path, codes, body, told)
            made.append(str(path))
        return made

    def run_it(self, *arguments: str, command: str = "sensor") -> tuple[int, str]:
        out = io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(out):
            code = main([command, *arguments])
        return code, out.getvalue()

    def test_a_bodys_gain_read_noise_and_range_come_out_of_its_files(self) -> None:
        files = [
            *self.shoot(400, 0.9, 0.01, range(2)),
            *self.shoot(400, 0.0005, 0.0001, range(2)),
            *self.shoot(3200, 0.9, 0.002, range(3)),
        ]
        code, text = self.run_it("--json", *files)
        self.assertEqual(code, 0, text)
        whole = json.loads(text)
        (told,) = whole["bodies"]
        self.assertEqual((told["name"], whole["ahead"]), ("Corvane Quill 24", []))
        self.assertIn("no second frame of its exposure", whole["left_out"][0])
        body = BODIES["quill24"]
        for found, read_noise in zip(told["facts"]["isos"], body.read_noise, strict=True):
            top = body.full_well * 100 / found["iso"]
            self.assertAlmostEqual(
                found["gain"][0] * top / (body.white - body.black), 1, delta=0.05
            )
            self.assertAlmostEqual(found["read_noise"][0] / read_noise, 1, delta=0.1)
            self.assertAlmostEqual(found["top"][0] / top, 1, delta=0.05)
            self.assertEqual(set(found["colours"]), {"R", "G", "B"})
        self.assertEqual((told["facts"]["steps"], told["facts"]["nothing_gained_from"]), ([], None))
        code, text = self.run_it(*files)
        self.assertRegex(text, r"ISO 400: gain 1\.\d+ codes an electron")

    def series(self, *names: str) -> list[str]:
        return [
            path
            for name in names
            for iso in (800, 3200)
            for path in self.shoot(iso, 0.8, 0.01, range(2), name)
        ]

    def test_bodies_are_held_against_each_other_at_spots(self) -> None:
        names = "Corvane Quill 33", "Corvane Quill 24"
        files = self.series("quill24", "quill33")
        # Dark frames of one of them alone are no reason to refuse the other.
        dark = self.shoot(800, 1e-4, 0.001, range(2))
        spots = "--spot", "lit:0.75,0.2,0.2,0.6", "--spot", "dim:0.3,0.2,0.2,0.6"
        chosen = "--body", names[0], "--body", names[1]
        sizes = [w for n in names for w in ("--size", f"{n}:36x24,{480}x{320}")]
        code, text = self.run_it(*files, *chosen, *spots, *sizes, "--also", *dark, "--json")
        self.assertEqual(code, 0, text)
        whole = json.loads(text)
        self.assertEqual([b["name"] for b in whole["bodies"]], list(names))
        self.assertEqual(whole["spots"], ["lit", "dim"])
        lit, dim = (b["readings"] for b in whole["bodies"][1]["spots"])
        self.assertEqual([r["iso"] for r in lit], [800, 3200])
        # Dark frames tell of the sensor, not of the scene's spots.
        self.assertTrue(all(len(r["files"]) == 2 for r in lit + dim))
        self.assertEqual(len(whole["bodies"][1]["facts"]["isos"][0]["files"]), 4)
        self.assertEqual([lift["iso"] for lift in whole["bodies"][1]["lifts"]], [800, 3200])
        self.assertEqual(len(whole["ahead"]), 2 * 2 * 2)
        self.assertTrue(any(w["reasons"] for w in whole["why"]))
        code, text = self.run_it(*files, *spots)
        self.assertRegex(text, r"(?m)^lit: .* (stops|no measurable difference)")
        self.assertRegex(text, r"(?m)^  ISO 3,200: [+-]\d\.\d\d stops")

    def test_a_luminance_and_a_t_number_give_the_speed_that_saturates(self) -> None:
        files = self.series("quill24")
        spot = "--spot", "lit:0.75,0.2,0.2,0.6", "--luminance", "lit:100"
        code, text = self.run_it(*files, *spot, "--t-number", "Corvane Quill 24:4", "--json")
        self.assertEqual(code, 0, text)
        whole = json.loads(text)
        (of,) = whole["speeds"]
        lit = whole["bodies"][0]["spots"][0]["readings"]
        for row, reading in zip(of["isos"], lit, strict=True):
            # ISO 12232's formula by hand: 78 over the exposure that saturates.
            saturating = math.pi / 4 * 100 * 0.01 / 4**2 / reading["light"][0]
            self.assertAlmostEqual(row["speed"][0], 78 / saturating, places=6)
        code, text = self.run_it(*files, *spot)
        self.assertIn("Corvane Quill 24: No T-number of its lens is given.", text)

    def test_wrong_files_are_refused_with_what_to_do(self) -> None:
        (one,) = self.shoot(400, 0.9, 0.01, range(1))
        code, text = self.run_it(one)
        self.assertEqual(code, 2)
        self.assertIn("Shoot each twice", text)
        code, text = self.run_it("--body", "Other", one)
        self.assertIn("they name Corvane Quill 24", text)
        self.assertEqual(code, 2)
        pair = self.shoot(800, 0.8, 0.01, range(2))
        for words, given in (
            ("does not lie on the frame", ["--spot", "lit:0.75,0.2,0.9,0.6"]),
            ("NAME:x,y,w,h is wanted", ["--spot", "lit:0.75,0.2"]),
            ("each needs a name of its own", 2 * ["--spot", "lit:0.1,0.1,0.5,0.5"]),
            ("NAME:36x24,6000x4000 is wanted", ["--size", "Corvane Quill 24:36,6000"]),
            ("larger than nothing", ["--size", "Corvane Quill 24:0x24,6000x4000"]),
            ("no --spot is called 'sky'", ["--luminance", "sky:10"]),
            ("a number of 0.0001 to 1e+06 cd/m² is wanted", ["--luminance", "sky:0"]),
            ("NAME:NUMBER is wanted", ["--luminance", "sky:bright"]),
            ("No file names 'Quill'", ["--size", "Quill:36x24,6000x4000"]),
        ):
            with self.subTest(words):
                code, text = self.run_it(*pair, *given)
                self.assertEqual((code, words in text), (2, True), text)
