"""Release against release: what differs pixel by pixel, and in words."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
from skimage.metrics import mean_squared_error

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.execution.timing import Spread
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.picture import Mapping, Rect
from glenhail.core.releases.changes import PictureChange, picture_change
from glenhail.core.releases.said import changes_said, speed_said
from glenhail.core.releases.shown import FULL, change_shown
from tests.pictures import photograph, picture

NAMES = ("A", "B")
SAME = PictureChange(True, 0.0, 0.0, 0.0, Rect(0, 0, 1, 1))


def codes() -> np.ndarray:
    """8-bit codes of a photograph, away from both ends."""
    told = np.clip(srgb.encode(photograph("china")[:300, :420]), 0.1, 0.9)
    return np.rint(told * 255)


def laid(levels: np.ndarray, mapping: Mapping | None = None) -> AlignedPicture:
    linear = srgb.decode((levels / 255).astype(np.float32))
    made = picture(linear)
    return AlignedPicture(made, mapping or Mapping(), made.bounds)


class Pixels(unittest.TestCase):
    def test_the_same_file_is_told_so(self) -> None:
        told = picture_change(laid(codes()), laid(codes())).told
        self.assertTrue(told.same)
        self.assertEqual((told.rms, told.changed, told.moved), (0.0, 0.0, 0.0))

    def test_what_differs_is_the_root_of_the_mean_square_error(self) -> None:
        # scikit-image's mean_squared_error is the published reference (its docs, metrics).
        rng = np.random.default_rng(5)
        later = codes() + np.rint(rng.normal(0, 3, codes().shape))
        told = picture_change(laid(codes()), laid(later)).told
        self.assertFalse(told.same)
        self.assertAlmostEqual(told.rms, np.sqrt(mean_squared_error(codes(), later)), delta=0.01)
        changed = (np.abs(later - codes()).max(axis=2) >= 0.999).mean()
        self.assertAlmostEqual(told.changed, changed, delta=0.02)

    def test_a_value_that_no_display_shows_is_not_the_same_pixel(self) -> None:
        later = codes()
        later[10, 10, 1] += 0.2
        told = picture_change(laid(codes()), laid(later)).told
        self.assertFalse(told.same)
        self.assertEqual(told.changed, 0.0)

    def test_the_place_is_where_it_was_changed(self) -> None:
        later = codes()
        later[200:240, 300:360] += 9
        maps = picture_change(laid(codes()), laid(later))
        place = maps.told.place
        self.assertTrue(place.y <= 220 / 300 <= place.y + place.h)
        self.assertTrue(place.x <= 330 / 420 <= place.x + place.w)
        self.assertAlmostEqual(maps.told.changed, 40 * 60 / (300 * 420), delta=1e-3)
        self.assertGreater(maps.told.most, 3 * maps.told.rms)
        shown = change_shown(maps)
        self.assertEqual(shown.earlier.shape, shown.later.shape)
        # The map is red there and grey elsewhere.
        red = shown.map.astype(int)
        depth = red[..., 0] - red[..., 1]
        self.assertGreater(depth[220, 330], 50 * 9 / FULL)
        self.assertLessEqual(abs(depth[20:150].max()), 1)

    def test_line_ups_that_differ_by_their_own_uncertainty_do_not_blur(self) -> None:
        nearly = Mapping(1.00001, 1.00001, 0.01, -0.01)
        told = picture_change(laid(codes()), laid(codes(), nearly)).told
        self.assertTrue(told.same)
        self.assertEqual(told.rms, 0.0)

    def test_a_line_up_that_noise_misled_is_not_believed(self) -> None:
        misled = Mapping(0.995, 1.0, 1.0, 0.06)
        told = picture_change(laid(codes()), laid(codes() + 2, misled)).told
        self.assertEqual(told.moved, 0.0)
        self.assertAlmostEqual(told.rms, 2.0, delta=0.01)

    def test_what_lies_otherwise_is_laid_on_and_told(self) -> None:
        big = codes()
        one, two = laid(big[8:, 4:]), laid(big[:-8, :-4], Mapping(dx=4, dy=8))
        told = picture_change(one, two).told
        self.assertAlmostEqual(told.moved, np.hypot(4, 8))
        self.assertLess(told.rms, 0.01)
        self.assertFalse(told.same)

    def test_another_size_is_told_and_held_on_the_earlier_ones_pixels(self) -> None:
        large = laid(codes().repeat(2, axis=0).repeat(2, axis=1), Mapping(2, 2))
        maps = picture_change(laid(codes()), large)
        self.assertEqual(maps.told.sizes, ((420, 300), (840, 600)))
        self.assertEqual(maps.apart.shape, (300, 420))
        self.assertLess(maps.told.rms, 0.01)

    def test_what_shares_nothing_is_refused(self) -> None:
        with self.assertRaises(NotMeasurable):
            picture_change(laid(codes()), laid(codes(), Mapping(dx=-415)))


class Words(unittest.TestCase):
    def test_pictures(self) -> None:
        far = replace(SAME, same=False, rms=3.24, changed=0.42)
        near = replace(far, rms=0.2)
        for frames, words in (
            ([], "No frame has an output of A and one of B."),
            ([SAME], "B is A to the pixel on the one frame."),
            ([SAME, SAME], "B is A to the pixel on all 2 frames."),
            ([far], "On F0, what changed is 3.2 levels of 255 (root mean square), with 42 %"),
            (
                [SAME, SAME, far],
                "B is A to the pixel on 2 of 3 frames. Most changed F2, 3.2 levels",
            ),
            ([near, near], "Everywhere they differ by less than half a level"),
            ([SAME, near], "Elsewhere they differ by less than half a level"),
            ([replace(far, moved=2.0)], "B lies otherwise than A on F0."),
            ([replace(far, sizes=((10, 20), (20, 40)))], "(20 × 40 px after 10 × 20 px)"),
            ([replace(far, changed=0.001)], "with under 1 % of its pixels"),
        ):
            with self.subTest(words):
                named = [(f"F{i}", change) for i, change in enumerate(frames)]
                self.assertIn(words, changes_said(named, NAMES))

    def test_speed_only_where_ranges_do_not_overlap(self) -> None:
        def at(value: float, spread: float = 0.01) -> Spread:
            return Spread(value, value - spread, value + spread)

        self.assertIn("in too few runs", speed_said(at(1), at(2), 2, NAMES))
        for earlier, later, words in (
            (None, at(1), ""),
            (at(1), at(2), "B takes 2.0 times as long as A: 2 s a megapixel against 1 s."),
            (at(2), at(1), "B is 2.0 times as fast as A: 1 s a megapixel against 2 s."),
            (at(1, 0.6), at(1.5, 0.6), "B is as fast as A, as far as their runs tell"),
            (at(1), at(1.05), "B is as fast as A"),
        ):
            with self.subTest(words):
                self.assertIn(words, speed_said(earlier, later, 3, NAMES))
