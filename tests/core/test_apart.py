"""Files are read in a process of its own: the same pixels, within bounds, and whatever
ends it ends nothing else.
"""

from __future__ import annotations

import os
import resource
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from multiprocessing.connection import Connection
from pathlib import Path
from unittest import mock

import numpy as np
import psutil
from PIL import Image

from glenhail.core.errors import BadFile
from glenhail.core.files import apart
from glenhail.core.files import decoding as reading
from glenhail.core.files.encoding import write_tiff
from tests.seeds import drawn

MB = 1_000_000


def crash(ours: Connection, path: Path, name: str, most: int) -> None:
    os.kill(os.getpid(), signal.SIGSEGV)


def leave(ours: Connection, path: Path, name: str, most: int) -> None:
    os._exit(0)


def fill(ours: Connection, path: Path, name: str, most: int) -> None:
    held = []
    while True:
        held.append(bytearray(10 * MB))


def stall(ours: Connection, path: Path, name: str, most: int) -> None:
    path.with_suffix(".pid").write_text(str(os.getpid()))
    time.sleep(600)


def peak(ours: Connection, path: Path, name: str, most: int) -> None:
    """How much more memory decoding held at once, in bytes, pixels included."""
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    reading.read_picture(path, name, most)
    ours.send(("facts", 1024 * (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before)))


class Apart(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def png(self, width: int, height: int) -> Path:
        path = self.folder / "large.png"
        Image.new("RGB", (width, height), (90, 120, 60)).save(path)
        return path

    def asked(self, answer: apart.Answer, most: int = 400 * MB) -> tuple[object, ...]:
        return apart._asked(answer, self.folder / "a.tif", "a.tif", most)

    def test_pixels_and_facts_are_those_read_here_whatever_the_kind_and_the_way_up(self) -> None:
        for (case, rng), kind in zip(drawn(4), ("tif", "png", "jpg", "webp"), strict=True):
            with self.subTest(case):
                height, width = (int(n) for n in rng.integers(1, 90, 2))
                codes = rng.integers(0, 256, (height, width, 3), dtype=np.uint8)
                for way in range(1, 9):
                    path = self.folder / f"{way}.{kind}"
                    image = Image.fromarray(codes)
                    exif = image.getexif()
                    exif[274] = way
                    image.save(path, exif=exif)
                    here, there = reading.read_picture(path), apart.read_picture(path)
                    np.testing.assert_array_equal(there.pixels, here.pixels)
                    self.assertEqual(there.facts, here.facts)
                    self.assertEqual(apart.read_facts(path), here.facts)

    def test_bands_leave_no_seam(self) -> None:
        for (case, rng), bits in zip(drawn(2), (8, 16), strict=True):
            with self.subTest(case):
                path = self.folder / f"{bits}.tif"
                if bits == 8:
                    Image.fromarray(rng.integers(0, 256, (91, 37, 3), dtype=np.uint8)).save(path)
                else:
                    write_tiff(path, rng.random((91, 37, 3), dtype=np.float32))
                whole = reading.read_picture(path).pixels
                for band in (1, 37 * 5, 37 * 90):
                    with mock.patch.object(reading, "BAND", band):
                        np.testing.assert_array_equal(reading.read_picture(path).pixels, whole)

    def test_what_is_wrong_with_a_file_is_told_by_its_name(self) -> None:
        path = self.folder / "x"
        for content in (b"", b"nothing", b"II*\0" + bytes(40)):
            path.write_bytes(content)
            for read in (apart.read_picture, apart.read_facts):
                with self.assertRaises(BadFile) as here:
                    reading.read_picture(path, "mine.tif")
                with self.assertRaisesRegex(BadFile, "^mine.tif: ") as there:
                    read(path, "mine.tif")
                self.assertEqual(str(there.exception), str(here.exception))

    def test_more_pixels_than_may_be_held_are_refused_before_any_is_decoded(self) -> None:
        path = self.png(3000, 2000)
        with mock.patch.object(apart, "most_memory", return_value=140 * MB):
            for read in (apart.read_picture, apart.read_facts):
                with self.assertRaisesRegex(
                    BadFile, r"more memory than the 0\.1 GB .*GLENHAIL_PICTURE_MB"
                ):
                    read(path)
        self.assertEqual(apart.read_picture(path).pixels.shape, (2000, 3000, 3))

    def test_a_file_that_is_cut_short_is_told_as_that_and_one_that_may_want_memory_as_both_may_be(
        self,
    ) -> None:
        cut = self.folder / "cut.tif"
        write_tiff(
            self.folder / "whole.tif",
            np.random.default_rng(1).random((900, 900, 3), dtype=np.float32),
        )
        cut.write_bytes((self.folder / "whole.tif").read_bytes()[:-50_000])
        for most in (22 * MB, None):  # room for its pixels, and hardly for a decoder's
            with self.assertRaisesRegex(BadFile, "ends before its picture does"):
                apart.read_picture(cut, most=most)
        png = self.png(900, 900)
        png.write_bytes(png.read_bytes()[:-40])
        with self.assertRaisesRegex(BadFile, "or is damaged"):
            apart.read_picture(png)

    def test_a_large_picture_is_decoded_within_its_bound(self) -> None:
        width, height = 6400, 6200
        (held,) = apart._asked(peak, self.png(width, height), "large.png", 2000 * MB)
        self.assertIsInstance(held, int)
        # Light takes 12 bytes a pixel; Pillow holds 4, its codes 3, and some bands.
        self.assertLess(held, (12 + 4 + 3) * width * height + 250 * MB)  # type: ignore[operator]

    def test_a_decoder_that_takes_all_memory_is_stopped_and_says_so(self) -> None:
        with self.assertRaisesRegex(BadFile, "more memory than the 0.4 GB"):
            self.asked(fill)

    def test_a_decoder_that_crashes_or_goes_ends_nobody_else(self) -> None:
        for answer in (crash, leave):
            with self.assertRaisesRegex(BadFile, "its picture data is damaged"):
                self.asked(answer)
        self.test_more_pixels_than_may_be_held_are_refused_before_any_is_decoded()

    def test_a_decoder_that_does_not_end_is_ended(self) -> None:
        with mock.patch.object(apart, "PATIENCE", 3.0), self.assertRaisesRegex(BadFile, "too long"):
            self.asked(stall)
        self.assertFalse(psutil.pid_exists(int((self.folder / "a.pid").read_text())))

    def test_nothing_is_left_of_one_who_was_killed_while_reading(self) -> None:
        code = (
            "import sys; from pathlib import Path; from glenhail.core.files import apart; from"
            " tests.core import test_apart\napart._asked(test_apart.stall, Path(sys.argv[1]),"
            " 'a.tif', 400_000_000)"
        )
        path = self.folder / "a.tif"
        asking = subprocess.Popen([sys.executable, "-c", code, str(path)])
        mark = path.with_suffix(".pid")
        self.wait(lambda: mark.exists() and mark.read_text() != "")
        asking.kill()
        asking.wait()
        pid = int(mark.read_text())
        self.wait(
            lambda: (
                not psutil.pid_exists(pid) or psutil.Process(pid).status() == psutil.STATUS_ZOMBIE
            )
        )

    def wait(self, done: object) -> None:
        until = time.monotonic() + 60
        while not done():  # type: ignore[operator]
            self.assertLess(time.monotonic(), until)
            time.sleep(0.02)

    def test_the_bound_is_a_setting_and_else_a_part_of_what_there_is(self) -> None:
        cases = {"3500": 3_500_000_000, "": None, "much": None}
        for told, wanted in cases.items():
            apart.most_memory.cache_clear()
            with mock.patch.dict(os.environ, {"GLENHAIL_PICTURE_MB": told}):
                found = apart.most_memory()
            self.assertEqual(
                found, wanted or min(apart.MOST_EVER, psutil.virtual_memory().total // 3)
            )
        apart.most_memory.cache_clear()
