"""Crops of a figure stand in even rows, equally magnified and whole."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from glenhail.core.articles.figures import (
    ABREAST,
    GAP,
    GROUND,
    LEAST,
    MAGNIFICATIONS,
    ROOM,
    TALLEST,
    abreast,
    lie,
    magnification,
    marks,
    part_on_page,
    room_for,
)
from glenhail.core.articles.names import file_parts
from glenhail.core.picture import Rect

SIZES = st.floats(1, 8000)
unhurried = settings(deadline=None, suppress_health_check=[HealthCheck.too_slow])


class Marks(unittest.TestCase):
    def test_patches_are_numbered_from_above_and_no_number_covers_another(self) -> None:
        frame = Rect(0, 0, 1000, 500)
        patches = [
            ("below", Rect(500, 400, 100, 50)),
            ("around", Rect(100, 100, 200, 150)),
            # Their corners lie under the first number, or within each other's.
            ("within", Rect(104, 102, 160, 120)),
            ("within that", Rect(106, 103, 154, 117)),
            # A number would cover them.
            ("small", Rect(700, 20, 30, 20)),
            ("small at the edge", Rect(980, 60, 20, 20)),
        ]
        found = marks(patches, frame, 0.5)
        names = ["small", "small at the edge", "around", "within", "within that", "below"]
        self.assertEqual([m["name"] for m in found], names)
        self.assertEqual([m["number"] for m in found], [1, 2, 3, 4, 5, 6])
        beside = ["beside-right", "beside-left"]
        corners = [*beside, "top-left", "bottom-right", "top-right", "beside-right"]
        self.assertEqual([m["corner"] for m in found], corners)
        self.assertEqual(found[5]["css"]["left"], "50.0000%")
        self.assertEqual(found[2]["rect"], [100, 100, 200, 150])

    def test_where_every_corner_is_taken_a_number_is_there_all_the_same(self) -> None:
        one = ("same", Rect(10, 10, 60, 60))
        found = marks([one] * 8, Rect(0, 0, 100, 100), 1)
        self.assertEqual(len(found), 8)
        self.assertEqual([found[i]["corner"] for i in (4, 7)], ["beside-right", "top-left"])


class Rows(unittest.TestCase):
    def test_rows_are_as_even_as_can_be(self) -> None:
        for count, beside in ((0, 0), (1, 1), (6, 6), (7, 4), (8, 4), (12, 6), (13, 5), (20, 5)):
            with self.subTest(count):
                self.assertEqual(abreast(count), beside)
                self.assertLessEqual(beside, ABREAST)

    def test_a_view_is_trimmed_about_its_middle_to_what_stands_whole(self) -> None:
        frame = Rect(0, 0, 640, 427)
        cases = {
            # Two have 494 px each, and 330 down; at 200 %.
            "two at 200 %": ((170, 50, 300, 300), 2, 2, (196, 118, 247, 165)),
            "eight, in two rows": ((170, 50, 300, 300), 8, 2, (261, 118, 118, 165)),
            # 800 % is none of the steps: 400 % is.
            "more than a page magnifies": ((270, 160, 75, 75), 2, 8, (270, 160, 75, 75)),
            "over the edge": ((-56, 364, 112, 112), 2, 4, (0, 364, 56, 63)),
            "all of it, small": ((-900, -900, 2400, 2400), 2, 0.25, (0, 0, 640, 427)),
            "never too small": ((100, 100, 1, 1), 2, 4, (96, 96, LEAST, LEAST)),
        }
        for name, (view, count, times, wanted) in cases.items():
            with self.subTest(name):
                part = part_on_page(Rect(*view), frame, count, times)
                self.assertEqual(part, Rect(*wanted))

    @unhurried
    @given(SIZES, SIZES, st.integers(1, 12), st.floats(0.05, 16), st.floats(0, 640))
    def test_what_is_trimmed_lies_in_the_frame_and_fits(
        self, w: float, h: float, count: int, times: float, x: float
    ) -> None:
        part = part_on_page(Rect(x, 9, w, h), Rect(0, 0, 640, 427), count, times)
        self.assertTrue(part.is_whole() and part.inside(640, 427))
        shown = magnification(part.w, part.h, count, times)
        if part.w > LEAST and part.h > LEAST:
            self.assertLessEqual(part.w * shown, room_for(count))
            self.assertLessEqual(part.h * shown, TALLEST)

    def test_magnifications_by_hand(self) -> None:
        cases = {
            # Six beside each other have 151 px each.
            "a patch of 70 px twice as large": (70, 70, 6, 2),
            "one of 150 as it is": (150, 100, 6, 1),
            "one of 152 at half": (152, 100, 6, 0.5),
            "two have room for more": (150, 100, 2, 3),
            "a tall one is held by its height": (20, 200, 2, 1),
            "nothing fits a huge one but the smallest": (9000, 9000, 6, 0.0625),
        }
        for name, (w, h, count, wanted) in cases.items():
            with self.subTest(name):
                self.assertEqual(magnification(w, h, count), wanted)

    @unhurried
    @given(SIZES, SIZES, st.integers(1, 30))
    def test_a_row_fits_the_page_and_a_step_more_would_not(
        self, w: float, h: float, count: int
    ) -> None:
        m = magnification(w, h, count)

        def fits(by: float) -> bool:
            beside = abreast(count)
            row = beside * (w * by + GROUND) + (beside - 1) * GAP
            return row <= ROOM + 1e-6 and h * by <= TALLEST + 1e-6

        at = MAGNIFICATIONS.index(m)
        self.assertTrue(fits(m) or m == MAGNIFICATIONS[-1])
        self.assertFalse(at > 0 and fits(MAGNIFICATIONS[at - 1] * (1 + 1e-9)))


class Lies(unittest.TestCase):
    @unhurried
    @given(st.floats(0, 900), st.floats(0, 900), st.floats(1, 500), st.floats(1, 500))
    def test_whole_pixels_around_a_crop_cover_it_by_less_than_one(
        self, x: float, y: float, w: float, h: float
    ) -> None:
        target = Rect(x, y, w, h)
        part = target.outer()
        told = lie(part, target)
        edges = np.array(
            [
                told.left * w,
                told.top * h,
                (told.left + told.width) * w,
                (told.top + told.height) * h,
            ]
        )
        self.assertTrue(np.all(edges[:2] <= 1e-3) and np.all(edges[:2] > -1))
        beyond = edges[2:] - [w, h]
        self.assertTrue(np.all(beyond >= -2e-3) and np.all(beyond < 1))
        self.assertTrue(part.is_whole())


class Names(unittest.TestCase):
    def test_no_two_frames_share_a_folder(self) -> None:
        cases = {
            "signs are left out": (
                ["Loom table, ISO 800", "Dye shed"],
                ["loom-table-iso-800", "dye-shed"],
            ),
            "alike once written": (["A b", "a-b", "A  B!"], ["a-b", "a-b-2", "a-b-3"]),
            "alike once cut": (["x" * 50, "x" * 60], ["x" * 40, "x" * 40 + "-2"]),
            "nothing left": (["Ткань", "织物"], ["x", "x-2"]),
            "a count that is a name": (["a", "a-2", "a"], ["a", "a-2", "a-3"]),
        }
        for name, (given_names, wanted) in cases.items():
            with self.subTest(name):
                self.assertEqual(file_parts(given_names), wanted)
