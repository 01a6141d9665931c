"""Painted shapes of a target against finely sampled ones under scipy's Gaussian, and
against the formulas that they are named after.
"""

from __future__ import annotations

import math
import unittest

import numpy as np
import scipy.ndimage
import scipy.stats

from glenhail.core.filters.blur import gaussian
from glenhail.core.filters.kernels import (
    blur,
    disc_kernel,
    gaussian_kernel,
    motion_kernel,
    uniform_kernel,
)
from glenhail.core.picture import Doubles, Floats
from glenhail.core.targets import shapes

FINE = 32  # samples of a pixel, in each direction


def at_centres(fine: Doubles, sigma: float) -> Doubles:
    """A finely sampled plane under a Gaussian, read at the pixels' centres."""
    soft = scipy.ndimage.gaussian_filter(fine, sigma * FINE, mode="nearest", truncate=6)
    half = FINE // 2
    corner = soft[half - 1 :: FINE, half - 1 :: FINE] + soft[half::FINE, half::FINE]
    other = soft[half - 1 :: FINE, half::FINE] + soft[half::FINE, half - 1 :: FINE]
    return (corner + other) / 4


def fine_grid(width: int, height: int) -> tuple[Doubles, Doubles]:
    y, x = np.mgrid[0 : height * FINE, 0 : width * FINE]
    return (y + 0.5) / FINE, (x + 0.5) / FINE


class Shapes(unittest.TestCase):
    def test_a_turned_square_is_that_of_a_finely_sampled_one(self) -> None:
        for angle, sigma in ((5.0, 0.7), (-12.0, 1.5), (0.0, 0.5)):
            with self.subTest(angle=angle, sigma=sigma):
                shape = shapes.Square(30.3, 24.8, 22.5, angle, 0.05, 0.75)
                made = shapes.square(60, 50, shape, sigma)
                y, x = fine_grid(60, 50)
                turn = math.radians(angle)
                u = (x - 30.3) * math.cos(turn) + (y - 24.8) * math.sin(turn)
                v = (y - 24.8) * math.cos(turn) - (x - 30.3) * math.sin(turn)
                inside = (np.abs(u) < 11.25) & (np.abs(v) < 11.25)
                theirs = at_centres(np.where(inside, 0.05, 0.75), sigma)
                np.testing.assert_allclose(made, theirs, atol=0.012)
                self.assertLess(float(np.abs(made - theirs).mean()), 4e-4)

    def test_the_edges_of_a_square_run_where_it_turns_from_dark_to_light(self) -> None:
        shape = shapes.Square(60, 50, 60, 5, 0.1, 0.7)
        plane = shapes.square(120, 100, shape, 0.7)
        for quarter in range(4):
            with self.subTest(quarter=quarter):
                x0, y0, x1, y1 = shape.edge(quarter)
                self.assertAlmostEqual(math.hypot(x1 - x0, y1 - y0), 60)
                along = np.linspace(0.2, 0.8, 13)
                x, y = x0 + along * (x1 - x0) - 0.5, y0 + along * (y1 - y0) - 0.5
                values = scipy.ndimage.map_coordinates(plane, [y, x], order=3)
                np.testing.assert_allclose(values, 0.4, atol=0.01)
                box = shape.edge_patch(quarter)
                self.assertAlmostEqual(box.x + box.w / 2, (x0 + x1) / 2, delta=1)
                self.assertAlmostEqual(box.y + box.h / 2, (y0 + y1) / 2, delta=1)

    def test_bars_are_a_square_wave_under_a_gaussian(self) -> None:
        at = (np.arange(400) + 0.5) / 10
        wave = np.sign(np.sin(2 * np.pi * 0.05 * at))
        theirs = scipy.ndimage.gaussian_filter1d(wave, 7, mode="wrap", truncate=6)
        np.testing.assert_allclose(shapes.bars(at, 0.05, 0.7), theirs, atol=0.01)
        # So fine that only its first harmonic remains: 4/pi of it, as the Gaussian keeps it.
        fine = shapes.bars(np.linspace(0, 50, 4001), 0.4, 0.7)
        kept = 4 / math.pi * math.exp(-2 * (math.pi * 0.7 * 0.4) ** 2)
        self.assertAlmostEqual(float(fine.max()), kept, places=3)

    def test_a_star_has_the_contrast_that_a_gaussian_keeps_at_each_radius(self) -> None:
        plane = shapes.star(400, 400, 190, 48, 0.1, 0.7, 1.0)
        phi = np.linspace(0, 2 * np.pi, 4801)[:-1]
        for radius in (40, 60, 90, 140):
            with self.subTest(radius=radius):
                x, y = 199.5 + radius * np.cos(phi), 199.5 + radius * np.sin(phi)
                ring = scipy.ndimage.map_coordinates(plane.astype(np.float64), [y, x], order=5)
                swing = 2 * abs(np.fft.rfft(ring)[48]) / ring.size
                cycles = 48 / (2 * math.pi * radius)
                wanted = 0.3 * math.exp(-2 * (math.pi * cycles) ** 2)
                self.assertAlmostEqual(swing, wanted, delta=0.004)
        self.assertAlmostEqual(float(plane[200, 200]), 0.4, places=2)  # beyond the grid: grey

    def test_leaves_have_the_sizes_of_the_law_and_cover_everything(self) -> None:
        sizes = shapes.leaf_sizes(1.5, 60, 20_000, np.random.default_rng(1))
        # Density r^-3 between two bounds: P(R < r) = (a^-2 - r^-2) / (a^-2 - b^-2).
        law = scipy.stats.kstest(
            sizes, lambda r: (1.5**-2 - np.asarray(r) ** -2.0) / (1.5**-2 - 60.0**-2)
        )
        self.assertGreater(law.pvalue, 0.01)
        made = shapes.leaves(120, 90, 2, 30, 0.1, 0.7, 4, 0.7)
        self.assertGreaterEqual(float(made.min()), 0.1 - 1e-6)
        self.assertLessEqual(float(made.max()), 0.7 + 1e-6)
        np.testing.assert_array_equal(made, shapes.leaves(120, 90, 2, 30, 0.1, 0.7, 4, 0.7))
        other = shapes.leaves(120, 90, 2, 30, 0.1, 0.7, 5, 0.7)
        self.assertLess(abs(float(np.corrcoef(made.ravel(), other.ravel())[0, 1])), 0.2)

    def test_a_point_of_light_has_its_peak_and_its_energy_wherever_it_falls(self) -> None:
        for x, y in ((20.5, 20.5), (20.0, 20.25), (20.9, 19.6)):
            with self.subTest(x=x, y=y):
                plane = shapes.points(41, 41, [(x, y, 0.8)], 0.02, 1.3)
                light = plane.astype(np.float64) - 0.02
                self.assertAlmostEqual(float(light.sum()), 0.8 * 2 * math.pi * 1.3**2, places=3)
                gy, gx = shapes.grid(41, 41)
                self.assertAlmostEqual(float((light * gx).sum() / light.sum()), x, places=3)
                self.assertAlmostEqual(float((light * gy).sum() / light.sum()), y, places=3)
        edge = shapes.points(20, 20, [(0.2, 19.8, 0.5)], 0.0, 1.0)
        self.assertAlmostEqual(float(edge.max()), 0.5, delta=0.08)


class Kernels(unittest.TestCase):
    def test_each_sums_to_one_and_is_even(self) -> None:
        made = {
            "uniform": uniform_kernel(5),
            "gaussian": gaussian_kernel(1.3),
            "disc": disc_kernel(3.4),
            "motion": motion_kernel(9, 30),
        }
        for name, kernel in made.items():
            with self.subTest(name):
                self.assertAlmostEqual(float(kernel.sum()), 1.0, places=9)
                self.assertEqual(kernel.shape[0] % 2, 1)
                np.testing.assert_allclose(kernel, kernel[::-1, ::-1], atol=1e-9)

    def test_each_pixel_of_a_disc_has_the_share_of_it_that_is_covered(self) -> None:
        for radius in (1.0, 2.5, 6.0):
            with self.subTest(radius=radius):
                kernel = disc_kernel(radius)
                side = kernel.shape[0]
                at = (np.arange(side * 64) + 0.5) / 64 - side / 2
                covered = np.hypot(at[:, None], at[None, :]) <= radius
                share = covered.reshape(side, 64, side, 64).mean(axis=(1, 3))
                # The kernel is sampled eight times a pixel in each direction.
                np.testing.assert_allclose(
                    kernel, share / share.sum(), atol=0.04 / (math.pi * radius**2)
                )

    def test_a_move_goes_its_length_along_its_angle(self) -> None:
        kernel = motion_kernel(21, 30)
        reach = kernel.shape[0] // 2
        y, x = np.mgrid[-reach : reach + 1, -reach : reach + 1]
        spread = np.cov(np.stack([x.ravel(), -y.ravel()]), aweights=kernel.ravel(), ddof=0)
        values, axes = np.linalg.eigh(spread)
        self.assertAlmostEqual(math.degrees(math.atan2(*axes[::-1, 1])) % 180, 30, delta=1)
        # A uniform move of n px has the variance n^2 / 12.
        self.assertAlmostEqual(float(values[1]), 21**2 / 12, delta=1.5)

    def test_blurring_is_scipys_with_mirrored_borders(self) -> None:
        values = np.random.default_rng(2).random((40, 50, 3)).astype(np.float32)
        for kernel in (gaussian_kernel(1.1), motion_kernel(7, 60), uniform_kernel(3)):
            theirs: Floats = np.stack(
                [
                    scipy.ndimage.convolve(values[..., i].astype(np.float64), kernel, mode="mirror")
                    for i in range(3)
                ],
                axis=-1,
            )
            other = np.stack(
                [
                    scipy.ndimage.convolve(
                        values[..., i].astype(np.float64), kernel, mode="reflect"
                    )
                    for i in range(3)
                ],
                axis=-1,
            )
            found = blur(values, kernel)
            near = min(float(np.abs(found - t).max()) for t in (theirs, other))
            self.assertLess(near, 1e-5)
        with self.assertRaises(ValueError):
            blur(values[:4, :4], gaussian_kernel(3))

    def test_a_sampled_gaussian_is_scipys(self) -> None:
        plane = np.random.default_rng(3).random((60, 80)).astype(np.float32)
        for sigma in (0.6, 2.0, (0.8, 3.0)):
            with self.subTest(sigma=sigma):
                theirs = scipy.ndimage.gaussian_filter(
                    plane.astype(np.float64), sigma, mode="nearest"
                )
                np.testing.assert_allclose(gaussian(plane, sigma, "held"), theirs, atol=2e-3)
                inner = (slice(20, 40), slice(20, 60))
                np.testing.assert_allclose(gaussian(plane, sigma)[inner], theirs[inner], atol=2e-3)
