"""Taking out of a file what must not be published: where it was taken, and serial numbers. Pixels stay bit for bit.

Values are overwritten in their places, so that nothing else moves; only PNG's text is left out and its checksums made anew.
"""

from __future__ import annotations

import struct
import zlib
from dataclasses import dataclass

# Exif 2.32, tables 4 to 8, and DNG's own tags.
SUB_IFDS, EXIF_IFD, GPS_IFD, XMP, MAKER_NOTE, IPTC = 330, 34665, 34853, 700, 37500, 33723
OWNER, BODY_SERIAL, LENS_SERIAL, DNG_SERIAL, DNG_PRIVATE = 42032, 42033, 42037, 50735, 50740
PRIVATE = {XMP, MAKER_NOTE, IPTC, OWNER, BODY_SERIAL, LENS_SERIAL, DNG_SERIAL, DNG_PRIVATE}
SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4}
MOST_IFDS = 100
PNG_START = b"\x89PNG\r\n\x1a\n"
PNG_TEXT = (b"tEXt", b"zTXt", b"iTXt")
# A raw file of a maker's own format hides serial numbers in notes that developing needs; BigTIFF is laid out otherwise.
KEPT_BACK = "kept back: what a file of this kind may tell of place and serial numbers can not be taken out"
BIG_TIFF = (b"II+\0", b"MM\0+")
IPTC_SEGMENT, START_OF_SCAN = 0xED, 0xDA  # ITU-T T.81, table B.1


@dataclass(frozen=True)
class Cleaned:
    """A file's bytes fit to publish, and whether anything was taken out."""

    data: bytes
    changed: bool


def cleaned(data: bytes, format_name: str) -> Cleaned | None:
    """A file without position, owner, serial numbers, maker notes and XMP; None where that can not be had.

    Parameters
    ----------
    data : bytes
        The whole file.
    format_name : str
        As in `glenhail.core.picture.Facts.format`.
    """
    if format_name == "raw" or data[:4] in BIG_TIFF:
        return None
    buffer = bytearray(data)
    if buffer.startswith(PNG_START):
        buffer = _clean_png(buffer)
    elif bytes(buffer[:4]) in (b"II*\0", b"MM\0*"):
        _clean_tiff(buffer, 0)
    else:
        _clean_embedded(buffer)
    return Cleaned(bytes(buffer), buffer != data)


def _clean_embedded(buffer: bytearray) -> None:
    """JPEG, WebP, AVIF and HEIC: Exif blocks wherever they lie, and XMP packets."""
    at = 0
    while (at := buffer.find(b"Exif", at)) >= 0:
        for start in range(at + 4, at + 16):
            if bytes(buffer[start : start + 4]) in (b"II*\0", b"MM\0*"):
                _clean_tiff(buffer, start)
                break
        at += 4
    if buffer[4:8] == b"ftyp":
        _clean_bare_exif(buffer)
    if buffer.startswith(b"RIFF"):  # WebP calls its chunk EXIF and starts the block right after the chunk's size
        at = buffer.find(b"EXIF", 12)
        if at >= 0:
            start = at + 8 if bytes(buffer[at + 8 : at + 12]) in (b"II*\0", b"MM\0*") else at + 14
            _clean_tiff(buffer, start)
    if buffer.startswith(b"\xff\xd8"):
        _clean_jpeg_iptc(buffer)
    at = 0
    while (at := buffer.find(b"<x:xmpmeta", at)) >= 0:
        end = buffer.find(b"</x:xmpmeta>", at)
        end = len(buffer) if end < 0 else end + 12
        buffer[at:end] = b" " * (end - at)
        at = end


def _clean_bare_exif(buffer: bytearray) -> None:
    """In AVIF and HEIC a block may follow its offset of four zero bytes at once (ISO/IEC 23008-12, annex A.2.1)."""
    for start in (b"II*\0", b"MM\0*"):
        at = 0
        while (at := buffer.find(bytes(4) + start, at)) >= 0:
            _clean_tiff(buffer, at + 4)
            at += 8


def _clean_jpeg_iptc(buffer: bytearray) -> None:
    """Blank the segments that hold IPTC records; the walk ends where the picture begins."""
    at = 2
    while at + 4 <= len(buffer) and buffer[at] == 0xFF and buffer[at + 1] != START_OF_SCAN:
        length = _number(buffer, at + 2, "H", ">")
        if buffer[at + 1] == IPTC_SEGMENT:
            _zero(buffer, at + 4, length - 2)
        at += 2 + max(2, length)


def _clean_png(buffer: bytearray) -> bytearray:
    out, at = bytearray(PNG_START), 8
    while at + 12 <= len(buffer):
        (length,) = struct.unpack_from(">I", buffer, at)
        kind, body = bytes(buffer[at + 4 : at + 8]), bytearray(buffer[at + 8 : at + 8 + length])
        if kind == b"eXIf":
            _clean_tiff(body, 0)
        if kind not in PNG_TEXT:
            out += struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))
        at += 12 + length
    return out + buffer[at:] if at < len(buffer) else out


def _clean_tiff(buffer: bytearray, base: int) -> None:
    """Walk the directories of a TIFF block that starts at `base`; damage ends the walk, it never raises."""
    order = "<" if buffer[base : base + 2] == b"II" else ">"
    waiting: list[int] = [_number(buffer, base + 4, "I", order)]
    seen: set[int] = set()
    while waiting and len(seen) < MOST_IFDS:
        ifd = waiting.pop()
        if not ifd or ifd in seen or base + ifd + 2 > len(buffer):
            continue
        seen.add(ifd)
        count = _number(buffer, base + ifd, "H", order)
        for i in range(count):
            waiting += _clean_entry(buffer, base, base + ifd + 2 + 12 * i, order)
        waiting.append(_number(buffer, base + ifd + 2 + 12 * count, "I", order))


def _clean_entry(buffer: bytearray, base: int, at: int, order: str) -> list[int]:
    """Blank one entry where it is private; returns directories that it points to."""
    if at + 12 > len(buffer):
        return []
    tag, kind = _number(buffer, at, "H", order), _number(buffer, at + 2, "H", order)
    count, value = _number(buffer, at + 4, "I", order), _number(buffer, at + 8, "I", order)
    size = SIZES.get(kind, 1) * count
    start = at + 8 if size <= 4 else base + value
    if tag == GPS_IFD:
        _empty(buffer, base, base + value, order)
    elif tag in PRIVATE:
        _zero(buffer, start, size)
    elif tag == EXIF_IFD:
        return [value]
    elif tag == SUB_IFDS:
        return [_number(buffer, start + 4 * k, "I", order) for k in range(min(count, MOST_IFDS))]
    return []


def _empty(buffer: bytearray, base: int, ifd: int, order: str) -> None:
    """Blank every entry of a directory with what it points to, and leave it with no entry."""
    count = _number(buffer, ifd, "H", order)
    for at in range(ifd + 2, min(ifd + 2 + 12 * count, len(buffer) - 11), 12):
        size = SIZES.get(_number(buffer, at + 2, "H", order), 1) * _number(buffer, at + 4, "I", order)
        if size > 4:
            _zero(buffer, base + _number(buffer, at + 8, "I", order), size)
    _zero(buffer, ifd, 2 + 12 * count)


def _zero(buffer: bytearray, start: int, size: int) -> None:
    end = min(start + size, len(buffer))
    if start < end:
        buffer[start:end] = bytes(end - start)


def _number(buffer: bytearray, at: int, kind: str, order: str) -> int:
    """An unsigned number, or 0 beyond the end."""
    if at < 0 or at + struct.calcsize(kind) > len(buffer):
        return 0
    return int(struct.unpack_from(order + kind, buffer, at)[0])
