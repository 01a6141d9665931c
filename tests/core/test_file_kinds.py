"""Kinds of TIFF that hold more than plain RGB, JPEG XL, gain maps, and floats that are
no light.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import colour
import imagecodecs
import numpy as np
import tifffile
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.core.errors import BadFile
from glenhail.core.files.decoding import read_facts, read_picture
from tests.pictures import photograph
from tests.seeds import drawn

CODES = np.round(255 * srgb.encode(photograph("astronaut")[100:180, 200:300])).astype(np.uint8)


class Kinds(unittest.TestCase):
    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.path = Path(temporary.name) / "given.tif"

    def codes(self) -> np.ndarray:
        """What was read, as 8-bit codes."""
        return np.asarray(255 * srgb.encode(read_picture(self.path).pixels))

    def refused(self) -> str:
        with self.assertRaises(BadFile) as found:
            read_picture(self.path)
        text = str(found.exception)
        self.assertIn(self.path.name, text)
        return text

    def test_a_palettes_colours_are_read(self) -> None:
        image = Image.fromarray(CODES).quantize(64)
        want = np.asarray(image.convert("RGB"))
        image.save(self.path)
        np.testing.assert_allclose(self.codes(), want, atol=0.01)
        # Written with 8-bit values in the palette's 16-bit places, as some do.
        table = np.asarray(image.getpalette() or [], np.uint16)[: 3 * 64].reshape(-1, 3).T
        tifffile.imwrite(
            self.path,
            np.asarray(image),
            photometric="palette",
            colormap=np.pad(table, ((0, 0), (0, 256 - table.shape[1]))),
        )
        np.testing.assert_allclose(self.codes(), want, atol=0.01)

    def test_cielab_is_read_as_colour_science_converts_it(self) -> None:
        white = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D50"]
        xyz = colour.RGB_to_XYZ(
            CODES / 255,
            "sRGB",
            illuminant=white,
            chromatic_adaptation_transform="Bradford",
            apply_cctf_decoding=True,
        )
        lab = colour.XYZ_to_Lab(xyz, white)
        deep = (
            np.stack([lab[..., 0] * 655.35, lab[..., 1] * 256, lab[..., 2] * 256], axis=-1)
            .round()
            .astype(np.int64)
            .astype(np.uint16)
        )
        flat = (
            np.stack([lab[..., 0] * 2.55, lab[..., 1], lab[..., 2]], axis=-1)
            .round()
            .astype(np.int64)
            .astype(np.uint8)
        )
        for values, kind, off in (
            (deep, "cielab", 0.4),
            (flat, "cielab", 5.0),
            (flat ^ np.array([0, 128, 128], np.uint8), "icclab", 5.0),
        ):
            with self.subTest(kind, bits=values.dtype.itemsize * 8):
                tifffile.imwrite(self.path, values, photometric=kind)
                self.assertLess(np.abs(self.codes() - CODES).max(), off + 4 * (off > 1))
                self.assertLess(np.abs(self.codes() - CODES).mean(), off / 4)
                self.assertEqual(read_facts(self.path).profile, "CIELAB")

    def test_a_largest_sample_below_full_scale_is_white(self) -> None:
        for bits in (10, 12, 14):
            top = 2**bits - 1
            values = np.round(CODES / 255 * top).astype(np.uint16)
            tifffile.imwrite(
                self.path, values, photometric="rgb", extratags=[(281, "H", 3, (top,) * 3, True)]
            )
            np.testing.assert_allclose(self.codes(), CODES, atol=0.3)
            self.assertIn(f"told as {top}", " ".join(read_facts(self.path).doubts))
        # A statistic of the picture, as TIFF 6.0 has it, is no scale, nor is one that samples go
        # beyond.
        deep = CODES.astype(np.uint16) * 257
        for told in (int(deep.max()), 1000, 1023):
            tifffile.imwrite(
                self.path, deep, photometric="rgb", extratags=[(281, "H", 3, (told,) * 3, True)]
            )
            np.testing.assert_allclose(self.codes(), CODES, atol=0.01)

    def test_the_picture_behind_a_thumbnail_is_measured(self) -> None:
        small = CODES[::8, ::8]
        for below in (False, True):
            with self.subTest(below=below):
                with tifffile.TiffWriter(self.path) as tif:
                    tif.write(small, photometric="rgb", subfiletype=1, subifds=1 if below else 0)
                    tif.write(CODES, photometric="rgb", subfiletype=0)
                np.testing.assert_allclose(self.codes(), CODES, atol=0.01)
                self.assertIn("thumbnail", " ".join(read_facts(self.path).doubts))
        with tifffile.TiffWriter(self.path) as tif:
            tif.write(CODES, photometric="rgb")
            tif.write(CODES[::-1], photometric="rgb")
        np.testing.assert_allclose(self.codes(), CODES, atol=0.01)
        self.assertIn("holds 2 pictures", " ".join(read_facts(self.path).doubts))

    def test_what_can_not_be_read_right_is_refused_with_a_remedy_that_helps(self) -> None:
        grey = CODES[..., 0]
        for name, values, how, why, remedy in (
            (
                "bilevel",
                grey > 99,
                {"photometric": "minisblack"},
                "black or white",
                "8 or 16 unsigned bits",
            ),
            (
                "32 bit",
                grey.astype(np.uint32) << 24,
                {"photometric": "minisblack"},
                "unsigned integers of 32 bit",
                "8 or 16 unsigned bits",
            ),
            (
                "signed",
                grey.astype(np.int16),
                {"photometric": "minisblack"},
                "signed integers of 16 bit",
                "8 or 16 unsigned bits",
            ),
            ("YCbCr", CODES, {"photometric": "ycbcr"}, "YCbCr without JPEG", "Save it in RGB"),
            (
                "codes as floats",
                CODES.astype(np.float32),
                {"photometric": "rgb"},
                "values reach 25",
                "Divide by the code of white",
            ),
            (
                "beyond all light",
                np.full((9, 9, 3), 1e30, np.float32),
                {"photometric": "rgb"},
                "values reach 1e+30",
                "Divide",
            ),
        ):
            with self.subTest(name):
                tifffile.imwrite(self.path, values, **how)
                text = self.refused()
                self.assertIn(why, text)
                self.assertIn(remedy, text)

    def test_scene_light_beyond_white_is_taken(self) -> None:
        light = photograph("astronaut")[:64, :64].copy()
        light[30:33, 30:33] = 40.0
        tifffile.imwrite(self.path, light, photometric="rgb")
        np.testing.assert_array_equal(read_picture(self.path).pixels, light)

    def test_a_value_that_is_no_number_is_refused_with_count_and_place(self) -> None:
        cases = [(3, 5, np.nan), (0, 0, np.inf), (63, 63, -np.inf)]
        cases += [
            (
                int(rng.integers(64)),
                int(rng.integers(64)),
                (np.nan, np.inf, -np.inf)[rng.integers(3)],
            )
            for _, rng in drawn(5)
        ]
        for x, y, wrong in cases:
            with self.subTest(x=x, y=y, wrong=wrong):
                light = photograph("astronaut")[:64, :64].copy()
                light[y, x, 1] = wrong
                tifffile.imwrite(self.path, light, photometric="rgb")
                self.assertIn(
                    f"1 of its values is not a number or infinite, the first at x {x}, y {y}",
                    self.refused(),
                )

    def test_jpeg_xl_is_read_at_its_depth(self) -> None:
        self.path = self.path.with_suffix(".jxl")
        deep = np.round(srgb.encode(photograph("coffee")[:90, :130]) * 65535).astype(np.uint16)
        for values, bits in ((CODES, 8), (deep, 16), (CODES[..., 0], 8)):
            with self.subTest(bits=bits, shape=values.shape):
                self.path.write_bytes(imagecodecs.jpegxl_encode(values, lossless=True))
                want = values / np.iinfo(values.dtype).max
                made = srgb.encode(read_picture(self.path).pixels)
                np.testing.assert_allclose(
                    made, want if want.ndim == 3 else np.repeat(want[..., None], 3, 2), atol=2e-5
                )
                facts = read_facts(self.path)
                self.assertEqual(
                    (facts.format, facts.width, facts.height),
                    ("JPEG XL", values.shape[1], values.shape[0]),
                )
        for case, rng in drawn(8):
            with self.subTest(case):
                size = rng.integers(1, 300, 2)
                self.path.write_bytes(
                    imagecodecs.jpegxl_encode(
                        rng.integers(0, 255, (*size, 3), np.uint8), lossless=True
                    )
                )
                facts = read_facts(self.path)
                self.assertEqual((facts.height, facts.width, facts.bits), (*size, 8))
        self.path.write_bytes(self.path.read_bytes()[:40])
        self.assertIn("damaged", self.refused())

    def test_a_gain_map_is_told_and_the_base_picture_measured(self) -> None:
        self.path = self.path.with_suffix(".jpg")
        note = b"http://ns.example/hdr-gain-map/1.0/"
        Image.fromarray(CODES).save(self.path, quality=98)
        raw = self.path.read_bytes()
        self.assertEqual(read_facts(self.path).doubts, [])
        self.path.write_bytes(
            raw[:2] + b"\xff\xe1" + (len(note) + 2).to_bytes(2, "big") + note + raw[2:]
        )
        self.assertIn("gain map", " ".join(read_facts(self.path).doubts))
        self.assertLess(np.abs(self.codes() - CODES).mean(), 2)


class Kernels(unittest.TestCase):
    def test_every_measure_survives_any_float(self) -> None:
        """In a process of its own: a NaN that becomes an index would end this one."""
        program = """
import itertools, json, numpy as np
from glenhail.core.measures.subject import (Subject)
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, ROLES, Patch, measures_for, take
from glenhail.core.picture import Mapping, Rect
from tests.pictures import photograph, picture
rng = np.random.default_rng(1)
for scale, value in itertools.product((1, 2), (np.nan, np.inf, -np.inf, 3e38, -1e30)):
    clean = photograph("coffee")[:128, :128]
    bad = np.repeat(np.repeat(clean, scale, 0), scale, 1).copy()
    bad[tuple(rng.integers(0, n, 40) for n in bad.shape)] = value
    out, frame = picture(bad), picture(clean)
    laid = AlignedPicture(out, Mapping(scale, scale), out.bounds)
    truth = AlignedPicture(frame, Mapping(), frame.bounds)
    s = Subject(frame, laid, truth, plain=[Rect(0, 0, 64, 64)])
    for place in (*(Patch("p", role, Rect(8, 8, 100, 100)) for role in ROLES), None):
        for m in measures_for(place):
            try:
                take(s, m, place)
            except (ValueError, ArithmeticError, np.linalg.LinAlgError) as error:
                pass
print("alive")
"""
        done = subprocess.run(
            [sys.executable, "-W", "ignore", "-c", program],
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual((done.returncode, done.stdout.strip()), (0, "alive"), done.stderr[-500:])
