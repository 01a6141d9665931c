"""Contenders by uses: the frame that shows most decides, and words follow from cells."""

from __future__ import annotations

import unittest

import cv2
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.picture import Floats, Mapping
from glenhail.core.seeing.evidence import CROP, LONGEST, evidence_of
from glenhail.core.seeing.matrix import MatrixCell, SeenAt, matrix, matrix_said, short_names
from glenhail.core.seeing.visible import Seen, VisibleMaps, visible
from glenhail.core.uses.seen import SeenPicture
from glenhail.core.uses.table import USES, Use, print_of
from tests.pictures import photograph, picture

ONCE, POINTED, NOBODY = Seen.ONCE, Seen.POINTED, Seen.NOBODY
NAMES = {"post": "post", "web": "web picture", "print": "print"}


def cell(letter: str, use: str, seen: Seen, of: int = 1) -> MatrixCell:
    return MatrixCell(letter, use, seen, 1, of, 0, 0.1)


def laid(linear: Floats) -> AlignedPicture:
    made = picture(linear)
    return AlignedPicture(made, Mapping(), made.bounds)


class Matrix(unittest.TestCase):
    def test_the_frame_that_shows_most_decides(self) -> None:
        for seen, decides, alike in (
            ([(NOBODY, 0.0), (POINTED, 0.02), (POINTED, 0.5)], (POINTED, 2, 0.5), 2),
            ([(ONCE, 0.1), (NOBODY, 0.9)], (ONCE, 0, 0.1), 1),
            ([(NOBODY, 0.0), (NOBODY, 0.0005)], (NOBODY, 1, 0.0005), 2),
        ):
            with self.subTest(seen=seen):
                found = [SeenAt("A", at, "web", s, share) for at, (s, share) in enumerate(seen)]
                (made,) = matrix(found)
                self.assertEqual((made.seen, made.frame, made.share), decides)
                self.assertEqual((made.frames, made.of), (alike, len(seen)))

    def test_words(self) -> None:
        for cells, want in (
            (
                [cell(c, u, ONCE) for c in "AB" for u in NAMES],
                ["The difference of A and B from U is seen at once in every use."],
            ),
            (
                [cell("A", u, NOBODY) for u in NAMES],
                ["The difference of A from U is seen by nobody in any use."],
            ),
            (
                [cell("A", "post", NOBODY), cell("A", "web", ONCE), cell("A", "print", ONCE)],
                [
                    "The difference of A from U is seen at once as web picture and print; by nobody"
                    " as post."
                ],
            ),
            (
                [cell("A", "web", POINTED, of=3)],
                [
                    "The difference of A from U is seen when pointed at as web picture.",
                    "Each on the frame that shows it most.",
                ],
            ),
        ):
            with self.subTest(want[0]):
                self.assertEqual(matrix_said(cells, NAMES, "U"), want)

    def test_names_are_short_where_each_stays_its_own(self) -> None:
        poster = Use("own-1", "poster, 60 cm", 900, 600, True, None, 100, 120)
        larger = Use("own-2", "poster, 90 cm", 1350, 900, True, None, 100, 120)
        self.assertEqual(short_names([USES["post"], poster]), {"post": "post", "own-1": "poster"})
        names = short_names([poster, larger])
        self.assertEqual(names, {"own-1": "poster, 60 cm", "own-2": "poster, 90 cm"})


class FineUses(unittest.TestCase):
    """Where a use has more pixels than an eye resolves, every second one is looked at."""

    def test_as_much_is_seen_as_in_all_pixels(self) -> None:
        one = photograph("china")[:240, :320]
        two = cv2.GaussianBlur(one, (0, 0), 1.5)
        use = print_of(20, 15, 240, 80)
        self.assertGreater(use.pixels_per_degree, 120)
        found = visible(laid(one), laid(two), use)
        width, height = found.one.codes.shape[1], found.one.codes.shape[0]
        self.assertEqual(found.de00.shape, (height // 2, width // 2))
        # At a ppi just below, all pixels are looked at; the subject is as large.
        coarse = print_of(20, 15, 240, 72)
        self.assertLess(coarse.pixels_per_degree, 120)
        whole = visible(laid(one), laid(two), coarse)
        self.assertEqual(whole.de00.shape, (height, width))
        self.assertAlmostEqual(found.told.share, whole.told.share, delta=0.05)

    def test_what_is_held_against_is_brought_to_a_use_once(self) -> None:
        one, two = photograph("china")[:90, :120], photograph("china")[1:91, :120]
        known: dict[Use, SeenPicture] = {}
        first = visible(laid(one), laid(two), USES["web"], known=known)
        self.assertEqual(list(known), [USES["web"]])
        again = visible(laid(np.zeros_like(one)), laid(two), USES["web"], known=known)
        self.assertEqual(first.told, again.told)


class Evidence(unittest.TestCase):
    def maps(self, side: tuple[int, int]) -> VisibleMaps:
        one = np.full((*side, 3), 0.2, dtype=np.float32)
        two = one.copy()
        two[20:60, 30:90] = 0.6
        return visible(laid(one), laid(two), print_of(10, 10, 100, 60))

    def test_the_place_is_shown_in_both_and_lies_deep_on_the_map(self) -> None:
        found = self.maps((300, 400))
        shown = evidence_of(found)
        self.assertLessEqual(max(shown.map.shape), LONGEST)
        self.assertEqual(shown.one.shape, (CROP[1], CROP[0], 3))
        light = srgb.to_display(np.full((1, 1, 3), 0.6, dtype=np.float32))[0, 0, 0]
        self.assertIn(light, shown.two)
        self.assertNotIn(light, shown.one)
        # Red stands on grey alone: where most is seen, and nowhere else.
        red = shown.map[..., 0].astype(int) - shown.map[..., 2]
        place = found.told.place
        y = round((place.y + place.h / 2) * red.shape[0])
        x = round((place.x + place.w / 2) * red.shape[1])
        self.assertGreater(red[y, x], 100)
        self.assertEqual(red[-1, -1], 0)
        self.assertEqual(shown.flip[-1, -1].max(), 0)

    def test_a_picture_smaller_than_a_crop_is_shown_whole(self) -> None:
        found = self.maps((100, 120))
        shown = evidence_of(found)
        height, width = found.one.codes.shape[:2]
        self.assertEqual(shown.one.shape, (min(CROP[1], height), min(CROP[0], width), 3))
