"""Files in, whatever their kind; and files that are none."""

from __future__ import annotations

import json
import struct
import subprocess
import sys
import tempfile
import unittest
import zlib
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.core.errors import BadFile
from glenhail.core.files.decoding import read_facts, read_picture
from glenhail.core.files.encoding import write_png, write_tiff
from glenhail.core.files.pyramid import TILE, halved, level_count, write_pyramid
from glenhail.core.picture import Facts
from tests.pictures import photograph, picture

DATA = Path(__file__).resolve().parents[1] / "data"
CODES = (photograph("astronaut")[:61, :47] * 255).round().astype(np.uint8)
CODES16 = np.random.default_rng(5).integers(0, 65536, (61, 47, 3), dtype=np.uint16)


def linear(codes: np.ndarray) -> np.ndarray:
    return srgb.decode(codes / np.iinfo(codes.dtype).max)


class Case(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)


class Reading(Case):
    def test_every_kind_of_file_gives_its_pixels_at_full_depth(self) -> None:
        grey16 = CODES16[..., 0]
        float_pixels = (CODES16 / 40000).astype(np.float32)
        writers: dict[str, tuple[Callable[[Path], object], np.ndarray, float]] = {
            "8-bit.tif": (
                lambda p: tifffile.imwrite(p, CODES, photometric="rgb"),
                linear(CODES),
                1e-6,
            ),
            "16-bit-lzw.tif": (
                lambda p: tifffile.imwrite(
                    p, CODES16, photometric="rgb", compression="lzw", predictor=True
                ),
                linear(CODES16),
                1e-6,
            ),
            "tiled-planar.tif": (
                lambda p: tifffile.imwrite(
                    p,
                    np.moveaxis(CODES16, -1, 0),
                    photometric="rgb",
                    planarconfig="separate",
                    tile=(32, 32),
                ),
                linear(CODES16),
                1e-6,
            ),
            "big-endian.tif": (
                lambda p: tifffile.imwrite(p, CODES16, photometric="rgb", byteorder=">"),
                linear(CODES16),
                1e-6,
            ),
            "float.tif": (
                lambda p: tifffile.imwrite(p, float_pixels, photometric="rgb"),
                float_pixels,
                0,
            ),
            "grey.tif": (
                lambda p: tifffile.imwrite(p, grey16, photometric="minisblack"),
                linear(grey16)[..., None].repeat(3, 2),
                1e-6,
            ),
            "16-bit.png": (
                lambda p: p.write_bytes(imagecodecs.png_encode(CODES16)),
                linear(CODES16),
                1e-6,
            ),
            "8-bit.png": (lambda p: Image.fromarray(CODES).save(p), linear(CODES), 1e-6),
            "palette.png": (
                lambda p: Image.fromarray(CODES).quantize(255).save(p),
                linear(CODES),
                0.25,
            ),
            "opaque-alpha.png": (
                lambda p: Image.fromarray(CODES).convert("RGBA").save(p),
                linear(CODES),
                1e-6,
            ),
            "high.jpg": (
                lambda p: Image.fromarray(CODES).save(p, quality=100, subsampling=0),
                linear(CODES),
                0.05,
            ),
            "progressive.jpg": (
                lambda p: Image.fromarray(CODES).save(
                    p, quality=100, subsampling=0, progressive=True
                ),
                linear(CODES),
                0.05,
            ),
            "cmyk.jpg": (
                lambda p: Image.fromarray(CODES).convert("CMYK").save(p, quality=100),
                linear(CODES),
                0.1,
            ),
            "lossless.webp": (
                lambda p: Image.fromarray(CODES).save(p, lossless=True),
                linear(CODES),
                1e-6,
            ),
            "lossless.avif": (
                lambda p: p.write_bytes(imagecodecs.avif_encode(CODES, level=100)),
                linear(CODES),
                0.02,
            ),
            "10-bit.avif": (
                lambda p: p.write_bytes(
                    imagecodecs.avif_encode(CODES16 >> 6, level=100, bitspersample=10)
                ),
                linear(np.round((CODES16 >> 6) * (65535 / 1023)).astype(np.uint16)),
                0.01,
            ),
            "misnamed.png": (
                lambda p: Image.fromarray(CODES).save(p, format="JPEG", quality=100, subsampling=0),
                linear(CODES),
                0.05,
            ),
        }
        for name, (write, want, tolerance) in writers.items():
            with self.subTest(name):
                path = self.folder / name
                write(path)
                found = read_picture(path)
                self.assertEqual(found.pixels.shape, (61, 47, 3))
                self.assertLessEqual(np.abs(found.pixels - want).max(), tolerance)
                self.assertEqual((found.facts.width, found.facts.height), (47, 61))

    def test_all_eight_orientations_give_the_upright_picture(self) -> None:
        # Exif 2.32, 4.6.4: what each value does to the stored rows and columns.
        upright = CODES
        stored = {
            1: upright,
            2: upright[:, ::-1],
            3: upright[::-1, ::-1],
            4: upright[::-1],
            5: upright.transpose(1, 0, 2),
            6: np.rot90(upright, 1),
            7: upright[::-1, ::-1].transpose(1, 0, 2),
            8: np.rot90(upright, -1),
        }
        for value, codes in stored.items():
            with self.subTest(value):
                path = self.folder / f"{value}.png"
                exif = Image.Exif()
                exif[274] = value
                Image.fromarray(np.ascontiguousarray(codes)).save(path, exif=exif)
                np.testing.assert_allclose(read_picture(path).pixels, linear(upright), atol=1e-6)

    def test_facts_are_read_from_exif_and_from_tiff_tags(self) -> None:
        exif = Image.Exif()
        exif[271], exif[272] = "Corvane", "Corvane Quill 24"
        shot = exif.get_ifd(34665)
        shot[33434], shot[33437], shot[34855], shot[42036] = (
            0.000125,
            4.0,
            6400,
            "Corvane 50 mm f/2",
        )
        Image.fromarray(CODES).save(self.folder / "shot.jpg", exif=exif)
        written = Facts(
            "shot.tif",
            "TIFF",
            47,
            61,
            16,
            "unsigned",
            "",
            "sRGB",
            True,
            camera="Corvane Quill 24",
            lens="Corvane 50 mm f/2",
            iso=6400,
            shutter_s=0.000125,
            aperture=4.0,
        )
        write_tiff(self.folder / "shot.tif", picture(linear(CODES)).pixels, written)
        for name in ("shot.jpg", "shot.tif"):
            with self.subTest(name):
                facts = read_facts(self.folder / name)
                self.assertEqual(
                    (facts.camera, facts.lens, facts.iso),
                    ("Corvane Quill 24", "Corvane 50 mm f/2", 6400),
                )
                self.assertAlmostEqual(facts.shutter_s or 0, 1 / 8000, delta=1e-9)
                self.assertTrue(facts.profile_assumed)

    def test_heic_of_a_telephone_is_read_at_its_depth_with_its_facts_and_not_turned_twice(
        self,
    ) -> None:
        # Written by libheif's own encoder from a part of scikit-image's astronaut (a NASA
        # photograph, public domain).
        want = photograph("astronaut")[100:180, 200:320]
        for name, bits, close in (("phone.heic", 8, 0.025), ("ten-bit.heic", 10, 0.02)):
            with self.subTest(name):
                made = read_picture(DATA / name)
                self.assertEqual(
                    (made.facts.format, made.facts.bits, made.pixels.shape),
                    ("HEIC", bits, want.shape),
                )
                self.assertLess(np.abs(srgb.encode(made.pixels) - srgb.encode(want)).mean(), close)
        facts = read_facts(DATA / "phone.heic")
        self.assertEqual((facts.camera, facts.iso, facts.orientation), ("Lull Two", 800, 1))

    def test_what_is_written_is_read_again(self) -> None:
        pixels = linear(CODES16).astype(np.float32)
        write_tiff(self.folder / "a.tif", pixels)
        write_png(self.folder / "a.png", pixels)
        for name in ("a.tif", "a.png"):
            np.testing.assert_allclose(read_picture(self.folder / name).pixels, pixels, atol=3e-5)


def png_header(width: int, height: int) -> bytes:
    body = b"IHDR" + struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + struct.pack(">I", 13) + body + struct.pack(">I", zlib.crc32(body))


def png_data() -> bytes:
    body = b"IDAT" + zlib.compress(bytes(100))
    return struct.pack(">I", len(body) - 4) + body + struct.pack(">I", zlib.crc32(body))


class Dates(Case):
    def test_a_date_that_is_none_does_not_keep_a_picture_from_being_written(self) -> None:
        for taken, kept in (("yesterday", None), ("2026:03:14 11:20:05", "2026:03:14 11:20:05")):
            facts = replace(picture(linear(CODES).astype(np.float32)).facts, taken=taken)
            write_tiff(self.folder / "dated.tif", linear(CODES), facts)
            self.assertEqual(read_facts(self.folder / "dated.tif").taken, kept)


class BadInput(Case):
    def bad(self, name: str) -> bytes:
        def saved(write: Callable[[Path], object], suffix: str) -> bytes:
            path = self.folder / f"made{suffix}"
            write(path)
            return path.read_bytes()

        rgba = np.dstack([CODES, np.full(CODES.shape[:2], 128, np.uint8)])
        return {
            "empty.tif": lambda: b"",
            "text.tif": lambda: b"hello, this is no picture at all" * 9,
            "movie.avi": lambda: b"RIFF0000AVI LIST",
            "truncated.tif": lambda: saved(
                lambda p: tifffile.imwrite(p, CODES16, photometric="rgb"), ".tif"
            )[:9000],
            "truncated.png": lambda: saved(lambda p: Image.fromarray(CODES).save(p), ".png")[:3000],
            "truncated16.png": lambda: bytes(imagecodecs.png_encode(CODES16))[:9000],
            "truncated.jpg": lambda: saved(
                lambda p: Image.fromarray(CODES).save(p, quality=98), ".jpg"
            )[:1800],
            "giant.png": lambda: png_header(100_000, 100_000) + png_data(),
            "transparent.png": lambda: saved(lambda p: Image.fromarray(rgba).save(p), ".png"),
            "profile.png": lambda: saved(
                lambda p: Image.fromarray(CODES).save(p, icc_profile=b"junk" * 50), ".png"
            ),
            "cut-header.tif": lambda: b"II*\0\x08\0",
            "integers.tif": lambda: saved(
                lambda p: tifffile.imwrite(p, CODES16.astype(np.int32)), ".tif"
            ),
        }[name]()

    WORDS = {
        "empty.tif": "empty",
        "text.tif": "holds something else",
        "movie.avi": "not a picture",
        "truncated.tif": "ends before",
        "truncated.png": "damaged",
        "truncated16.png": "damaged",
        "truncated.jpg": "damaged",
        "giant.png": "100,000 × 100,000",
        "transparent.png": "transparent",
        "profile.png": "profile",
        "cut-header.tif": "header",
        "integers.tif": "signed integers of 32 bit",
    }

    def test_each_is_refused_with_its_name_the_problem_and_a_remedy(self) -> None:
        for name, word in self.WORDS.items():
            with self.subTest(name):
                path = self.folder / "stored"
                path.write_bytes(self.bad(name))
                with self.assertRaises(BadFile) as caught:
                    read_picture(path, name)
                said = str(caught.exception)
                self.assertTrue(said.startswith(f"{name}: "), said)
                self.assertIn(word, said)
                self.assertTrue(caught.exception.remedy.endswith("."), said)

    def test_damaged_files_of_every_format_never_crash_hang_or_flood_memory(self) -> None:
        # In a process of its own, so that a crash of a codec is seen as one.
        command = [sys.executable, "-m", "tests.core.hostile", "1", "130"]
        done = subprocess.run(command, capture_output=True, text=True, timeout=300, check=False)
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        found = json.loads(done.stdout)
        self.assertGreater(found["refused"], 1000)
        self.assertGreater(found["read"], 100)
        self.assertLess(found["most_mb"], 2000)
        self.assertLess(found["slowest_s"], 20)

    def test_a_header_that_tells_of_far_more_than_the_file_can_hold_is_refused_unread(self) -> None:
        path = self.folder / "stored"
        path.write_bytes(png_header(12_000, 12_000) + png_data())
        with self.assertRaisesRegex(BadFile, "far too small"):
            read_picture(path, "bomb.png")


class Pyramid(Case):
    def test_level_0_is_lossless_and_levels_average_linear_light(self) -> None:
        import zipfile

        pixels = np.tile(photograph("astronaut"), (2, 2, 1))[:700, :900]
        path = self.folder / "p.zip"
        write_pyramid(picture(pixels), path)
        with zipfile.ZipFile(path) as pack:
            names = [n for n in pack.namelist() if n.endswith(".png")]
            self.assertEqual({n.split("/")[0] for n in names}, {"0", "1"})
            tile = imagecodecs.png_decode(pack.read("0/1_1.png"))
            small = imagecodecs.png_decode(pack.read("1/0_0.png"))
        np.testing.assert_array_equal(tile, srgb.to_display(pixels)[TILE:, TILE:])
        mean = pixels.reshape(350, 2, 450, 2, 3).mean(axis=(1, 3))
        self.assertLessEqual(
            np.abs(small.astype(int) - srgb.to_display(mean.astype(np.float32))).max(), 1
        )
        self.assertEqual(level_count(900, 700), 2)

    def test_an_odd_last_line_is_kept(self) -> None:
        small = halved(np.arange(15, dtype=np.float32).reshape(5, 1, 3))
        self.assertEqual(small.shape, (3, 1, 3))
        np.testing.assert_allclose(small[2, 0], [12, 13, 14])
