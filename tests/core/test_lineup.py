"""Line-up on known warps, with scikit-image's registration as a second opinion."""

from __future__ import annotations

import unittest
from collections.abc import Callable

import numpy as np
import scipy.ndimage
from skimage.registration import phase_cross_correlation
from skimage.transform import warp

from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest, NoLineUp
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.bend import turn_of
from glenhail.core.lineup.border import Border
from glenhail.core.lineup.grids import to_frame_grid
from glenhail.core.lineup.points import PointPair
from glenhail.core.lineup.register import line_up
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from tests.pictures import noisy, photograph, picture

SCENE = photograph("china")  # 640 x 427, scikit-learn
FRAME = noisy(SCENE, 900)  # about ISO 6400 on a full-frame body
SMOOTH = np.stack([scipy.ndimage.gaussian_filter(FRAME[..., i], 1.1) for i in range(3)], axis=-1)
HEIGHT, WIDTH = SCENE.shape[:2]
WHOLE = Rect(0, 0, WIDTH, HEIGHT)


def shifted(pixels: Floats, dx: float, dy: float) -> Floats:
    return np.stack(
        [scipy.ndimage.shift(pixels[..., i], (dy, dx), order=5, mode="nearest") for i in range(3)],
        axis=-1,
    )


def scaled(pixels: Floats, scale: float) -> Floats:
    return resample(
        pixels,
        WHOLE,
        round(WIDTH * scale),
        round(HEIGHT * scale),
        "area" if scale < 1 else "lanczos",
    )


def framed(pixels: Floats, left: int, top: int, value: float) -> Floats:
    out = np.full_like(pixels, value)
    out[top:, left:] = pixels[: HEIGHT - top, : WIDTH - left]
    return out


class KnownWarps(unittest.TestCase):
    def found(self, made: Floats) -> tuple[Mapping, Border]:
        result = line_up(picture(FRAME), picture(made))
        return result.mapping, result.border

    def test_scale_shift_and_border_are_found(self) -> None:
        ratio, halves = ((round(WIDTH * s) / WIDTH, round(HEIGHT * s) / HEIGHT) for s in (1.5, 0.5))
        cases: dict[str, tuple[Floats, Mapping, Border]] = {
            "denoised": (SMOOTH, Mapping(), Border()),
            "its truth": (SCENE, Mapping(), Border()),
            "brightened": (np.clip(SMOOTH, 0, None) ** 0.8 * 1.1, Mapping(), Border()),
            "another cast": (SMOOTH * np.array([1.2, 1.0, 0.7], np.float32), Mapping(), Border()),
            "half a pixel": (shifted(SMOOTH, 0.4, -0.6), Mapping(1, 1, 0.4, -0.6), Border()),
            "moved, black lines": (
                framed(SMOOTH, 2, 1, 0.0),
                Mapping(1, 1, 2, 1),
                Border(2, 1, 0, 0),
            ),
            "moved, white lines": (
                framed(SMOOTH, 1, 3, 1.0),
                Mapping(1, 1, 1, 3),
                Border(1, 3, 0, 0),
            ),
            "padded": (
                np.pad(SMOOTH, ((20, 20), (30, 30), (0, 0)), constant_values=0.5),
                Mapping(1, 1, 30, 20),
                Border(30, 20, 30, 20),
            ),
            "cropped": (SMOOTH[6:-6, 8:-8], Mapping(1, 1, -8, -6), Border()),
            "0.5x": (scaled(SMOOTH, 0.5), Mapping(*halves), Border()),
            "1.5x": (scaled(SMOOTH, 1.5), Mapping(*ratio), Border()),
            "2x": (scaled(SMOOTH, 2), Mapping(2, 2), Border()),
            "4x": (scaled(SMOOTH, 4), Mapping(4, 4), Border()),
        }
        for name, (made, want, border) in cases.items():
            with self.subTest(name):
                mapping, found_border = self.found(np.asarray(made, dtype=np.float32))
                self.assertEqual(found_border, border)
                for corner in (Rect(0, 0, 0, 0), Rect(WIDTH, HEIGHT, 0, 0)):
                    one, two = mapping.rect(corner), want.rect(corner)
                    # A tenth of a frame pixel at the corners, where an error of scale adds to one
                    # of shift.
                    tolerance = 0.1 * max(1.0, want.sx)
                    self.assertLess(
                        max(abs(one.x - two.x), abs(one.y - two.y)), tolerance, (mapping, want)
                    )

    def test_scikit_image_agrees_on_the_shift(self) -> None:
        made = shifted(SMOOTH, 1.3, -0.7)
        lumas = [np.asarray(srgb.luma(np.clip(p, 0, 1))) for p in (made, FRAME)]
        (dy, dx), *_ = phase_cross_correlation(*lumas, upsample_factor=50)
        mapping = line_up(picture(FRAME), picture(made)).mapping
        self.assertLess(max(abs(mapping.dx - dx), abs(mapping.dy - dy)), 0.1)

    def test_a_line_beside_plain_ground_of_the_picture_is_a_border(self) -> None:
        # A smooth sky up to the edge: plain as well, but of another tone than the line.
        plain = SCENE.copy()
        plain[:60] = 0.4
        made = framed(plain, 0, 2, 0.0)
        found = line_up(picture(noisy(plain, 900)), picture(made))
        self.assertEqual((found.mapping, found.border), (Mapping(1, 1, 0, 2), Border(0, 2, 0, 0)))

    def test_the_same_pixels_line_up_exactly(self) -> None:
        result = line_up(picture(FRAME), picture(FRAME.copy()))
        self.assertEqual((result.mapping, result.residual), (Mapping(), 0.0))


def warped(pixels: Floats, back: Callable[[np.ndarray], np.ndarray]) -> Floats:
    """scikit-image's warp;

    `back` takes output places to frame places, both from the corner of the first pixel.
    """
    planes = [
        warp(pixels[..., i].astype(float), lambda p: back(p + 0.5) - 0.5, order=5, mode="edge")
        for i in range(3)
    ]
    return np.stack(planes, axis=-1).astype(np.float32)


class TurnsAndBends(unittest.TestCase):
    """Put in by scikit-image (Brown 1966 for the lens), found again over the whole
    frame, noise like ISO 6400.
    """

    MIDDLE = np.array([WIDTH / 2, HEIGHT / 2])

    def assertFound(
        self, made: Floats, there: Callable[[np.ndarray], np.ndarray], tolerance: float
    ) -> None:
        found = line_up(picture(FRAME), picture(made))
        self.assertIsNotNone(found.mapping.bend)
        for x in np.linspace(25, WIDTH - 25, 5):
            for y in np.linspace(25, HEIGHT - 25, 4):
                place, (u, v) = found.mapping.rect(Rect(x, y, 0, 0)), there(np.array([x, y]))
                self.assertLess(np.hypot(place.x - u, place.y - v), tolerance, (x, y))
                back = found.mapping.back(place)
                self.assertLess(np.hypot(back.x - x, back.y - y), 1e-3)
        self.assertLess(found.residual, 0.08)
        # Straightened, it lies on the frame.
        part = Rect(60, 60, WIDTH - 120, HEIGHT - 120)
        on_grid = to_frame_grid(made, found.mapping, part).pixels
        self.assertGreater(
            np.corrcoef(on_grid.ravel(), SMOOTH[60:-60, 60:-60].ravel())[0, 1], 0.998
        )

    def test_turns_are_found(self) -> None:
        for degrees in (0.2, 2.5):
            with self.subTest(degrees):
                turn = np.radians(degrees)
                matrix = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
                made = warped(SMOOTH, lambda p, m=matrix: (p - self.MIDDLE) @ m + self.MIDDLE)
                self.assertFound(
                    made, lambda p, m=matrix: m @ (p - self.MIDDLE) + self.MIDDLE, 0.25
                )
                found = line_up(picture(FRAME), picture(made)).mapping.bend
                assert found is not None
                self.assertAlmostEqual(turn_of(found), degrees, delta=0.02)

    def test_lens_corrections_are_found(self) -> None:
        reach = float(np.hypot(*self.MIDDLE))
        for k in (0.004, -0.01):
            with self.subTest(k):

                def there(p: np.ndarray, k: float = k) -> np.ndarray:
                    away = p - self.MIDDLE
                    return np.asarray(
                        self.MIDDLE
                        + away * (1 + k * (away**2).sum(axis=-1, keepdims=True) / reach**2)
                    )

                def back(
                    p: np.ndarray, there: Callable[[np.ndarray], np.ndarray] = there
                ) -> np.ndarray:
                    found = p.copy()
                    for _ in range(20):
                        found = found + p - there(found)
                    return found

                self.assertFound(warped(SMOOTH, back), there, 0.25)


class HandPlaced(unittest.TestCase):
    def test_two_pairs_start_what_the_pictures_alone_do_not(self) -> None:
        # A fifth of the picture cut off at the left: more than a line-up looks for by itself.
        made, cut = SMOOTH[:, 128:], 128
        with self.assertRaises(NoLineUp):
            line_up(picture(FRAME), picture(made))
        pairs = [PointPair(200, 50, 202 - cut, 51), PointPair(600, 400, 599 - cut, 398)]
        found = line_up(picture(FRAME), picture(made), pairs)
        corners = [found.mapping.rect(Rect(x, y, 0, 0)) for x, y in ((140, 10), (620, 410))]
        for corner, (x, y) in zip(corners, ((140 - cut, 10), (620 - cut, 410)), strict=True):
            self.assertLess(max(abs(corner.x - x), abs(corner.y - y)), 0.1)
        self.assertEqual(found.doubts, ())

    def test_points_alone_are_told_to_be_doubtful(self) -> None:
        pairs = [PointPair(50, 50, 52, 50), PointPair(600, 400, 603, 401)]
        found = line_up(picture(FRAME), picture(photograph("flower")), pairs)
        self.assertIn("points placed by hand alone", found.doubts[0])

    def test_points_that_can_not_be_right_are_refused(self) -> None:
        cases = {
            "two or three": [PointPair(1, 1, 1, 1)],
            "too close": [PointPair(100, 100, 100, 100), PointPair(110, 100, 110, 100)],
            "same place": [PointPair(50, 50, 600, 400), PointPair(600, 400, 50, 50)],
        }
        for words, pairs in cases.items():
            with self.subTest(words), self.assertRaisesRegex(BadRequest, words):
                line_up(picture(FRAME), picture(SMOOTH), pairs)


class Refusals(unittest.TestCase):
    def test_pictures_of_something_else_are_refused_with_the_reason(self) -> None:
        rng = np.random.default_rng(8)
        flower = photograph("flower")
        cases = {
            "another picture": (picture(flower), "same picture"),
            "mirrored": (picture(SMOOTH[:, ::-1]), "same picture"),
            "upside down": (picture(SMOOTH[::-1, ::-1]), "same picture"),
            "turned": (picture(np.rot90(SMOOTH)), "turned"),
            "noise": (picture(rng.random(SMOOTH.shape).astype(np.float32)), "same picture"),
            "far too small": (picture(SMOOTH[:40, :60]), "times the frame"),
            "plain": (picture(np.full_like(SMOOTH, 0.4)), "same picture"),
        }
        for name, (made, words) in cases.items():
            with self.subTest(name):
                self.assertRefused(picture(FRAME), made, words)

    def assertRefused(self, frame: Picture, made: Picture, words: str) -> None:
        with self.assertRaises(NoLineUp) as caught:
            line_up(frame, made)
        self.assertIn(words, str(caught.exception))
