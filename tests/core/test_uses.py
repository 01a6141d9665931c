"""Uses: sizes, degrees and compression, against other ways to the same picture."""

from __future__ import annotations

import contextlib
import io
import json
import math
import os
import subprocess
import tempfile
import unittest
from pathlib import Path
from unittest import mock

import colour
import imagecodecs
import numpy as np
from PIL import Image

from glenhail.core.__main__ import main
from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest
from glenhail.core.execution.video import why_no_video
from glenhail.core.files.encoding import write_tiff
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Rect
from glenhail.core.uses import video
from glenhail.core.uses.own import own_use
from glenhail.core.uses.seen import as_seen, shown_part
from glenhail.core.uses.table import USES, Use, print_of
from tests.pictures import photograph


def plain(**told: object) -> Use:
    fields = {"width": 200, "height": 200, "enlarge": False, "jpeg": None, "ppi": 100}
    return Use("x", "x", **{**fields, "distance_cm": 60, **told})  # type: ignore[arg-type]


class Table(unittest.TestCase):
    def test_each_has_a_name_of_its_own_and_plausible_numbers(self) -> None:
        self.assertEqual(len({use.name for use in USES.values()}), len(USES))
        for use in USES.values():
            with self.subTest(use.id):
                self.assertGreater(use.pixels_per_degree, 20)
                self.assertLess(use.pixels_per_degree, 140)
                self.assertTrue(0 < use.part <= 1)

    def test_pixels_in_a_degree_follow_from_the_angle(self) -> None:
        # At 57.29 cm a centimetre is 1 degree, near enough (common practice, no source).
        self.assertAlmostEqual(plain(ppi=254, distance_cm=57.29).pixels_per_degree, 100, delta=0.01)
        one_pixel = math.degrees(2 * math.atan(2.54 / 100 / 2 / 60))
        self.assertAlmostEqual(plain().pixels_per_degree, 1 / one_pixel, delta=0.01)

    def test_a_print_has_the_pixels_of_its_size(self) -> None:
        use = print_of(25.4, 20.32, 300, 40)
        self.assertEqual((use.width, use.height), (3000, 2400))
        self.assertAlmostEqual(use.life_size(150), 0.5)


class Seen(unittest.TestCase):
    def setUp(self) -> None:
        self.picture = photograph("china")  # 640 x 427 px

    def test_sizes(self) -> None:
        cases = {
            "fits the box": (plain(), (133, 200), 0.3125),
            "is not enlarged": (plain(width=4000, height=4000), (427, 640), 1.0),
            "fills the box": (plain(width=1280, height=4000, enlarge=True), (854, 1280), 2.0),
            "a fifth": (plain(part=0.2), (85, 128), 1.0),
            "a fifth enlarged": (plain(part=0.2, enlarge=True, width=256), (170, 256), 2.0),
        }
        for name, (use, shape, scale) in cases.items():
            with self.subTest(name):
                seen = as_seen(self.picture, use)
                self.assertEqual(seen.codes.shape[:2], shape)
                self.assertAlmostEqual(seen.scale, scale, delta=1e-6)
                self.assertIsNone(seen.size_bytes)

    def test_what_is_not_resized_is_the_picture(self) -> None:
        seen = as_seen(self.picture, plain(part=0.5, width=999, height=999), (0.25, 0.25))
        want = srgb.to_display(self.picture)[0:214, 0:320]
        np.testing.assert_array_equal(seen.codes, want)

    def test_shrinking_is_done_in_linear_light(self) -> None:
        fine = np.tile(np.array([0.0, 1.0], dtype=np.float32), (400, 200))[..., None]
        seen = as_seen(fine.repeat(3, axis=2), plain(width=50, height=50, resampling="area"))
        # Half the light of white (IEC 61966-2-1).
        want = round(255 * float(colour.models.eotf_inverse_sRGB(0.5)))
        self.assertEqual(set(np.unique(seen.codes)), {want})

    def test_a_jpeg_is_what_another_encoder_and_decoder_make(self) -> None:
        for quality in (60, 85):
            with self.subTest(quality=quality):
                seen = as_seen(self.picture, plain(width=240, height=240, jpeg=quality))
                small = [
                    np.asarray(
                        Image.fromarray(self.picture[..., c]).resize(
                            (240, 160), Image.Resampling.LANCZOS
                        )
                    )
                    for c in range(3)
                ]
                codes = srgb.to_display(np.stack(small, axis=-1))
                data = imagecodecs.jpeg8_encode(codes, level=quality, subsampling="420")
                want = imagecodecs.jpeg8_decode(data).astype(int)
                off = np.abs(seen.codes.astype(int) - want)
                self.assertLessEqual(np.percentile(off, 99.9), 1)
                self.assertAlmostEqual(seen.size_bytes or 0, len(data), delta=0.02 * len(data))

    def test_a_part_stays_within_the_picture(self) -> None:
        for centre, want in (
            ((0.5, 0.5), Rect(40, 40, 20, 20)),
            ((0.0, 1.0), Rect(0, 80, 20, 20)),
            ((0.15, 0.9), Rect(5, 80, 20, 20)),
        ):
            with self.subTest(centre=centre):
                self.assertEqual(shown_part(100, 100, 0.2, centre), want)
        self.assertEqual(shown_part(3, 2, 0.01, (0.5, 0.5)), Rect(1, 0, 1, 1))


class Video(unittest.TestCase):
    """Against frames, encoded and decoded in other calls of the same program (H.264 is
    ITU-T H.264; 4:2:0 and the matrix are ITU-R BT.709-6).
    """

    def test_the_middle_frame_is_that_of_a_pan_encoded_elsewhere(self) -> None:
        picture = photograph("china")
        seen = as_seen(picture, USES["video-8"], (0.4, 0.6))
        scale = video.HEIGHT / 427 if video.HEIGHT / 427 > video.STRIP / 640 else video.STRIP / 640
        self.assertAlmostEqual(seen.scale, scale, delta=1e-9)
        strip = srgb.to_display(
            resample(
                picture, video.pan_part(640, 427, (0.4, 0.6)), video.STRIP, video.HEIGHT, "lanczos"
            )
        )
        want = self.panned(strip, 8)
        off = np.abs(seen.codes.astype(int) - want.astype(int))
        self.assertLessEqual(off.max(), 1)
        # It is no copy of the picture: the rate leaves less.
        before = strip[:, video.STEP * video.MIDDLE :][:, : video.WIDTH].astype(int)
        self.assertGreater(np.abs(seen.codes.astype(int) - before).mean(), 0.3)
        self.assertLess(seen.size_bytes or 0, 8e6 / 8 * video.FRAMES / video.RATE * 1.1)

    def panned(self, strip: np.ndarray, mbit: int) -> np.ndarray:
        """Frame after frame as files, there and back through yuv420p."""
        scale = "flags=bicubic+accurate_rnd+full_chroma_int+full_chroma_inp+bitexact"
        there = f"scale=out_color_matrix=bt709:out_range=tv:{scale}"
        back = f"scale=in_color_matrix=bt709:in_range=tv:{scale}"
        rate = f"-b:v {mbit}M -maxrate {mbit}M -bufsize {mbit}M"
        coder = "-c:v libx264 -preset medium -threads 1 -pix_fmt yuv420p"
        with tempfile.TemporaryDirectory() as folder:
            for i in range(video.FRAMES):
                part = np.ascontiguousarray(strip[:, 2 * i : 2 * i + video.WIDTH])
                Image.fromarray(part).save(f"{folder}/{i:03}.bmp")
            for line in (
                f"-framerate 30 -i %03d.bmp -vf {there} {coder} {rate} all.mkv",
                f"-i all.mkv -vf {back} -pix_fmt rgb24 -start_number 0 back%03d.bmp",
            ):
                command = ["ffmpeg", "-loglevel", "error", *line.split()]
                subprocess.run(command, cwd=folder, check=True)
            return np.asarray(Image.open(f"{folder}/back{video.MIDDLE:03}.bmp").convert("RGB"))

    def test_where_the_program_is_absent_it_is_said(self) -> None:
        with mock.patch.dict(os.environ, {"PATH": "/nowhere"}):
            self.assertIn("not on this machine", why_no_video())
            with self.assertRaisesRegex(BadRequest, "ffmpeg.*Install it"):
                as_seen(photograph("china"), USES["video-16"])
        self.assertEqual(why_no_video(), "")

    def test_a_program_that_gives_up_is_quoted(self) -> None:
        strip = np.zeros((video.HEIGHT, video.STRIP, 3), np.uint8)
        with self.assertRaisesRegex(BadRequest, "ffmpeg gave up: "):
            video.middle_frame(strip, -1)
        with self.assertRaisesRegex(BadRequest, "2158 × 1080"):
            video.middle_frame(strip[:9], 8)

    def test_what_a_pan_passes_over_fits_and_stays_within(self) -> None:
        for width, height, centre in (
            (6000, 4000, (0.5, 0.5)),
            (300, 4000, (0, 1)),
            (9, 9, (1, 0)),
        ):
            with self.subTest(width=width, height=height):
                part = video.pan_part(width, height, centre)
                self.assertAlmostEqual(part.w / part.h, video.STRIP / video.HEIGHT, delta=1e-9)
                self.assertGreaterEqual(min(part.x, part.y), 0)
                self.assertLessEqual(part.x + part.w, width + 1e-9)
                self.assertLessEqual(part.y + part.h, height + 1e-9)


class OwnUses(unittest.TestCase):
    PRINT = {"name": "Poster", "width": 7087, "height": 4724, "ppi": 240, "distance_cm": 100}

    def test_what_is_entered_is_kept(self) -> None:
        use = own_use("own-3", self.PRINT | {"enlarge": True, "jpeg": None, "part": 0.5})
        self.assertEqual((use.id, use.name, use.width, use.part), ("own-3", "Poster", 7087, 0.5))
        self.assertIsNone(own_use("x", self.PRINT | {"part": 1}).jpeg)

    def test_what_makes_no_sense_is_refused_with_its_bounds(self) -> None:
        for told, words in (
            ({"name": "  "}, "needs a name"),
            ({"name": "x" * 81}, "at most 80 characters"),
            ({"width": 3}, "width is 16 to 16000 px"),
            ({"height": 20.5}, "height is a whole number"),
            ({"jpeg": 0}, "jpeg is 1 to 100"),
            ({"jpeg": 101}, "jpeg is 1 to 100"),
            ({"ppi": float("nan")}, "ppi is 20 to 2400"),
            ({"distance_cm": True}, "distance is 5 to 2000 cm"),
            ({"part": 0}, "part is 0.02 to 1"),
            ({"part": None}, "part is 0.02 to 1"),
            ({"width": 16000, "height": 16000}, "more than 120 MP"),
        ):
            with self.subTest(told=told), self.assertRaisesRegex(BadRequest, words):
                own_use("x", self.PRINT | {"part": 1} | told)


class CommandLine(unittest.TestCase):
    def test_a_file_is_seen_and_told(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file, made = Path(folder) / "in.tif", Path(folder) / "out.png"
            write_tiff(file, photograph("china"))
            held = io.StringIO()
            with contextlib.redirect_stdout(held):
                self.assertEqual(main(["seen", str(file), str(made), "--use", "fifth"]), 0)
            told = json.loads(held.getvalue())
            self.assertEqual((told["width"], told["height"]), (2048, 1360))
            self.assertEqual(Image.open(made).size, (2048, 1360))
            self.assertGreater(told["bytes"], 10_000)

    def test_what_is_wrong_is_said(self) -> None:
        for told, words in (
            (["--use", "cinema"], "there are post, web"),
            (["--use", "web", "--centre", "middle"], "for example 50,50"),
            (["--use", "web", "--centre", "50,101"], "for example 50,50"),
            (["--use", "web"], "no-such.tif"),
        ):
            with self.subTest(told=told), tempfile.TemporaryDirectory() as folder:
                file = Path(folder) / "in.tif"
                write_tiff(file, photograph("china")[:40, :40])
                name = "no-such.tif" if words == "no-such.tif" else str(file)
                held = io.StringIO()
                with contextlib.redirect_stderr(held):
                    self.assertEqual(main(["seen", name, "made.png", *told]), 2)
                self.assertIn(words, held.getvalue())
