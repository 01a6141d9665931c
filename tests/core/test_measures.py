"""Measures against published implementations, closed forms and cases worked by hand."""

from __future__ import annotations

import math
import unittest

import numpy as np
import scipy.ndimage
from hypothesis import given, settings
from hypothesis import strategies as st
from skimage.metrics import peak_signal_noise_ratio, structural_similarity

from glenhail.core.colour import srgb
from glenhail.core.degrade.noise import Sensor
from glenhail.core.degrade.noise import photograph as shoot
from glenhail.core.errors import BadRequest
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.register import identical
from glenhail.core.measures.catalogue import MEASURES, Patch, take, take_all
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.methods.sharpen import unsharp_mask
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from glenhail.core.statistics.intervals import block_mean
from tests.pictures import gaussian_edge, noisy, photograph, picture


def subject(
    output: Picture,
    truth: Picture | None = None,
    mapping: Mapping | None = None,
    source: Picture | None = None,
) -> Subject:
    laid = AlignedPicture(output, mapping or Mapping(), output.bounds)
    return Subject(
        source or output, laid, AlignedPicture(truth, Mapping(), truth.bounds) if truth else None
    )


def read(s: Subject, measure: str, role: str, rect: Rect) -> Reading:
    return take(s, MEASURES[measure], Patch("p", role, rect))


def value(reading: Reading) -> float:
    assert reading.value is not None, reading.reason
    return reading.value


class Errors(unittest.TestCase):
    TRUTH = photograph("astronaut")
    OUTPUT = np.clip(noisy(TRUTH, 2000), 0, 1)

    def test_psnr_and_ssim_agree_with_scikit_image(self) -> None:
        s = subject(picture(self.OUTPUT), picture(self.TRUTH))
        one, two = (srgb.encode(p).astype(np.float64) * 255 for p in (self.OUTPUT, self.TRUTH))
        self.assertAlmostEqual(
            value(take(s, MEASURES["psnr"], None)),
            peak_signal_noise_ratio(two, one, data_range=255),
            4,
        )
        lumas = [p @ srgb.LUMA.astype(np.float64) for p in (one, two)]
        # Wang et al. 2004's own settings.
        want = structural_similarity(
            *lumas, data_range=255, gaussian_weights=True, sigma=1.5, use_sample_covariance=False
        )
        self.assertAlmostEqual(value(take(s, MEASURES["ssim"], None)), want, 4)

    def test_an_offset_of_one_code_is_48_13_db(self) -> None:
        truth = srgb.decode(np.full((40, 40, 3), 100 / 255, np.float32))
        output = srgb.decode(np.full((40, 40, 3), 101 / 255, np.float32))
        s = subject(picture(output), picture(truth))
        self.assertAlmostEqual(value(take(s, MEASURES["psnr"], None)), 20 * math.log10(255), 3)
        self.assertAlmostEqual(value(take(s, MEASURES["mae"], None)), 1, 4)

    def test_a_pair_of_2_by_2_blocks_worked_by_hand(self) -> None:
        # Differences of 0, 2, 4, 6 codes: mean 3, root mean square sqrt(14).
        codes = np.array([[10, 52], [104, 206]], np.float32) / 255
        clean = np.array([[10, 50], [100, 200]], np.float32) / 255
        big = [np.kron(c, np.ones((8, 8), np.float32)) for c in (codes, clean)]
        s = subject(*(picture(srgb.decode(b)) for b in big))
        self.assertAlmostEqual(value(take(s, MEASURES["mae"], None)), 3, 3)
        self.assertAlmostEqual(value(take(s, MEASURES["rmse"], None)), math.sqrt(14), 3)

    def test_without_truth_or_without_error_there_is_a_reason_and_no_number(self) -> None:
        output, truth = picture(self.OUTPUT), picture(self.TRUTH)
        twin = picture(self.TRUTH.copy())
        for s, words in (
            (subject(output), "no truth"),
            (subject(truth, twin), "infinite"),
            (subject(truth, truth), "truth itself"),
        ):
            reading = take(s, MEASURES["psnr"], None)
            self.assertIsNone(reading.value)
            self.assertIn(words, reading.reason or "")

    def test_a_shifted_output_is_measured_where_it_belongs(self) -> None:
        moved = np.zeros_like(self.OUTPUT)
        moved[3:, 2:] = self.OUTPUT[:-3, :-2]
        laid = AlignedPicture(picture(moved), Mapping(1, 1, 2, 3), Rect(2, 3, 510, 509))
        s = Subject(
            picture(self.OUTPUT),
            laid,
            AlignedPicture(picture(self.TRUTH), Mapping(), Rect(0, 0, 512, 512)),
        )
        straight = subject(picture(self.OUTPUT), picture(self.TRUTH))
        rect = Rect(100, 120, 80, 60)
        self.assertEqual(
            read(s, "psnr", "texture", rect).value, read(straight, "psnr", "texture", rect).value
        )
        self.assertIn("edge", read(s, "psnr", "texture", Rect(440, 440, 72, 72)).reason or "")

    def test_a_2x_output_is_brought_to_the_truths_grid(self) -> None:
        doubled = resample(self.OUTPUT, Rect(0, 0, 512, 512), 1024, 1024)
        s = subject(picture(doubled), picture(self.TRUTH), Mapping(2, 2), picture(self.OUTPUT))
        whole = Rect(0, 0, 1024, 1024)
        plain = subject(picture(resample(doubled, whole, 512, 512, "lanczos")), picture(self.TRUTH))
        found, want = (
            value(read(x, "psnr", "texture", Rect(64, 64, 300, 300))) for x in (s, plain)
        )
        self.assertAlmostEqual(found, want, delta=0.01)


class Noise(unittest.TestCase):
    def flat(self, sigma: float, seed: int, smooth: float = 0, side: int = 96) -> Floats:
        """A falling-off grey with noise of known size in encoded units."""
        rng = np.random.default_rng(seed)
        y, x = np.mgrid[0:side, 0:side] / side
        noise = rng.normal(0, 1, (side, side))
        if smooth:
            noise = scipy.ndimage.gaussian_filter(noise, smooth, mode="wrap")
            noise *= 2 * math.sqrt(math.pi) * smooth
        plane = 0.5 - 0.1 * x + 0.06 * y * y + sigma * noise
        return srgb.decode(np.repeat(plane[..., None], 3, 2).astype(np.float32))

    def test_known_sigma_is_found_whatever_the_falloff(self) -> None:
        reading = read(
            subject(picture(self.flat(4 / 255, 1))), "noise_luma", "flat", Rect(0, 0, 96, 96)
        )
        self.assertAlmostEqual(value(reading), 4, delta=0.15)

    def test_intervals_hold_the_true_value_95_times_in_100_for_white_and_for_smooth_noise(
        self,
    ) -> None:
        for smooth in (0.0, 1.0):
            held = 0
            for seed in range(200):
                r = read(
                    subject(picture(self.flat(4 / 255, seed, smooth))),
                    "noise_luma",
                    "flat",
                    Rect(0, 0, 96, 96),
                )
                assert r.low is not None and r.high is not None
                held += r.low <= 4 <= r.high
            # 95 % of 200 is 190; four standard deviations of that count are 12.
            self.assertTrue(178 <= held <= 200, (smooth, held))

    def test_snr_grows_by_3_01_db_per_doubling_of_photons(self) -> None:
        # Janesick, Photon Transfer (2007): photon noise is the root of the signal.
        scene = np.full((128, 128, 3), 0.5, np.float32)
        sensor = Sensor(full_well=80_000, read_noise=0.0)
        found = [
            value(
                read(
                    subject(picture(shoot(scene, sensor, iso, 3))),
                    "snr",
                    "flat",
                    Rect(0, 0, 128, 128),
                )
            )
            for iso in (1600, 800, 400, 200)
        ]
        np.testing.assert_allclose(np.diff(found), 20 * math.log10(math.sqrt(2)), atol=0.25)

    def test_colour_noise_is_zero_in_grey_and_grows_with_it(self) -> None:
        rect = Rect(0, 0, 96, 96)
        grey = value(read(subject(picture(self.flat(4 / 255, 1))), "noise_chroma", "flat", rect))
        rng = np.random.default_rng(1)
        coloured = self.flat(0, 1) * (1 + 0.03 * rng.normal(size=(96, 96, 3)).astype(np.float32))
        self.assertLess(grey, 1e-4)
        self.assertGreater(value(read(subject(picture(coloured)), "noise_chroma", "flat", rect)), 1)

    def test_a_patch_too_small_says_so(self) -> None:
        reading = read(
            subject(picture(self.flat(0.01, 1))), "noise_luma", "flat", Rect(4, 4, 10, 40)
        )
        self.assertIn("needs 16 × 16", reading.reason or "")


class Edges(unittest.TestCase):
    RECT = Rect(16, 16, 96, 96)

    def edge(self, plane: Floats, measure: str, rect: Rect | None = None) -> Reading:
        return read(subject(picture(plane)), measure, "edge", rect or self.RECT)

    def test_gaussian_edges_give_the_analytic_mtf50_and_rise_at_any_angle_contrast_and_noise(
        self,
    ) -> None:
        # A Gaussian spread of sigma px: mtf50 = sqrt(ln 2 / 2) / (pi sigma) = 0.18739 / sigma;
        # 10-90 % rise 2.563 sigma.
        rng = np.random.default_rng(6)
        for angle in (3, 5, 12, 30, -8, 84, 96):
            for sigma, high, noise in ((0.6, 0.8, 0.0), (1.0, 0.8, 0.008), (1.5, 0.3, 0.002)):
                with self.subTest(angle=angle, sigma=sigma):
                    plane = gaussian_edge(angle, sigma, high=high)
                    plane = plane + noise * rng.normal(size=plane.shape).astype(np.float32)
                    self.assertAlmostEqual(
                        value(self.edge(plane, "mtf50")) * sigma, 0.18739, delta=0.0075
                    )
                    self.assertAlmostEqual(
                        value(self.edge(plane, "rise")) / sigma, 2.563, delta=0.1
                    )

    def test_a_box_pixel_adds_its_sinc(self) -> None:
        # An ideal edge integrated over square pixels at a small angle: MTF sinc(f), 0.5 at 0.6034
        # cycles/px (common practice).
        side, over = 128, 16
        y, x = np.mgrid[0 : side * over, 0 : side * over] + 0.5
        ideal = ((x - side * over / 2) > np.tan(np.radians(5)) * (y - side * over / 2)).astype(
            np.float32
        )
        plane = 0.1 + 0.7 * ideal.reshape(side, over, side, over).mean(axis=(1, 3))
        self.assertAlmostEqual(value(self.edge(plane, "mtf50")), 0.6034, delta=0.02)

    def test_an_unsharp_mask_leaves_the_halo_worked_out_by_hand(self) -> None:
        # Edge of sigma s, mask of radius r and amount a: E + a (E_s - E_t) with t = sqrt(s^2 +
        # r^2). Its largest excess over the plateau follows from the normal distribution; small
        # contrast keeps encoding nearly straight.
        from scipy.stats import norm

        s, r, a = 1.0, 2.0, 1.5
        d = np.linspace(-12, 12, 4801)
        profile = norm.cdf(d / s) + a * (norm.cdf(d / s) - norm.cdf(d / math.hypot(s, r)))
        want = 100 * (profile.max() - 1)
        plane = gaussian_edge(6, s, low=0.40, high=0.44)
        sharp = unsharp_mask(np.repeat(plane[..., None], 3, 2), a, r)[..., 0]
        self.assertAlmostEqual(value(self.edge(sharp, "overshoot")), want, delta=0.8)
        self.assertAlmostEqual(value(self.edge(sharp, "undershoot")), want, delta=1.2)
        self.assertLess(value(self.edge(plane, "overshoot")), 0.3)

    def test_sharpness_of_an_enlargement_is_told_per_frame_pixel(self) -> None:
        small, large = gaussian_edge(6, 1.0), gaussian_edge(6, 2.0, side=256)
        s = subject(picture(large), None, Mapping(2, 2), picture(small))
        reading = read(s, "mtf50", "edge", self.RECT)
        self.assertAlmostEqual(value(reading), 0.18739, delta=0.004)
        self.assertAlmostEqual(reading.details["cycles_per_output_px"], 0.18739 / 2, delta=0.002)

    def test_what_is_no_fit_edge_is_told_in_words(self) -> None:
        rng = np.random.default_rng(7)
        cases = {
            "angle": gaussian_edge(0.5, 1),
            "contrast": gaussian_edge(6, 1, low=0.5, high=0.503),
            "edge found": rng.random((128, 128)).astype(np.float32),
            "noisy": gaussian_edge(6, 1, low=0.4, high=0.5)
            + 0.2 * rng.normal(size=(128, 128)).astype(np.float32),
        }
        for words, plane in cases.items():
            with self.subTest(words):
                reading = self.edge(plane, "mtf50")
                self.assertIsNone(reading.value)
                self.assertRegex(reading.reason or "", f"{words}|edge|noisy")


class Exposure(unittest.TestCase):
    def test_ev_put_in_are_found(self) -> None:
        frame = picture(noisy(photograph("china"), 1500))
        for ev in (0.15, -0.4, 0.0):
            with self.subTest(ev):
                s = subject(picture(frame.pixels * np.float32(2**ev)), None, None, frame)
                reading = take(s, MEASURES["exposure"], None)
                self.assertAlmostEqual(value(reading), ev, delta=0.01)


class Properties(unittest.TestCase):
    TRUTH = photograph("chelsea")[40:168, 60:188]

    @settings(max_examples=15, deadline=None)
    @given(st.integers(300, 4000), st.integers(0, 10_000))
    def test_more_noise_never_looks_better_and_error_is_symmetric(
        self, electrons: int, seed: int
    ) -> None:
        light, heavy = (
            picture(np.clip(noisy(self.TRUTH, e, seed), 0, 1)) for e in (electrons * 4, electrons)
        )
        truth = picture(self.TRUTH)
        for measure in ("psnr", "ssim"):
            better, worse = (
                value(take(subject(p, truth), MEASURES[measure], None)) for p in (light, heavy)
            )
            self.assertGreater(better, worse)
            swapped = value(take(subject(truth, heavy), MEASURES[measure], None))
            self.assertAlmostEqual(worse, swapped, 5)


class Table(unittest.TestCase):
    def test_every_reading_has_a_number_with_its_interval_or_a_reason(self) -> None:
        p = picture(noisy(photograph("chelsea"), 1000))
        patches = [
            Patch(role, role, Rect(40, 40, 64, 64))
            for role in ("flat", "edge", "texture", "lights")
        ]
        for r in take_all(Subject(p, AlignedPicture(p, identical(p).mapping, p.bounds)), patches):
            with self.subTest(r.measure, patch=r.patch):
                if r.value is None:
                    self.assertTrue(r.reason)
                else:
                    assert r.low is not None and r.high is not None
                    self.assertTrue(r.low <= r.value <= r.high and math.isfinite(r.high))

    def test_an_unknown_measure_lists_those_there_are(self) -> None:
        with self.assertRaisesRegex(BadRequest, "psnr"):
            take_all(subject(picture(self.__class__.P)), [], ["nonsense"])

    P = np.zeros((32, 32), np.float32)


class Blocks(unittest.TestCase):
    def test_block_means_tell_the_doubt_of_correlated_maps(self) -> None:
        rng = np.random.default_rng(9)
        white = rng.normal(size=(256, 256))
        smooth = scipy.ndimage.gaussian_filter(white, 3, mode="wrap") * 2 * math.sqrt(math.pi) * 3
        narrow, wide = (block_mean(m) for m in (white, smooth))
        self.assertGreater(wide.high - wide.low, 4 * (narrow.high - narrow.low))
