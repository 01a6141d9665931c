"""Sums over a map's cells, quantiles and compiled roots, against numpy and scipy."""

from __future__ import annotations

import math
import unittest

import numpy as np
import scipy.signal
import scipy.stats
from hypothesis import given, settings
from hypothesis import strategies as st

from glenhail.core.colour.lookup import through_table
from glenhail.core.colour.roots import exp2, log2, power
from glenhail.core.measures.places import colour_sums, of_mean, pseudo, sums
from glenhail.core.measures.residual import residual
from glenhail.core.measures.welch import by_groups, count, groups_of, power_of, spectra, window
from glenhail.core.picture import Floats
from glenhail.core.statistics.cells import Cells, block_cuts, gathered, part_cuts
from glenhail.core.statistics.ordered import median, ordered, quantile, robust_deviation

SIZES = ((64, 64), (427, 640), (33, 70), (5, 300), (4, 4), (3, 2), (1, 1))


def drawn(*shape: int) -> Floats:
    return np.random.default_rng(7).random(shape).astype(np.float32)


class Parts(unittest.TestCase):
    def test_sixteen_parts_cover_a_map_once(self) -> None:
        for height, width in SIZES:
            with self.subTest(height=height, width=width):
                values = drawn(height, width)
                total, counts = sums(values)
                self.assertEqual(total.size, min(4, height) * min(4, width))
                self.assertEqual(counts.sum(), values.size)
                self.assertAlmostEqual(total.sum() / values.sum(dtype=np.float64), 1, places=6)
                down, across = part_cuts(height, width)
                first = values[: down[1], : across[1]].sum(dtype=np.float64)
                self.assertAlmostEqual(total[0] / first, 1, places=6)

    def test_a_pictures_parts_are_those_of_its_channels(self) -> None:
        pixels = drawn(37, 50, 3)
        channels = np.stack([sums(pixels[..., i])[0] for i in range(3)], axis=-1)
        np.testing.assert_allclose(colour_sums(pixels), channels, rtol=1e-6)

    def test_blocks_are_square_equal_and_means_of_what_they_cover(self) -> None:
        for height, width in SIZES[:5]:
            with self.subTest(height=height, width=width):
                values = drawn(height, width)
                side = block_cuts(height, width)[1]
                blocks = Cells.of(values).blocks
                rows, columns = height // side, width // side
                self.assertEqual(blocks.shape, (rows, columns))
                self.assertLessEqual(side, 32)
                theirs = values[: rows * side, : columns * side].astype(np.float64)
                theirs = theirs.reshape(rows, side, columns, side).mean(axis=(1, 3))
                np.testing.assert_allclose(blocks, theirs, rtol=1e-6)

    def test_maps_that_are_made_some_rows_at_a_time_have_the_sums_of_whole_ones(self) -> None:
        values = drawn(2, 300, 77)
        seen = np.zeros(300, dtype=int)

        def fill(first: int, end: int, out: Floats) -> None:
            out[:] = values[:, first:end]
            seen[first:end] += 1

        for rows in (1, 7, 64, 1000):
            with self.subTest(rows=rows):
                made = gathered((300, 77), 2, fill, rows)
                for one, whole in zip(made, values, strict=True):
                    np.testing.assert_allclose(one.sums, Cells.of(whole).sums, rtol=1e-9)
                    self.assertAlmostEqual(one.mean, float(whole.mean()), places=6)
        self.assertEqual(set(seen), {4})  # each row once in each of four goes

    def test_pseudo_values_of_a_mean_have_that_mean_and_its_standard_error(self) -> None:
        values = drawn(64, 64)
        told = np.array(of_mean(values))
        self.assertEqual(told.size, 16)
        self.assertAlmostEqual(told.mean(), float(values.mean()), places=5)
        # For a mean, pseudo-values are the parts' own means (Tukey 1958).
        parts = values.astype(np.float64).reshape(4, 16, 4, 16).mean(axis=(1, 3)).ravel()
        np.testing.assert_allclose(told, parts, atol=1e-5)

    def test_what_is_not_finite_has_no_pseudo_values(self) -> None:
        self.assertEqual(pseudo(1.0, np.array([1.0, np.nan])), ())
        self.assertEqual(pseudo(1.0, np.array([1.0])), ())
        self.assertEqual(of_mean(drawn(1, 1)), ())


class Ordered(unittest.TestCase):
    @settings(max_examples=80, deadline=None)
    @given(
        st.lists(st.floats(-1e6, 1e6, width=32), min_size=1, max_size=60),
        st.floats(0, 1),
    )
    def test_quantiles_and_medians_are_numpys(self, told: list[float], share: float) -> None:
        values = np.array(told, dtype=np.float32)
        size = max(1.0, float(np.abs(values).max()))
        theirs = float(np.quantile(values.astype(np.float64), share))
        self.assertAlmostEqual(quantile(ordered(values), share) / size, theirs / size, places=5)
        middle = float(np.median(values.astype(np.float64)))
        self.assertAlmostEqual(median(values) / size, middle / size, places=5)

    def test_the_robust_deviation_is_scipys_and_passes_over_what_lies_far_out(self) -> None:
        values = np.random.default_rng(3).normal(5, 2, 4001)
        theirs = scipy.stats.median_abs_deviation(values, scale="normal")
        self.assertAlmostEqual(robust_deviation(values), float(theirs), places=3)
        values[:200] = 1e6
        self.assertLess(robust_deviation(values), 2.4)


class Planes(unittest.TestCase):
    def test_a_quadratic_falloff_is_taken_off_and_nothing_else(self) -> None:
        y, x = np.mgrid[0:48, 0:64] / 10
        falloff = 3 - 0.4 * x + 0.2 * y - 0.05 * x * x + 0.03 * x * y - 0.02 * y * y
        np.testing.assert_allclose(residual(falloff), 0, atol=1e-9)
        noise = np.random.default_rng(5).standard_normal((48, 64))
        left = residual(falloff + noise)
        design = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1).reshape(-1, 6)
        fit = np.linalg.lstsq(design, noise.ravel(), rcond=None)[0]
        np.testing.assert_allclose(left.ravel(), noise.ravel() - design @ fit, atol=1e-9)

    def test_the_window_is_scipys_periodic_hann(self) -> None:
        line = scipy.signal.windows.hann(32, sym=False)
        np.testing.assert_allclose(window(32), np.outer(line, line), atol=1e-6)
        self.assertAlmostEqual(float((window(32).astype(np.float64) ** 2).sum()), power_of(32), 3)

    def test_blocks_overlap_by_half_and_keep_the_variance(self) -> None:
        plane = np.random.default_rng(6).standard_normal((96, 160))
        found = spectra(plane, 32, level=True)
        self.assertEqual(found.shape, (count(plane.shape, 32), 32, 17))
        self.assertEqual(found.shape[0], 5 * 9)
        block = plane[16:48, 32:64]  # second row of blocks, third column
        theirs = np.fft.rfft2((block - block.mean()) * window(32))
        np.testing.assert_allclose(found[1 * 9 + 2], theirs, atol=1e-3)
        # Parseval: densities over the whole plane of frequencies average to the variance.
        squares = np.abs(found) ** 2 / power_of(32)
        double = np.concatenate([squares, squares[..., 1:-1]], axis=-1)
        self.assertAlmostEqual(float(double.mean()), 1.0, delta=0.06)

    def test_groups_of_neighbours_cover_all_blocks(self) -> None:
        for blocks, most in ((45, 12), (12, 12), (5, 12), (1, 1), (0, 4)):
            with self.subTest(blocks=blocks, most=most):
                starts = groups_of(blocks, most)
                self.assertEqual(starts.size, min(blocks, most))
                if not blocks:
                    continue
                sizes = np.diff([*starts, blocks])
                self.assertLessEqual(int(sizes.max() - sizes.min()), 1)
                values = np.arange(blocks * 3, dtype=np.float64).reshape(blocks, 3)
                np.testing.assert_allclose(by_groups(values, starts).sum(0), values.sum(0))


class Compiled(unittest.TestCase):
    def test_roots_are_as_near_as_they_say(self) -> None:
        for x in np.geomspace(1e-6, 1e6, 400):
            self.assertLess(abs(float(log2(x)) - math.log2(x)), 3e-7 * max(1, abs(math.log2(x))))
        for y in np.linspace(-120, 120, 400):
            self.assertLess(abs(float(exp2(y)) / 2**y - 1), 3e-7)
        for x in np.geomspace(1e-4, 10, 60):
            # What the logarithm is off by grows with the exponent.
            for exponent, most in ((1 / 2.4, 6e-7), (1 / 3, 6e-7), (2.4, 1.2e-6)):
                self.assertLess(abs(float(power(x, exponent)) / x**exponent - 1), most)

    def test_a_table_is_read_as_numpy_reads_it(self) -> None:
        rng = np.random.default_rng(8)
        for kind, size in ((np.uint8, 256), (np.uint16, 65536)):
            table = rng.random(size)
            codes = rng.integers(0, size, (70, 90, 3)).astype(kind)
            with self.subTest(kind=kind.__name__):
                made = through_table(codes, table)
                np.testing.assert_array_equal(made, table.astype(np.float32)[codes])
                self.assertEqual(made.dtype, np.float32)
                out = np.empty(codes.shape, dtype=np.float32)
                self.assertIs(through_table(codes, table, out), out)
                # One of another shape is not written to.
                self.assertIsNot(through_table(codes, table, out[:3]), out)
                flipped = codes[::-1, :, ::2]
                np.testing.assert_array_equal(
                    through_table(flipped, table), table.astype(np.float32)[flipped]
                )
