"""What must not be published is gone from a file's bytes, and its pixels are as they were."""

from __future__ import annotations

import io
import tempfile
import unittest
from pathlib import Path

import numpy as np
import tifffile
from PIL import Image

from glenhail.core.files.privacy import cleaned
from glenhail.core.files.reading import read_facts, read_picture
from glenhail.standins.camera import BODIES, expose, write_dng
from tests.pictures import photograph

SECRETS = (b"SN-4711-BODY", b"SN-0815-LENS", b"Ada Private", b"notes of the maker 99")
LATITUDE = (47.0, 11.0, 53.25)
PLACE = b"53.7654321"  # as XMP would tell it


def exif() -> Image.Exif:
    made = Image.Exif()
    made[0x0110] = "Corvane Quill 24"
    made.get_ifd(0x8769).update(
        {0xA431: SECRETS[0].decode(), 0xA435: SECRETS[1].decode(), 0xA430: SECRETS[2].decode(), 0x927C: SECRETS[3], 0x8827: 800}
    )
    made.get_ifd(0x8825).update({1: "N", 2: LATITUDE, 3: "E", 4: (8.0, 2.0, 1.0)})
    return made


def xmp() -> bytes:
    return b'<x:xmpmeta xmlns:x="ns:meta/"><rdf exif:GPSLatitude="' + PLACE + b'"/></x:xmpmeta>'


class Privacy(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "file"
        self.picture = Image.fromarray((photograph("china")[:80, :120] * 255).astype(np.uint8))

    def saved(self, format_name: str, **options: object) -> bytes:
        out = io.BytesIO()
        self.picture.save(out, format_name, exif=exif(), **options)  # type: ignore[arg-type]
        return out.getvalue()

    def tiff(self) -> bytes:
        tags = [(272, "s", 0, "Corvane Quill 24", True), (34855, "H", 1, 800, True), (700, "B", len(xmp()), xmp(), True)]
        tags += [(code, "s", 0, s.decode(), True) for code, s in zip((42033, 42037, 42032, 37500), SECRETS, strict=True)]
        tifffile.imwrite(self.path, np.asarray(self.picture), photometric="rgb", metadata=None, extratags=tags)
        return self.path.read_bytes()

    def test_position_serials_owner_notes_and_xmp_are_gone_and_pixels_stay(self) -> None:
        cases = {
            "JPEG": self.saved("JPEG", quality=95, xmp=xmp()),
            "PNG": self.saved("PNG"),
            "TIFF": self.tiff(),
            "WebP": self.saved("WEBP", lossless=True, xmp=xmp()),
            "AVIF": self.saved("AVIF", quality=90, xmp=xmp()),
            "HEIC": (Path(__file__).resolve().parents[1] / "data" / "phone.heic").read_bytes(),
        }
        for name, raw in cases.items():
            with self.subTest(name):
                self.assertTrue(SECRETS[0] in raw)
                made = cleaned(raw, name)
                assert made is not None
                self.assertTrue(made.changed)
                for secret in (*SECRETS, PLACE):
                    self.assertFalse(secret in made.data, secret)
                self.path.write_bytes(raw)
                before = read_picture(self.path, f"x.{name.lower()}").pixels
                self.path.write_bytes(made.data)
                np.testing.assert_array_equal(read_picture(self.path, f"x.{name.lower()}").pixels, before)
                if name != "HEIC":
                    after = Image.open(io.BytesIO(made.data))
                    self.assertEqual(dict(after.getexif().get_ifd(0x8825)), {})
                facts = read_facts(self.path, f"x.{name.lower()}")
                camera = "Lull Two" if name == "HEIC" else "Corvane Quill 24"
                self.assertEqual((facts.camera, facts.iso), (camera, 800))
                self.assertFalse(cleaned(made.data, name).changed)  # type: ignore[union-attr]

    def test_iptc_records_of_a_jpeg_are_blanked(self) -> None:
        plain = self.saved("JPEG", quality=95)
        record = b"8BIM\x04\x04 city of the maker"
        raw = plain[:2] + b"\xff\xed" + (len(record) + 2).to_bytes(2, "big") + record + plain[2:]
        made = cleaned(raw, "JPEG")
        assert made is not None
        self.assertFalse(b"city of the maker" in made.data)
        np.testing.assert_array_equal(np.asarray(Image.open(io.BytesIO(made.data))), np.asarray(Image.open(io.BytesIO(raw))))

    def test_a_dng_still_develops_and_its_serial_is_gone(self) -> None:
        body = BODIES["quill24"]
        write_dng(self.path, expose(photograph("china"), body, 400, 1), body, {"iso": 400})
        with tifffile.TiffFile(self.path) as tif:
            page = tif.pages[0]
            codes = page.asarray()
        extra = [(50735, "s", 0, SECRETS[0].decode(), True), (50706, "B", 4, (1, 4, 0, 0), True)]
        tifffile.imwrite(self.path.with_suffix(".tif"), codes, photometric=32803, metadata=None, extratags=extra)
        made = cleaned(self.path.with_suffix(".tif").read_bytes(), "DNG")
        assert made is not None
        self.assertNotIn(SECRETS[0], made.data)
        whole = cleaned(self.path.read_bytes(), "DNG")
        assert whole is not None
        before = read_picture(self.path, "a.dng").pixels
        self.path.write_bytes(whole.data)
        np.testing.assert_array_equal(read_picture(self.path, "a.dng").pixels, before)

    def test_a_makers_own_raw_format_is_kept_back_and_damage_is_no_error(self) -> None:
        self.assertIsNone(cleaned(b"anything", "raw"))
        tifffile.imwrite(self.path, np.asarray(self.picture), photometric="rgb", bigtiff=True)
        self.assertIsNone(cleaned(self.path.read_bytes(), "TIFF"))
        rng, whole = np.random.default_rng(8), self.tiff()
        for _ in range(200):
            damaged = bytearray(whole)
            for at in rng.integers(0, len(whole), 30):
                damaged[at] = rng.integers(256)
            self.assertEqual(len(cleaned(bytes(damaged), "TIFF").data), len(whole))  # type: ignore[union-attr]
