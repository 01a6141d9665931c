"""Files as they may be published: with what describes their pixels, and nothing else.

What may stay is listed, for each format; everything that is not is left out or blanked,
wherever a format has room for it: Exif and its thumbnails, XMP whole or extended, IPTC,
comments, makers' notes, boxes and chunks of other programs, data after the end. Pixels
stay bit for bit.
"""

from __future__ import annotations

import struct
import zlib
from collections.abc import Iterator
from dataclasses import dataclass

from glenhail.core.files.privacy_boxes import clean_boxes
from glenhail.core.files.privacy_exif import STARTS, exif_block
from glenhail.core.files.privacy_jpeg import JPEG_START, clean_jpeg
from glenhail.core.files.privacy_tiff import clean_file

PNG_START = b"\x89PNG\r\n\x1a\n"
# PNG third edition, and APNG's own.
PNG_CHUNKS = {
    b"IHDR",
    b"PLTE",
    b"IDAT",
    b"IEND",
    b"tRNS",
    b"cHRM",
    b"gAMA",
    b"iCCP",
    b"sBIT",
    b"sRGB",
    b"bKGD",
    b"pHYs",
    b"cICP",
    b"mDCV",
    b"cLLI",
}
WEBP_CHUNKS = {b"VP8 ", b"VP8L", b"ALPH", b"ANIM", b"ANMF", b"ICCP"}
WEBP_EXIF, WEBP_XMP = 0x08, 0x04  # of the VP8X chunk's flags
# A raw file of a maker's own format hides serial numbers in notes that developing needs; BigTIFF is
# laid out otherwise.
KEPT_BACK = (
    "kept back: what a file of this kind may tell of place and serial numbers can not be taken out"
)


@dataclass(frozen=True)
class CleanedFile:
    """A file's bytes fit to publish, and whether anything was taken out."""

    data: bytes
    changed: bool


def cleaned(data: bytes, format_name: str) -> CleanedFile | None:
    """A file with nothing but what describes its pixels;

    None where that can not be had.

    Parameters
    ----------
    data : bytes
        The whole file.
    format_name : str
        As in `glenhail.core.picture.Facts.format`.
    """
    made = None if format_name == "raw" else _by_kind(data)
    return None if made is None else CleanedFile(made, made != data)


def _by_kind(data: bytes) -> bytes | None:
    if data.startswith(PNG_START):
        return _png(data)
    if data[:4] in STARTS:
        return clean_file(data)
    if data.startswith(JPEG_START):
        return clean_jpeg(data)
    if data.startswith(b"RIFF") and data[8:12] == b"WEBP":
        return _webp(data)
    if data[4:8] == b"ftyp" or data[4:8] == b"JXL ":
        return clean_boxes(data)
    # A bare JPEG XL codestream is its pixels; nothing else begins so.
    return data if data.startswith(b"\xff\x0a") else None


def _png(data: bytes) -> bytes | None:
    out = bytearray(PNG_START)
    for kind, body in _chunks(data, 8, ">", 4):
        if kind == b"eXIf":
            body = exif_block(body)  # noqa: PLW2901  (what may stay of it)
        if (kind in PNG_CHUNKS or kind == b"eXIf") and (body or kind == b"IEND"):
            out += (
                struct.pack(">I", len(body))
                + kind
                + body
                + struct.pack(">I", zlib.crc32(kind + body))
            )
        if kind == b"IEND":
            return bytes(out)
    return None


def _chunks(data: bytes, at: int, order: str, behind: int) -> Iterator[tuple[bytes, bytes]]:
    """Types and contents of PNG's or RIFF's chunks."""
    while at + 8 <= len(data):
        kind, length = (data[at + 4 : at + 8], data[at : at + 4])[:: 1 if order == ">" else -1]
        size = int.from_bytes(length, "big" if order == ">" else "little")
        if at + 8 + size > len(data):
            return
        yield kind, data[at + 8 : at + 8 + size]
        at += 8 + size + (behind if order == ">" else size % 2)


def _webp(data: bytes) -> bytes | None:
    """Chunks of the RIFF container (RFC 9649)."""
    whole = data[: 8 + int.from_bytes(data[4:8], "little")]
    kept, exif = list[tuple[bytes, bytes]](), b""
    for kind, body in _chunks(whole, 12, "<", 0):
        if kind == b"EXIF":
            exif = exif_block(body[6:] if body.startswith(b"Exif") else body)
        elif kind == b"VP8X" or kind in WEBP_CHUNKS:
            kept.append((kind, body))
    if not any(kind in (b"VP8 ", b"VP8L", b"ANMF") for kind, _ in kept):
        return None
    made = b""
    for kind, body in [*kept, *([(b"EXIF", exif)] if exif else [])]:
        if kind == b"VP8X" and body:
            flags = body[0] & ~WEBP_XMP & ~(0 if exif else WEBP_EXIF)
            body = bytes([flags]) + body[1:]  # noqa: PLW2901
        made += kind + struct.pack("<I", len(body)) + body + bytes(len(body) % 2)
    return b"RIFF" + struct.pack("<I", len(made) + 4) + b"WEBP" + made
