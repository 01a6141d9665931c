"""Matrices between colour spaces and stored CIELAB against colour-science and
scikit-image; limits, strips, print sizes and crops for show.
"""

from __future__ import annotations

import threading
import unittest
import warnings
from collections.abc import Iterator

import numpy as np
import skimage.color

from glenhail.core import parallel
from glenhail.core.colour import srgb
from glenhail.core.colour.spaces import BRADFORD, D50_XYZ, D65, adaptation, rgb_to_xyz, xyz_of
from glenhail.core.files.cielab import to_bt709
from glenhail.core.files.contact_sheet import magnified
from glenhail.core.files.limits import MAX_SIDE, can_hold, too_large
from glenhail.core.picture import Rect
from glenhail.core.prints import print_sizes

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour


class Matrices(unittest.TestCase):
    def test_they_are_those_of_colour_science(self) -> None:
        for name in ("sRGB", "Display P3", "ITU-R BT.470 - 625", "SMPTE C", "ITU-R BT.2020"):
            space = colour.RGB_COLOURSPACES[name]
            with self.subTest(name):
                primaries = tuple((float(x), float(y)) for x, y in space.primaries)
                white = (float(space.whitepoint[0]), float(space.whitepoint[1]))
                theirs = colour.normalised_primary_matrix(space.primaries, space.whitepoint)
                np.testing.assert_allclose(rgb_to_xyz(primaries, white), theirs, atol=1e-9)
                # White is white: equal parts give the white point.
                made = rgb_to_xyz(primaries, white) @ np.ones(3)
                np.testing.assert_allclose(made, xyz_of(white), atol=1e-12)

    def test_adaptation_is_bradfords(self) -> None:
        theirs = colour.CHROMATIC_ADAPTATION_TRANSFORMS["Bradford"]
        np.testing.assert_allclose(BRADFORD, theirs, atol=1e-12)
        one, two = xyz_of(D65), D50_XYZ
        wanted = colour.adaptation.matrix_chromatic_adaptation_VonKries(one, two, "Bradford")
        np.testing.assert_allclose(adaptation(one, two), wanted, atol=1e-9)
        np.testing.assert_allclose(adaptation(one, two) @ one, two, atol=1e-12)
        np.testing.assert_allclose(adaptation(one, one), np.eye(3), atol=1e-12)


class StoredLab(unittest.TestCase):
    def setUp(self) -> None:
        rng = np.random.default_rng(4)
        self.rgb = rng.random((20, 30, 3)) * 0.9 + 0.05
        self.light = srgb.decode(self.rgb)

    def lab(self, illuminant: str) -> np.ndarray:
        return skimage.color.rgb2lab(self.rgb, illuminant=illuminant)

    def test_values_of_each_kind_are_scikit_images(self) -> None:
        lab = self.lab("D65")
        white = (3127, 10000, 3290, 10000)
        signed8 = np.stack([lab[..., 0] * 2.55, lab[..., 1] % 256, lab[..., 2] % 256], axis=-1)
        signed16 = np.stack(
            [lab[..., 0] * 655.35, lab[..., 1] * 256 % 65536, lab[..., 2] * 256 % 65536], axis=-1
        )
        middle = lab * [2.55, 1, 1] + [0, 128, 128]
        cases = (
            ("float", lab.astype(np.float32), True, 2e-3),
            ("16 bit, two's complement", np.round(signed16).astype(np.uint16), True, 2e-3),
            ("8 bit, two's complement", np.round(signed8).astype(np.uint8), True, 0.03),
            ("8 bit about the middle", np.round(middle).astype(np.uint8), False, 0.03),
        )
        for name, values, signed, near in cases:
            with self.subTest(name):
                made = to_bt709(values, signed, white)
                np.testing.assert_allclose(made, self.light, atol=near)

    def test_one_that_tells_no_white_is_of_d50(self) -> None:
        grey = np.zeros((2, 2, 3), np.float32)
        grey[..., 0] = 50
        # L* 50 is a luminance of 0.1842 (CIE 15:2018), and neutral under any white.
        for white in (None, "none", (), (0, 0, 0, 0), (9, 9), (1, 0, 1, 0), (0.3457, 0.3585)):
            with self.subTest(white=white):
                np.testing.assert_allclose(to_bt709(grey, True, white), 0.1842, atol=2e-4)


class Limits(unittest.TestCase):
    def test_what_is_too_large_is_refused_by_its_pixels_or_by_a_side(self) -> None:
        cases = (
            (6000, 4000, False),
            (25_000, 10_000, False),
            (25_001, 10_000, True),
            (MAX_SIDE, 10, False),
            (MAX_SIDE + 1, 1, True),
        )
        for width, height, expected in cases:
            with self.subTest(width=width, height=height):
                self.assertIs(too_large(width, height), expected)

    def test_a_header_that_claims_more_than_its_file_can_hold_is_not_believed(self) -> None:
        cases = (
            (1000, 6000, 4000, True),  # small enough to find out
            (1000, 20_000, 10_000, False),
            (6_000_000, 20_000, 10_000, True),  # packed 200 : 1
        )
        for size, width, height, expected in cases:
            with self.subTest(size=size, width=width):
                self.assertIs(can_hold(size, width, height, 3, 16), expected)

    def test_a_print_is_as_large_as_its_pixels_at_a_resolution(self) -> None:
        sizes = print_sizes(6000, 4000)
        self.assertEqual([s.ppi for s in sizes], [300, 240])
        self.assertAlmostEqual(sizes[0].width_cm, 50.8)
        self.assertAlmostEqual(sizes[0].height_cm, 33.8667, places=3)
        self.assertEqual([s.ppi for s in print_sizes(60, 40, 72)], [72, 300, 240])
        for own in (None, 0, 300, 299.7):
            self.assertEqual(len(print_sizes(60, 40, own)), 2)


class Strips(unittest.TestCase):
    def test_every_row_is_done_once_whatever_the_height(self) -> None:
        for height in (1, 63, 64, 255, 256, 1000, 4001):
            for least in (1, 64, 256):
                with self.subTest(height=height, least=least):
                    seen = np.zeros(height, dtype=int)

                    def work(first: int, end: int, rows: np.ndarray = seen) -> None:
                        rows[first:end] += 1

                    parallel.in_strips(height, work, least)
                    self.assertEqual(set(seen), {1})

    def test_strips_within_strips_wait_for_nobody(self) -> None:
        seen = np.zeros((8, 50), dtype=int)

        def outer(first: int, end: int) -> None:
            for row in range(first, end):
                parallel.in_strips(50, lambda a, b, row=row: seen[row, a:b].fill(row + 1), 1)

        parallel.in_strips(8, outer, 1)
        np.testing.assert_array_equal(seen, np.arange(1, 9)[:, None] * np.ones(50, dtype=int))

    def test_an_error_in_any_strip_is_raised(self) -> None:
        def work(first: int, end: int) -> None:
            if end == 4000:
                raise ValueError("the last strip")

        with self.assertRaisesRegex(ValueError, "the last strip"):
            parallel.in_strips(4000, work, 10)

    def test_pieces_come_in_their_order_and_few_are_in_the_making(self) -> None:
        begun = 0
        lock = threading.Lock()

        def items() -> Iterator[int]:
            nonlocal begun
            for i in range(50):
                with lock:
                    begun += 1
                yield i

        made = parallel.in_order(lambda i: i * i, items())
        self.assertEqual([next(made) for _ in range(5)], [0, 1, 4, 9, 16])
        with lock:
            self.assertLessEqual(begun, 5 + parallel.PROCESSORS + 1)
        self.assertEqual(list(made), [i * i for i in range(5, 50)])
        with self.assertRaises(ZeroDivisionError):
            list(parallel.in_order(lambda i: 1 // (3 - i), range(9)))


class ForShow(unittest.TestCase):
    def test_pixels_stay_pixels_when_enlarged(self) -> None:
        codes = np.random.default_rng(1).integers(0, 256, (12, 16, 3)).astype(np.uint8)
        made = magnified(codes, Rect(4, 3, 5, 4), 20, 16)
        np.testing.assert_array_equal(made, codes[3:7, 4:9].repeat(4, 0).repeat(4, 1))
        # Beyond the edge the last pixel goes on.
        beyond = magnified(codes, Rect(14, 10, 4, 4), 8, 8)
        np.testing.assert_array_equal(beyond[-1, -1], codes[-1, -1])

    def test_reduced_they_are_averaged_as_light_is(self) -> None:
        codes = np.zeros((8, 8, 3), np.uint8)
        codes[:, ::2] = 255
        made = magnified(codes, Rect(0, 0, 8, 8), 4, 4)
        # Half of the light of white is code 188 (IEC 61966-2-1), not 128.
        self.assertEqual(set(made.ravel().tolist()), {188})
