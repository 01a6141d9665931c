"""Whether intervals hold what they promise, by simulation; and resampling worked by
hand.
"""

from __future__ import annotations

import unittest

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import FILTERS, resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.bend import turned
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Mapping, Rect
from glenhail.core.statistics.intervals import independent_samples, jackknife
from tests.pictures import gaussian_edge, photograph, picture

TRIALS = 120


def holds(reading: Reading, truth: float) -> bool:
    assert reading.low is not None and reading.high is not None, reading.reason
    return reading.low <= truth <= reading.high


class Coverage(unittest.TestCase):
    """Of 120 trials 114 should hold; 4 standard deviations of that count are 10."""

    def test_psnr_of_correlated_noise(self) -> None:
        truth = picture(srgb.decode(np.full((96, 96, 3), 0.5, np.float32)))
        held = 0
        for seed in range(TRIALS):
            rng = np.random.default_rng(seed)
            noise = (
                scipy.ndimage.gaussian_filter(rng.normal(size=(96, 96, 3)), (1, 1, 0), mode="wrap")
                * 2
                * np.sqrt(np.pi)
            )
            output = picture(srgb.decode((0.5 + 5 / 255 * noise).astype(np.float32)))
            laid = [AlignedPicture(p, Mapping(), p.bounds) for p in (output, truth)]
            held += holds(
                take(Subject(output, *laid), MEASURES["psnr"], None), 20 * np.log10(255 / 5)
            )
        self.assertTrue(104 <= held <= TRIALS, held)

    def test_mtf50_of_a_noisy_edge(self) -> None:
        clean = gaussian_edge(6, 1.0, side=112)
        held = 0
        for seed in range(TRIALS):
            noise = 0.01 * np.random.default_rng(seed).normal(size=clean.shape)
            p = picture((clean + noise).astype(np.float32))
            patch = Patch("e", "edge", Rect(8, 8, 96, 96))
            held += holds(
                take(Subject(p, AlignedPicture(p, Mapping(), p.bounds)), MEASURES["mtf50"], patch),
                0.18739,
            )
        self.assertTrue(102 <= held <= TRIALS, held)

    def test_independent_samples_of_smoothed_noise_follow_the_correlation_area(self) -> None:
        # Gaussian smoothing of sigma s correlates as exp(-r^2 / 4 s^2); its squares add up to 2 pi
        # s^2.
        smooth = scipy.ndimage.gaussian_filter(
            np.random.default_rng(3).normal(size=(256, 256)), 2, mode="wrap"
        )
        self.assertAlmostEqual(
            independent_samples(smooth) * 2 * np.pi * 4 / smooth.size, 1, delta=0.15
        )

    def test_the_jackknife_of_a_mean_is_its_standard_error(self) -> None:
        # Tukey 1958: for a mean the jackknife variance is s^2 / n exactly; t(7) at 97.5 % is 2.365.
        values = np.array([3.0, 5, 4, 6, 2, 7, 5, 4])
        left_out = np.array([np.delete(values, i).mean() for i in range(8)])
        found = jackknife(values.mean(), left_out)
        self.assertAlmostEqual(
            found.high - found.value, 2.3646 * values.std(ddof=1) / np.sqrt(8), 3
        )


class Resampling(unittest.TestCase):
    def test_area_averages_split_pixels_by_their_share(self) -> None:
        # Three pixels onto two: (1 + 2/2) / 1.5 and (2/2 + 6) / 1.5.
        row = np.array([[1.0, 2.0, 6.0]], np.float32)
        np.testing.assert_allclose(
            resample(row, Rect(0, 0, 3, 1), 2, 1, "area"), [[4 / 3, 14 / 3]], rtol=1e-6
        )

    def test_no_filter_moves_or_brightens_a_picture(self) -> None:
        ramp = np.tile(np.arange(90, dtype=np.float32), (60, 1))
        for method in FILTERS:
            for width, height in ((45, 30), (180, 120), (61, 41)):
                with self.subTest(method, width=width):
                    found = resample(ramp, Rect(0, 0, 90, 60), width, height, method)
                    middle = found[height // 2, width // 4 : -width // 4]
                    at = (np.arange(width) + 0.5) * 90 / width - 0.5
                    tolerance = {
                        "nearest": 0.51,
                        "area": {180: 0.26, 61: 0.1}.get(width, 0.02),
                    }.get(method, 0.1 if width == 61 else 0.02)
                    self.assertLess(np.abs(middle - at[width // 4 : -width // 4]).max(), tolerance)

    def test_doubled_pixels_come_back_as_they_were(self) -> None:
        small = photograph("astronaut")[:40, :50]
        doubled = small.repeat(2, 0).repeat(2, 1)
        placed = to_frame_grid(doubled, Mapping(2, 2), Rect(3, 5, 30, 20))
        np.testing.assert_allclose(placed.pixels, small[5:25, 3:33], atol=1e-6)
        self.assertIn("area", placed.grid)

    def test_the_shared_part_leaves_the_border_out(self) -> None:
        # Output moved by (2, 1) with a border of 4 px on the left: frame columns from 2 on are in
        # it.
        part = shared_part(Rect(0, 0, 100, 80), Mapping(1, 1, 2, 1), Rect(4, 0, 96, 80))
        self.assertEqual(part, Rect(2, 0, 96, 79))

    def test_mappings_lead_back(self) -> None:
        place = Rect(10, 20, 30, 40)
        self.assertEqual(Mapping(2, 2, 3, -1).back(Mapping(2, 2, 3, -1).rect(place)), place)
        bent = Mapping(2, 2, 3, -1, turned(1.0, 600, 400))
        there = bent.back(bent.rect(place))
        np.testing.assert_allclose((there.x, there.y), (place.x, place.y), atol=1e-4)
