"""What must not be published is gone from a file's bytes, and its pixels are as they
were.
"""

from __future__ import annotations

import io
import tempfile
import unittest
import zlib
from collections.abc import Callable
from pathlib import Path
from typing import Any

import imagecodecs
import numpy as np
import tifffile
from PIL import Image

from glenhail.core.files.decoding import read_facts, read_picture
from glenhail.core.files.privacy import CleanedFile, cleaned
from glenhail.standins.camera import BODIES, expose, write_dng
from tests.pictures import photograph
from tests.seeds import drawn

SECRETS = (b"SN-4711-BODY", b"SN-0815-LENS", b"Ada Private", b"notes of the maker 99")
LATITUDE = (47.0, 11.0, 53.25)
PLACE = b"53.7654321"  # as XMP would tell it


def exif() -> Image.Exif:
    made = Image.Exif()
    made[0x0110] = "Corvane Quill 24"
    made.get_ifd(0x8769).update(
        {
            0xA431: SECRETS[0].decode(),
            0xA435: SECRETS[1].decode(),
            0xA430: SECRETS[2].decode(),
            0x927C: SECRETS[3],
            0x8827: 800,
        }
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
        tags = [
            (272, "s", 0, "Corvane Quill 24", True),
            (34855, "H", 1, 800, True),
            (700, "B", len(xmp()), xmp(), True),
        ]
        tags += [
            (code, "s", 0, s.decode(), True)
            for code, s in zip((42033, 42037, 42032, 37500), SECRETS, strict=True)
        ]
        tifffile.imwrite(
            self.path, np.asarray(self.picture), photometric="rgb", metadata=None, extratags=tags
        )
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
                np.testing.assert_array_equal(
                    read_picture(self.path, f"x.{name.lower()}").pixels, before
                )
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
        np.testing.assert_array_equal(
            np.asarray(Image.open(io.BytesIO(made.data))), np.asarray(Image.open(io.BytesIO(raw)))
        )

    def test_a_dng_still_develops_and_its_serial_is_gone(self) -> None:
        body = BODIES["quill24"]
        write_dng(self.path, expose(photograph("china"), body, 400, 1), body, {"iso": 400})
        with tifffile.TiffFile(self.path) as tif:
            page = tif.pages[0]
            codes = page.asarray()
        extra = [(50735, "s", 0, SECRETS[0].decode(), True), (50706, "B", 4, (1, 4, 0, 0), True)]
        tifffile.imwrite(
            self.path.with_suffix(".tif"), codes, photometric=32803, metadata=None, extratags=extra
        )
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
            made = cleaned(bytes(damaged), "TIFF")
            self.assertTrue(made is None or len(made.data) == len(whole))


CANARY = "Zilpzalp-{}-Weidenlaubsaenger"


class Canaries(unittest.TestCase):
    """A canary in every place that a format has room for: none is in the published
    copy, and the pixels are as they were.
    """

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "file"
        self.codes = (photograph("china")[:96, :128] * 255).astype(np.uint8)
        self.planted = 0

    def canary(self, wide: bool = False) -> bytes:
        self.planted += 1
        return CANARY.format(self.planted).encode("utf-16-le" if wide else "ascii")

    def exif(self) -> bytes:
        """Every kind of field that tells of people, places and things, and a thumbnail
        that holds one too.
        """
        made = Image.Exif()
        for tag in (
            270,
            305,
            306,
            315,
            316,
            33432,
            40091,
            40092,
            40093,
        ):  # description to copyright, and a maker of systems' own
            made[tag] = self.canary().decode() if tag < 40000 else self.canary(wide=True)
        made[274], made[272] = 6, "Corvane Quill 24"
        ifd = made.get_ifd(0x8769)
        for tag in (36867, 37520, 42016, 42032, 42033, 42035, 42037):
            ifd[tag] = self.canary().decode()
        for tag in (37500, 37510):
            ifd[tag] = b"ASCII\0\0\0" + self.canary()
        ifd[0x8827] = 800
        made.get_ifd(0x8825).update({1: "N", 2: LATITUDE, 27: self.canary(), 28: self.canary()})
        return bytes(made.tobytes())[6:]

    def xmp(self) -> tuple[bytes, ...]:
        """As it should be, without its wrapper, and in UTF-16."""
        plain = xmp().replace(PLACE, self.canary())
        bare = (
            b'<rdf:RDF xmlns:rdf="ns:rdf"><rdf:Description name="'
            + self.canary()
            + b'"/></rdf:RDF>'
        )
        wide = (
            '<x:xmpmeta xmlns:x="ns:meta/">'.encode("utf-16-le")
            + self.canary(wide=True)
            + "</x:xmpmeta>".encode("utf-16-le")
        )
        return plain, bare, wide

    def segment(self, marker: int, body: bytes) -> bytes:
        return bytes([0xFF, marker]) + (len(body) + 2).to_bytes(2, "big") + body

    def jpeg(self, rng: np.random.Generator) -> bytes:
        out = io.BytesIO()
        Image.fromarray(self.codes).save(
            out,
            "JPEG",
            quality=92,
            progressive=bool(rng.integers(2)),
            icc_profile=b"",
            dpi=(300, 300),
        )
        plain = out.getvalue()
        planted = [self.segment(0xFE, self.canary()), self.segment(0xE1, b"Exif\0\0" + self.exif())]
        planted += [self.segment(0xE1, b"ns:xap/1.0/\0" + x) for x in self.xmp()]
        planted += [self.segment(0xE1, b"ns:xmp/extension/\0" + b"0" * 40 + self.canary())]
        planted += [self.segment(int(m), self.canary()) for m in rng.integers(0xE2, 0xF0, 6)]
        planted += [
            self.segment(0xED, b"8BIM\x04\x04" + self.canary()),
            self.segment(0xE0, b"JFXX\0" + self.canary()),
        ]
        rng.shuffle(planted)  # type: ignore[arg-type]
        return plain[:2] + plain[2:20] + b"".join(planted) + plain[20:] + self.canary() + plain

    def png(self, rng: np.random.Generator) -> bytes:
        out = io.BytesIO()
        Image.fromarray(self.codes).save(out, "PNG")
        plain = out.getvalue()

        def chunk(kind: bytes, body: bytes) -> bytes:
            return (
                len(body).to_bytes(4, "big")
                + kind
                + body
                + zlib.crc32(kind + body).to_bytes(4, "big")
            )

        planted = [
            chunk(b"tEXt", b"Author\0" + self.canary()),
            chunk(b"iTXt", b"XML\0\0\0\0\0" + self.xmp()[0]),
            chunk(b"prVt", self.canary()),
        ]
        planted += [
            chunk(b"eXIf", self.exif()),
            chunk(b"tIME", b"\x07\xea\x01\x01\0\0\0"),
            chunk(b"caBX", self.canary()),
        ]
        rng.shuffle(planted)  # type: ignore[arg-type]
        return plain[:33] + b"".join(planted) + plain[33:] + self.canary()

    def webp(self, rng: np.random.Generator) -> bytes:
        out = io.BytesIO()
        Image.fromarray(self.codes).save(
            out,
            "WEBP",
            lossless=bool(rng.integers(2)),
            exif=self.exif(),
            xmp=self.xmp()[int(rng.integers(3))],
        )
        raw = bytearray(out.getvalue())
        own = self.canary()
        raw += b"prVt" + len(own).to_bytes(4, "little") + own + bytes(len(own) % 2)
        raw[4:8] = (len(raw) - 8).to_bytes(4, "little")
        return bytes(raw) + self.canary()

    def tiff(self, rng: np.random.Generator) -> bytes:
        texts = (269, 270, 285, 305, 306, 315, 316, 33432, 50709, 65000, 42016, 42033)
        tags: list[Any] = [(t, "s", 0, self.canary().decode(), True) for t in texts]
        tags += [
            (t, "B", len(v), v, True)
            for t, v in (
                (700, self.xmp()[int(rng.integers(3))]),
                (34377, self.canary()),
                (33723, self.canary()),
            )
        ]
        tags += [
            (37510, "B", 30, (b"ASCII\0\0\0" + self.canary())[:30], True),
            (272, "s", 0, "Corvane Quill 24", True),
        ]
        pages = (
            {"tile": (16, 16)} if rng.integers(2) else {"rowsperstrip": int(rng.integers(1, 96))}
        )
        tifffile.imwrite(
            self.path,
            self.codes,
            photometric="rgb",
            metadata=None,
            extratags=tags,
            byteorder="<>"[int(rng.integers(2))],
            **pages,
        )  # type: ignore[arg-type]
        return self.path.read_bytes() + self.canary()

    def boxes(self, rng: np.random.Generator) -> bytes:
        """AVIF with boxes of others, at the top and within."""
        out = io.BytesIO()
        Image.fromarray(self.codes).save(
            out, "AVIF", quality=90, exif=self.exif(), xmp=self.xmp()[int(rng.integers(3))]
        )
        box = b"".join(
            self.box(kind, self.canary()) for kind in (b"free", b"uuid", b"skip", b"jumb")
        )
        return out.getvalue() + box

    def box(self, kind: bytes, body: bytes) -> bytes:
        return (len(body) + 8).to_bytes(4, "big") + kind + body

    def jpegxl(self, rng: np.random.Generator) -> bytes:
        stream = imagecodecs.jpegxl_encode(self.codes, lossless=True, usecontainer=False)
        start = self.box(b"JXL ", b"\r\n\x87\n") + self.box(b"ftyp", b"jxl \0\0\0\0jxl ")
        planted = [
            self.box(b"Exif", bytes(4) + self.exif()),
            self.box(b"xml ", self.xmp()[0]),
            self.box(b"jumb", self.canary()),
            self.box(b"uuid", self.canary()),
        ]
        rng.shuffle(planted)  # type: ignore[arg-type]
        return start + planted[0] + planted[1] + self.box(b"jxlc", stream) + planted[2] + planted[3]

    def jpeg_in_tiff(self, rng: np.random.Generator) -> bytes:
        """Strips that are whole JPEG streams, with all that such may tell."""
        stream = self.jpeg(rng)
        height, width = self.codes.shape[:2]
        tifffile.imwrite(
            self.path,
            iter([stream]),
            shape=(height, width, 3),
            dtype=np.uint8,
            photometric="ycbcr",
            compression=7,
            rowsperstrip=height,
            metadata=None,
            subsampling=(2, 2),
        )
        return self.path.read_bytes()

    def makers(self) -> dict[str, Callable[[np.random.Generator], bytes]]:
        return {
            "JPEG": self.jpeg,
            "PNG": self.png,
            "TIFF": self.tiff,
            "TIFF of JPEG": self.jpeg_in_tiff,
            "WebP": self.webp,
            "AVIF": self.boxes,
            "JPEG XL": self.jpegxl,
        }

    def test_no_canary_is_published_and_every_pixel_is_as_it_was(self) -> None:
        for name, make in self.makers().items():
            for label, rng in drawn(4):
                with self.subTest(f"{name}, {label}"):
                    raw = make(rng)
                    self.assertIn(b"Zilpzalp", raw)
                    made = cleaned(raw, name)
                    assert made is not None
                    for text in ("Zilpzalp", "Weidenlaub"):
                        for form in (
                            text.encode(),
                            text.encode("utf-16-le"),
                            text.encode("utf-16-be"),
                        ):
                            self.assertNotIn(form, made.data)
                    ending = {"JPEG XL": "jxl", "TIFF of JPEG": "tif"}.get(name, name.lower())
                    self.path.write_bytes(raw)
                    before = read_picture(self.path, f"x.{ending}")
                    self.path.write_bytes(made.data)
                    after = read_picture(self.path, f"x.{ending}")
                    np.testing.assert_array_equal(after.pixels, before.pixels)
                    self.assertEqual(cleaned(made.data, name), CleanedFile(made.data, False))

    def test_damage_anywhere_raises_nothing_and_publishes_no_canary(self) -> None:
        for name, make in self.makers().items():
            for label, rng in drawn(3):
                raw = make(rng)
                for _ in range(40):
                    damaged = bytearray(raw[: int(rng.integers(len(raw) // 2, len(raw)))])
                    for at in rng.integers(0, min(2000, len(damaged)), 6):
                        damaged[at] = rng.integers(256)
                    with self.subTest(f"{name}, {label}"):
                        cleaned(bytes(damaged), name)
