"""Line-up on known warps, with scikit-image's registration as a second opinion."""

from __future__ import annotations

import unittest

import numpy as np
import scipy.ndimage
from skimage.registration import phase_cross_correlation

from glenhail.core.colour import srgb
from glenhail.core.errors import NoLineUp
from glenhail.core.lineup.border import Border
from glenhail.core.lineup.register import line_up
from glenhail.core.methods.resample import resample
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from tests.pictures import noisy, photograph, picture

SCENE = photograph("china")  # 640 x 427, scikit-learn
FRAME = noisy(SCENE, 900)  # about ISO 6400 on a full-frame body
SMOOTH = np.stack([scipy.ndimage.gaussian_filter(FRAME[..., i], 1.1) for i in range(3)], axis=-1)
HEIGHT, WIDTH = SCENE.shape[:2]
WHOLE = Rect(0, 0, WIDTH, HEIGHT)


def shifted(pixels: Floats, dx: float, dy: float) -> Floats:
    return np.stack([scipy.ndimage.shift(pixels[..., i], (dy, dx), order=5, mode="nearest") for i in range(3)], axis=-1)


def scaled(pixels: Floats, scale: float) -> Floats:
    return resample(pixels, WHOLE, round(WIDTH * scale), round(HEIGHT * scale), "area" if scale < 1 else "lanczos")


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
            "moved, black lines": (framed(SMOOTH, 2, 1, 0.0), Mapping(1, 1, 2, 1), Border(2, 1, 0, 0)),
            "moved, white lines": (framed(SMOOTH, 1, 3, 1.0), Mapping(1, 1, 1, 3), Border(1, 3, 0, 0)),
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
                    # A tenth of a frame pixel at the corners, where an error of scale adds to one of shift.
                    tolerance = 0.1 * max(1.0, want.sx)
                    self.assertLess(max(abs(one.x - two.x), abs(one.y - two.y)), tolerance, (mapping, want))

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
        }  # fmt: skip
        for name, (made, words) in cases.items():
            with self.subTest(name):
                self.assertRefused(picture(FRAME), made, words)

    def assertRefused(self, frame: Picture, made: Picture, words: str) -> None:
        with self.assertRaises(NoLineUp) as caught:
            line_up(frame, made)
        self.assertIn(words, str(caught.exception))
