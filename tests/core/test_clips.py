"""Figures as clips: whole pixels that survive video, everything in its place."""

from __future__ import annotations

import io
import os
import subprocess
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

import colour
import numpy as np
from PIL import Image

from glenhail.core.colour.video import as_video
from glenhail.core.errors import BadRequest
from glenhail.core.files import clips
from glenhail.core.files.clips import (
    HELD,
    RATE,
    ROUNDS,
    SIZES,
    TIMES,
    Fonts,
    fit_to_clip,
    flick_pictures,
    write_flick_mp4,
    write_flick_webp,
    write_pan,
)
from glenhail.core.files.posters import Poster
from glenhail.core.picture import Rect
from glenhail.server.publishing.press import MONO_FONT, TEXT_FONT
from tests.core.test_posters import exhibit
from tests.seeds import SEED

FONTS = Fonts(TEXT_FONT, MONO_FONT)
SMALL = (960, 540)
# A figure's size, the clip's: the magnification, and what of the figure is seen, frame px.
FITS = [
    ((80, 60), SIZES[0], 8, (80, 60)),
    ((80, 60), SIZES[1], 16, (80, 60)),
    ((300, 200), SIZES[0], 2, (300, 200)),
    ((300, 90), SIZES[0], 4, (300, 90)),
    ((1400, 200), SIZES[0], 2, (927, 200)),
    ((300, 2000), SIZES[0], 2, (300, None)),
]


def figure(width: int, height: int, letters: str = "ABC") -> tuple[Poster, list[np.ndarray]]:
    """Contenders that differ in every pixel."""
    rng = np.random.default_rng(SEED)
    codes = [rng.integers(20, 236, (height, width, 3)).astype(np.uint8) for _ in letters]
    shown = [exhibit(x, c) for x, c in zip(letters, codes, strict=True)]
    return Poster("Check cloth, Loom table", "edition 2", shown, width, height), codes


def decoded(path: Path, size: tuple[int, int]) -> np.ndarray:
    """Luma of every frame of a video, by another call of the program."""
    line = ["ffmpeg", "-loglevel", "error", "-i", str(path), "-f", "rawvideo"]
    out = subprocess.run([*line, "-pix_fmt", "yuv420p", "-"], check=True, capture_output=True)
    planes = np.frombuffer(out.stdout, np.uint8).reshape(-1, size[0] * size[1] * 3 // 2)
    return planes[:, : size[0] * size[1]].reshape(-1, size[1], size[0])


def expected(codes: np.ndarray, times: int) -> np.ndarray:
    """Luma of a magnified crop after a library of its own."""
    luma = colour.RGB_to_YCbCr(codes, in_bits=8, in_int=True, out_legal=True, out_int=True)[..., 0]
    return luma.astype(float).repeat(times, axis=0).repeat(times, axis=1)


def spot(picture: np.ndarray, codes: np.ndarray, times: int) -> tuple[int, int]:
    """Where a crop lies, every pixel `times` wide and high; fails where it does not."""
    whole = codes.repeat(times, axis=0).repeat(times, axis=1)
    height, width = whole.shape[:2]
    for y, x in np.argwhere((picture == whole[0, 0]).all(axis=-1)):
        if np.array_equal(picture[y : y + height, x : x + width], whole):
            return int(y), int(x)
    raise AssertionError("the crop is not there whole")


class Clips(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def test_a_figure_is_magnified_evenly_and_what_is_cut_says_so(self) -> None:
        for (w, h), size, times, (wide, tall) in FITS:
            with self.subTest(size=(w, h), clip=size):
                poster, codes = figure(w, h, "A")
                fitted = fit_to_clip(poster, size, FONTS)
                self.assertEqual(fitted.width, wide)
                self.assertEqual("its middle" in fitted.heading, (w, h) != (wide, tall))
                height = round(fitted.height)
                self.assertTrue(height == tall or (tall is None and 250 < height < 400))
                top, left = (h - height) / 2, (w - wide) / 2
                box = fitted.exhibits[0].box
                self.assertEqual((box.x, box.y, box.w, box.h), (left, top, wide, height))
                if (left % 1, top % 1) == (0, 0):
                    seen = codes[0][int(top) :, int(left) :][:height, :wide]
                    picture = np.asarray(next(flick_pictures(fitted, size, FONTS)))
                    self.assertEqual(picture.shape, (size[1], size[0], 3))
                    y, x = spot(picture, seen, times)
                    self.assertEqual((y % 2, x % 2), (0, 0))

    def test_contenders_are_seen_in_turn_in_the_very_same_place(self) -> None:
        poster, codes = figure(80, 60)
        pictures = list(flick_pictures(fit_to_clip(poster, SMALL, FONTS), SMALL, FONTS))
        spots = [spot(np.asarray(p), c, 4) for p, c in zip(pictures, codes, strict=True)]
        self.assertEqual(len(set(spots)), 1)
        # Each with a letter of its own below.
        below = [np.asarray(p)[spots[0][0] + 240 :] for p in pictures]
        self.assertFalse(np.array_equal(below[0], below[1]))

    def test_what_lies_between_pixels_is_shown_by_whole_ones(self) -> None:
        poster, (codes,) = figure(80, 60, "A")
        # The output's scale, where the crop begins in it, and the widths that its pixels have.
        cases = [
            (1, 0.3, {4}),
            (1, 7.77, {4}),
            (1.0008, 7.5, {4}),
            (2, 11.4, {2}),
            (4, 3.5, {1}),
            (1.5, 2.2, {2, 3}),
        ]
        large = np.tile(codes, (8, 8, 1))
        for scale, begins, widths in cases:
            with self.subTest(scale=scale, begins=begins):
                box = Rect(begins, begins, 80 * scale, 60 * scale)
                told = replace(poster, exhibits=[replace(poster.exhibits[0], codes=large, box=box)])
                picture = next(flick_pictures(replace(told, steps=TIMES), SMALL, FONTS))
                line = np.asarray(picture)[250, 330:620]
                changes = np.flatnonzero((line[1:] != line[:-1]).any(axis=-1)) + 331
                self.assertLessEqual(set(np.diff(changes).tolist()), widths)
                if widths in ({4}, {2}):
                    self.assertEqual(set((changes % 2).tolist()), {0})

    def test_an_animation_has_every_pixel_as_it_was(self) -> None:
        poster, _ = figure(80, 60)
        pictures = list(flick_pictures(fit_to_clip(poster, SMALL, FONTS), SMALL, FONTS))
        path = self.folder / "a.webp"
        write_flick_webp(pictures, path)
        with Image.open(io.BytesIO(path.read_bytes())) as made:
            self.assertEqual((made.format, made.n_frames, made.info["loop"]), ("WEBP", 3, 0))
            for at, want in enumerate(pictures):
                made.seek(at)
                np.testing.assert_array_equal(np.asarray(made.convert("RGB")), np.asarray(want))
                self.assertEqual(made.info["duration"], 1000 * HELD)

    def test_video_keeps_magnified_pixels_apart(self) -> None:
        poster, codes = figure(80, 60)
        pictures = list(flick_pictures(fit_to_clip(poster, SMALL, FONTS), SMALL, FONTS))
        path = self.folder / "a.mp4"
        write_flick_mp4(pictures, path)
        frames = decoded(path, SMALL)
        each = round(HELD * RATE)
        self.assertEqual(len(frames), 3 * each * ROUNDS)
        y, x = spot(np.asarray(pictures[0]), codes[0], 4)
        for at, want in enumerate([*codes, *codes]):
            seen = frames[at * each + each // 2][y : y + 240, x : x + 320]
            off = np.abs(seen - expected(want, 4))
            # Pixels of noise at full contrast, whose neighbours differ by some 50 codes.
            self.assertLess(off.mean(), 1.5)
            self.assertLess(np.quantile(off, 0.999), 10)

    def test_a_pan_begins_at_the_first_and_ends_at_the_last(self) -> None:
        poster, codes = figure(80, 60, "ABCD")
        path = self.folder / "p.mp4"
        told = fit_to_clip(poster, SMALL, FONTS, wide=True)
        self.assertTrue(write_pan(told, SMALL, FONTS, path))
        frames = decoded(path, SMALL)
        for frame, want in ((frames[5], codes[0]), (frames[-5], codes[-1])):
            whole = expected(want, 4)
            found = min(
                np.abs(frame[y : y + 240, x : x + 320] - whole).mean()
                for y in range(60, 200, 2)
                for x in range(0, SMALL[0] - 320, 2)
                if np.abs(frame[y, x : x + 8] - whole[0, :8]).max() < 20
            )
            self.assertLess(found, 2)
        # The words above do not move along.
        self.assertLess(np.abs(frames[5][:40].astype(int) - frames[-5][:40]).max(), 12)

    def test_colour_of_two_by_two_is_that_of_one_magnified_pixel(self) -> None:
        _, (codes,) = figure(40, 30, "A")
        want = colour.RGB_to_YCbCr(codes, in_bits=8, in_int=True, out_legal=True, out_int=True)
        made = np.frombuffer(as_video(codes.repeat(2, axis=0).repeat(2, axis=1)), np.uint8)
        luma, cb, cr = np.split(made, [4800, 6000])
        self.assertLessEqual(np.abs(luma.reshape(60, 80)[::2, ::2] - want[..., 0]).max(), 1)
        for plane, at in ((cb, 1), (cr, 2)):
            self.assertLessEqual(np.abs(plane.reshape(30, 40) - want[..., at]).max(), 1)
        with self.assertRaises(ValueError):
            as_video(codes[:-1])

    def test_where_all_is_seen_at_once_there_is_no_pan(self) -> None:
        poster, _ = figure(30, 60, "A")
        told = fit_to_clip(poster, SIZES[0], FONTS, wide=True)
        self.assertFalse(write_pan(told, SIZES[0], FONTS, self.folder / "p.mp4"))
        self.assertEqual(list(self.folder.iterdir()), [])
        # Too many for one: what would be endless is not begun.
        wide = replace(told, width=9000)
        with mock.patch.object(clips, "LARGEST", 1000):
            self.assertFalse(write_pan(wide, SIZES[0], FONTS, self.folder / "p.mp4"))
        self.assertEqual(list(self.folder.iterdir()), [])

    def test_a_long_row_is_magnified_less(self) -> None:
        poster, _ = figure(400, 60, "ABCD")
        told = fit_to_clip(poster, SMALL, FONTS, wide=True)
        ground = clips._ground(told, SMALL, FONTS)
        self.assertEqual(clips._pan_times(told, ground), 4)
        most = clips._long(told, ground, 2) * (ground.bottom - ground.top)
        with mock.patch.object(clips, "LARGEST", most):
            self.assertEqual(clips._pan_times(told, ground), 2)

    def test_without_the_program_it_is_said(self) -> None:
        poster, _ = figure(80, 60)
        pictures = list(flick_pictures(fit_to_clip(poster, SMALL, FONTS), SMALL, FONTS))
        with (
            mock.patch.dict(os.environ, {"PATH": "/nowhere"}),
            self.assertRaisesRegex(BadRequest, "ffmpeg.*Install it"),
        ):
            write_flick_mp4(pictures, self.folder / "a.mp4")
