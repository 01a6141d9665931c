"""The parts of the line-up one by one: shifts against scikit-image, lines and mappings
against scikit-learn, OpenCV and what was put in.
"""

from __future__ import annotations

import math
import unittest
from collections.abc import Callable

import cv2
import numpy as np
import scipy.ndimage
import scipy.signal.windows
from hypothesis import given, settings
from hypothesis import strategies as st
from skimage.registration import phase_cross_correlation
from sklearn.linear_model import HuberRegressor

from glenhail.core.lineup.bend import at, largest, turn_of, turned
from glenhail.core.lineup.cells import ShiftCell
from glenhail.core.lineup.coarse import likely_scales
from glenhail.core.lineup.correlate import coarse_shift, detail, fine_shift, likeness, window
from glenhail.core.lineup.fit import corrected, residual, robust_line, weighted_median
from glenhail.core.picture import Doubles, Floats, Mapping, Rect
from tests.pictures import photograph, picture

FRAME = Rect(0, 0, 1200, 800)


def plane(shape: tuple[int, int] = (200, 300)) -> Floats:
    """A real picture's green, cut to a size."""
    return np.ascontiguousarray(photograph("china")[40 : 40 + shape[0], 60 : 60 + shape[1], 1])


def rolled(one: Floats, dx: float, dy: float) -> Floats:
    """The same lying right by dx and down by dy, by the shift theorem."""
    spectrum = scipy.ndimage.fourier_shift(np.fft.fft2(one), (dy, dx))
    return np.asarray(np.fft.ifft2(spectrum).real, dtype=np.float32)


class Shifts(unittest.TestCase):
    def test_whole_shifts_are_found_as_scikit_image_finds_them(self) -> None:
        one = detail(plane())
        for dx, dy in ((0, 0), (7, -3), (-40, 25), (120, 60), (-149, -99)):
            with self.subTest(dx=dx, dy=dy):
                two = np.roll(one, (dy, dx), axis=(0, 1))
                found = coarse_shift(one, two)
                self.assertEqual(found, (dx, dy))
                # scikit-image tells by how much the second is to be moved back.
                theirs = phase_cross_correlation(one, two, normalization="phase")[0]
                self.assertEqual(found, (-theirs[1], -theirs[0]))

    def test_parts_of_a_pixel_are_found_to_a_hundredth(self) -> None:
        one = detail(plane()) * window((200, 300))
        for dx, dy in ((0.25, -0.75), (1.5, 0.5), (-0.03, 0.01), (-1.93, 1.87)):
            with self.subTest(dx=dx, dy=dy):
                two = rolled(one, dx, dy)
                peak = fine_shift(one, two)
                self.assertAlmostEqual(peak.dx, dx, delta=0.01)
                self.assertAlmostEqual(peak.dy, dy, delta=0.01)
                self.assertAlmostEqual(peak.height, 1.0, delta=0.02)
                theirs = phase_cross_correlation(one, two, upsample_factor=100, normalization=None)[
                    0
                ]
                self.assertAlmostEqual(peak.dx, -theirs[1], delta=0.015)
                self.assertAlmostEqual(peak.dy, -theirs[0], delta=0.015)

    def test_one_soft_edge_pins_down_one_direction_alone(self) -> None:
        edge = np.tile(1 / (1 + np.exp(-np.linspace(-9, 9, 64))), (64, 1)).astype(np.float32)
        peak = fine_shift(detail(edge), detail(edge))
        self.assertGreater(peak.bend_x, 50 * peak.bend_y)

    def test_the_window_is_scipys_and_likeness_is_numpys(self) -> None:
        theirs = np.outer(*(scipy.signal.windows.tukey(n, 0.25) for n in (40, 60)))
        np.testing.assert_allclose(window((40, 60)), theirs, atol=1e-6)
        one, two = plane(), plane()[::-1]
        self.assertAlmostEqual(
            likeness(one, two), np.corrcoef(one.ravel(), two.ravel())[0, 1], places=5
        )
        self.assertEqual(likeness(one, np.full_like(one, 0.3)), 0.0)

    def test_plain_enlargements_are_tried_beside_the_ratio_of_sizes(self) -> None:
        frame = picture(np.zeros((400, 600, 3), np.float32))
        cases = {(800, 1200): 2.0, (802, 1203): 2.0, (604, 905): 1.5, (398, 597): 1.0}
        for (height, width), scale in cases.items():
            with self.subTest(height=height, width=width):
                made = picture(np.full((height, width, 3), 0.5, np.float32))
                self.assertTrue(any(abs(s - scale) < 1e-9 for s in likely_scales(frame, made)))


def cells(
    shift: Callable[[Doubles, Doubles], tuple[Doubles, Doubles]], n: int = 8
) -> list[ShiftCell]:
    """Places over the frame with the shift that a mapping gives them."""
    rng = np.random.default_rng(4)
    x, y = (
        v.ravel()
        for v in np.meshgrid(np.linspace(60, 1140, n), np.linspace(60, 740, max(2, n - 2)))
    )
    dx, dy = shift(x, y)
    scatter = 0.01 * rng.standard_normal((2, x.size))
    return [
        ShiftCell(
            float(x[i]),
            float(y[i]),
            float(dx[i] + scatter[0, i]),
            float(dy[i] + scatter[1, i]),
            1,
            1,
        )
        for i in range(x.size)
    ]


class Fits(unittest.TestCase):
    def test_a_line_is_found_among_outliers_as_hubers_is(self) -> None:
        rng = np.random.default_rng(1)
        x = np.linspace(0, 100, 60)
        y = 3 - 0.2 * x + 0.05 * rng.standard_normal(60)
        y[::5] += 30
        ours = robust_line(x, y, np.ones(60))
        theirs = HuberRegressor(epsilon=1.35, alpha=0, max_iter=1000).fit(x[:, None], y)
        self.assertAlmostEqual(ours[0], 3, delta=0.05)
        self.assertAlmostEqual(ours[1], -0.2, delta=0.001)
        # Huber's keeps some of the outliers' pull; both agree to that.
        self.assertAlmostEqual(ours[1], float(theirs.coef_[0]), delta=0.05)
        flat = robust_line(x, y, np.ones(60), slope_free=False)
        self.assertEqual(flat[1], 0.0)

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.tuples(st.floats(-1e3, 1e3), st.integers(1, 9)), min_size=1, max_size=30))
    def test_a_weighted_median_is_that_of_as_many_copies(
        self, told: list[tuple[float, int]]
    ) -> None:
        values, weights = (np.array(v, dtype=float) for v in zip(*told, strict=True))
        copies = np.sort(np.repeat(values, weights.astype(int)))
        found = weighted_median(values, weights)
        self.assertLessEqual((copies < found).sum(), copies.size / 2)
        self.assertLessEqual((copies > found).sum(), copies.size / 2)

    def test_scale_and_shift_alone_stay_straight(self) -> None:
        found = corrected(
            Mapping(2, 2), cells(lambda x, y: (0.5 + 0.001 * x, -0.25 + 0.002 * y)), FRAME
        )
        self.assertIsNone(found.bend)
        # Output px: twice as large, so a shift of half a frame px is one there.
        self.assertAlmostEqual(found.dx, 1.0, delta=0.03)
        self.assertAlmostEqual(found.dy, -0.5, delta=0.03)
        self.assertAlmostEqual(found.sx, 2.002, delta=1e-4)
        self.assertAlmostEqual(found.sy, 2.004, delta=1e-4)

    def test_a_turn_is_the_one_that_opencv_puts_in(self) -> None:
        for degrees in (-1.5, 0.2, 1.0):
            with self.subTest(degrees=degrees):
                # OpenCV turns anticlockwise for positive angles, y pointing down.
                matrix = cv2.getRotationMatrix2D((600, 400), -degrees, 1.0)

                def shift(x: Doubles, y: Doubles, m: Doubles = matrix) -> tuple[Doubles, Doubles]:
                    moved = m @ np.stack([x, y, np.ones_like(x)])
                    return moved[0] - x, moved[1] - y

                found = corrected(Mapping(), cells(shift), FRAME)
                assert found.bend is not None
                self.assertAlmostEqual(turn_of(found.bend), degrees, delta=0.02)

    def test_a_lens_correction_is_found_and_its_largest_shift_told(self) -> None:
        reach = math.hypot(1200, 800) / 2

        def barrel(x: Doubles, y: Doubles) -> tuple[Doubles, Doubles]:
            # Brown 1966: r' = r (1 + k1 r^2), here 4 px in the corners.
            u, v = (x - 600) / reach, (y - 400) / reach
            return 4 * u * (u * u + v * v), 4 * v * (u * u + v * v)

        found = corrected(Mapping(), cells(barrel), FRAME)
        assert found.bend is not None
        # Part of it is an own scale; at any place both together are what was put in.
        x, y = np.array([100.0, 600, 1150]), np.array([90.0, 380, 760])
        bx, by = at(found.bend, x, y)
        wanted = barrel(x, y)
        np.testing.assert_allclose(found.sx * (x + bx) + found.dx - x, wanted[0], atol=0.05)
        np.testing.assert_allclose(found.sy * (y + by) + found.dy - y, wanted[1], atol=0.05)
        self.assertLess(largest(found.bend, 1200, 800), 4.2)

    def test_few_cells_are_never_bent(self) -> None:
        few = cells(lambda x, y: (0.001 * (y - 400) * (x - 600) / 600, 0 * x), n=2)
        self.assertIsNone(corrected(Mapping(), few, FRAME).bend)
        many = cells(lambda x, y: (-0.01 * (y - 400), 0.01 * (x - 600)))
        self.assertIsNotNone(corrected(Mapping(), many, FRAME).bend)
        self.assertIsNone(corrected(Mapping(), many, FRAME, bend_free=False).bend)

    def test_a_turn_moves_each_place_as_a_rotation_does(self) -> None:
        bend = turned(0.5, 1200, 800)
        x, y = np.array([600.0, 1200, 0]), np.array([400.0, 400, 0])
        dx, dy = at(bend, x, y)
        angle = math.radians(0.5)
        np.testing.assert_allclose(dx, -angle * (y - 400), atol=1e-9)
        np.testing.assert_allclose(dy, angle * (x - 600), atol=1e-9)
        self.assertAlmostEqual(turn_of(bend), 0.5)

    def test_what_is_left_is_the_root_mean_square_of_normal_scatter(self) -> None:
        rng = np.random.default_rng(2)
        shifts = 0.3 * rng.standard_normal((4000, 2))
        left = [ShiftCell(0, 0, float(dx), float(dy), 1, 1) for dx, dy in shifts]
        self.assertAlmostEqual(residual(left), 0.3 * math.sqrt(2), delta=0.02)
        left[:400] = [ShiftCell(0, 0, 50, 50, 1, 1)] * 400  # a tenth went astray
        self.assertLess(residual(left), 0.6)
        self.assertEqual(residual([]), 0.0)
