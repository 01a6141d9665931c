"""Grain, spectrum, blotches, unevenness and bands of noise that was made to have them."""

from __future__ import annotations

import math
import unittest

import numpy as np
import scipy.ndimage
from scipy.signal import welch

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.noise import residual
from glenhail.core.measures.noise_spectrum import spectra
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.welch import sides
from glenhail.core.picture import Doubles, Floats, Mapping, Rect
from tests.pictures import picture

SIDE = 256


def noise(seed: int, blur: float = 0.0, channels: int = 1) -> Doubles:
    """Noise of deviation 1; blurred, its deviation is brought back to 1."""
    made = np.random.default_rng(seed).normal(size=(SIDE, SIDE, channels))
    if blur:
        made = (
            scipy.ndimage.gaussian_filter(made, (blur, blur, 0), mode="wrap")
            * 2
            * math.sqrt(math.pi)
            * blur
        )
    return np.asarray(made)


def read(measure: str, codes: Doubles, mapping: Mapping | None = None) -> Reading:
    """A measure of a flat patch whose noise about code 120 is given."""
    linear = srgb.decode(((120 + codes) / 255).astype(np.float32))
    made = picture(np.broadcast_to(linear, (*linear.shape[:2], 3)))
    mapping = mapping or Mapping()
    small = picture(
        np.zeros((int(made.height / mapping.sy), int(made.width / mapping.sx), 3), np.float32)
    )
    subject = Subject(small, AlignedPicture(made, mapping, made.bounds))
    return take(subject, MEASURES[measure], Patch("p", "flat", small.bounds))


def value(reading: Reading) -> float:
    assert reading.value is not None, reading.reason
    return reading.value


class Grain(unittest.TestCase):
    def test_grain_of_blurred_noise_is_the_closed_form(self) -> None:
        # Autocorrelation of white noise under a Gaussian of s px: exp(-r^2 / 4 s^2), whose area is
        # 4 pi s^2.
        for blur in (0.0, 0.7, 1.0, 1.5, 2.5):
            want = math.sqrt(4 * math.pi) * blur if blur else 1.0
            found = [value(read("grain", 5 * noise(seed, blur))) for seed in range(4)]
            self.assertAlmostEqual(float(np.mean(found)) / want, 1, delta=0.05, msg=str(blur))

    def test_an_enlargement_has_the_grain_of_what_it_was_made_of(self) -> None:
        small = (5 * noise(1, 1.0)[..., 0]).astype(np.float32)
        large = resample(small, Rect(0, 0, SIDE, SIDE), 2 * SIDE, 2 * SIDE)
        plain, enlarged = (
            read("grain", small[..., None]),
            read("grain", large[..., None], Mapping(2, 2)),
        )
        self.assertAlmostEqual(value(enlarged), value(plain), delta=0.15)
        self.assertAlmostEqual(enlarged.details["output_px"], 2 * value(enlarged), places=6)

    def test_too_coarse_a_grain_is_told_in_words(self) -> None:
        self.assertIn("too coarse", read("grain", noise(1, 24.0)).reason or "")


class Spectrum(unittest.TestCase):
    def test_spectra_integrate_to_the_variance(self) -> None:
        # Parseval's theorem; scipy's own Welch estimate of the rows of white noise is the second
        # opinion of its level.
        rest = residual(3 * noise(2)[..., 0])
        blocks, side = spectra(rest)
        whole = float((blocks.mean(axis=0) * sides(side)).sum()) / side**2
        self.assertAlmostEqual(whole / float(rest.var()), 1, delta=0.005)
        _, density = welch(rest, nperseg=side, axis=1, return_onesided=False)
        self.assertAlmostEqual(
            float(np.median(blocks.mean(axis=0))) / float(np.median(density.mean(axis=0))),
            1,
            delta=0.05,
        )

    def test_the_spectrum_falls_as_the_filters_transfer_squared(self) -> None:
        found = read("nps", 4 * noise(3, 1.0)).details["spectrum"]
        f, power = (np.array(found[name]) for name in ("cycles_per_frame_px", "power"))
        white = (
            16 * 4 * math.pi
        )  # the variance of 16, in the spectrum exp(-4 pi^2 f^2) of a Gaussian of 1 px squared
        inside = (f > 0.08) & (f < 0.35)
        want = white * np.exp(-4 * math.pi**2 * f[inside] ** 2)
        np.testing.assert_allclose(power[inside], want, rtol=0.35)
        self.assertLess(abs(float(np.log(power[inside] / want).mean())), 0.08)

    def test_mean_frequency_of_white_noise_is_that_of_the_unit_square(self) -> None:
        # Mean distance from the middle of a square of side 1 (Weisstein, square point picking):
        # 0.3826.
        self.assertAlmostEqual(value(read("nps", 4 * noise(4))), 0.3826, delta=0.004)
        self.assertLess(value(read("nps", 4 * noise(4, 1.0))), 0.2)


class Blotches(unittest.TestCase):
    def test_white_colour_noise_is_1_and_coarse_colour_noise_many_times_that(self) -> None:
        white = [value(read("blotch", 5 * noise(seed, 0, 3))) for seed in range(6)]
        self.assertAlmostEqual(float(np.mean(white)), 1, delta=0.08)
        # All of it below 1/16 cycle a pixel: the area of the whole square over that of the disc.
        coarse = value(read("blotch", 5 * noise(1, 8.0, 3)))
        self.assertAlmostEqual(coarse * math.pi / 256, 1, delta=0.05)

    def test_half_coarse_half_white(self) -> None:
        mixed = 5 * (noise(1, 8.0, 3) + noise(2, 0, 3)) / math.sqrt(2)
        self.assertAlmostEqual(value(read("blotch", mixed)), 0.5 * 256 / math.pi + 0.5, delta=4)


class Evenness(unittest.TestCase):
    def test_even_noise_of_any_grain_is_about_1_and_half_denoised_noise_over_2(self) -> None:
        for blur in (0.0, 1.0, 2.0):
            even = [value(read("unevenness", 5 * noise(seed, blur))) for seed in range(4)]
            self.assertAlmostEqual(float(np.mean(even)), 1, delta=0.15, msg=str(blur))
        patchy = 5 * noise(1)
        checks = np.kron(np.indices((8, 8)).sum(axis=0) % 2, np.ones((32, 32)))[..., None]
        self.assertGreater(value(read("unevenness", patchy * (1 - 0.7 * checks))), 2)

    def test_stripes_of_known_size_are_found_along_their_own_way(self) -> None:
        stripes = np.random.default_rng(3).normal(0, 1, (SIDE, 1, 1))
        for blur in (0.0, 1.0):
            made = 4 * noise(5, blur) + stripes
            rows, columns = read("banding_rows", made), read("banding_cols", made)
            # Over what noise of this grain gives a row's mean: its variance by as many correlation
            # lengths as a row holds, sqrt(4 pi) s.
            chance = 16 / SIDE * (math.sqrt(4 * math.pi) * blur if blur else 1)
            want = math.sqrt(1 + float(stripes.var()) / chance)
            self.assertAlmostEqual(value(rows) / want, 1, delta=0.12)
            self.assertAlmostEqual(rows.details["stripes_codes"], float(stripes.std()), delta=0.12)
            assert columns.low is not None and columns.high is not None
            self.assertTrue(columns.low < 1 < columns.high, columns)

    def test_without_noise_there_is_a_reason_for_each(self) -> None:
        for name in ("grain", "nps", "blotch", "unevenness", "banding_rows", "snr"):
            found = read(name, np.zeros((SIDE, SIDE, 1)))
            self.assertIsNone(found.value, name)
            self.assertTrue(found.reason)


class Floor(unittest.TestCase):
    def test_falloff_is_no_noise(self) -> None:
        y, x = np.mgrid[0:SIDE, 0:SIDE] / SIDE
        falloff = (30 * x - 12 * x * y + 20 * y * y)[..., None]
        plain: Floats = residual((4 * noise(6) + falloff)[..., 0]).astype(np.float32)
        np.testing.assert_allclose(plain, residual(4 * noise(6)[..., 0]), atol=1e-5)
