"""A JPEG stream with what describes its pixels alone: tables, frames and scans, its
profile, and what may stay of Exif.
"""

from __future__ import annotations

import struct

from glenhail.core.files.privacy_exif import exif_block

JPEG_START = b"\xff\xd8"
# ITU-T T.81, table B.1: tables, frames, scans, restarts.
JPEG_SEGMENTS = {*range(0xC0, 0xD0), 0xDA, 0xDB, 0xDC, 0xDD, 0xDE, 0xDF}
APP0, APP1, APP2, APP14 = 0xE0, 0xE1, 0xE2, 0xEE
START_OF_SCAN, END = 0xDA, 0xD9
ICC = b"ICC_PROFILE\0"
COLOUR_TRANSFORM = bytes.fromhex(
    "41646f6265"
)  # what ITU-T T.872, 6.5.3 has the segment begin with that tells YCbCr from RGB


def clean_jpeg(data: bytes) -> bytes | None:
    """The one picture of the file: what may follow it (further pictures, other data)
    goes.

    Parameters
    ----------
    data : bytes
        The whole file.
    """
    out, at, scanned = bytearray(JPEG_START), 2, False
    while at + 2 <= len(data):
        if data[at] != 0xFF:
            return None
        kind = data[at + 1]
        if kind == 0xFF:  # fill
            at += 1
            continue
        if kind == END:
            return bytes(out) + b"\xff\xd9" if scanned else None
        length = int.from_bytes(data[at + 2 : at + 4], "big")
        end = at + 2 + length
        if length < 2 or end > len(data):
            return None
        out += _jpeg_segment(kind, data[at:end])
        at = end
        if kind == START_OF_SCAN:
            scanned, end = True, _scan_end(data, at)
            out += data[at:end]
            at = end
    # Cut off within a scan, as some decoders take it.
    return bytes(out) if scanned else None


def _scan_end(data: bytes, at: int) -> int:
    """Where entropy-coded data ends: at a marker that is neither stuffed nor a restart."""
    while (at := data.find(b"\xff", at)) >= 0 and at + 1 < len(data):
        if data[at + 1] != 0 and not 0xD0 <= data[at + 1] <= 0xD7 and data[at + 1] != 0xFF:
            return at
        at += 1
    return len(data)


def _jpeg_segment(kind: int, segment: bytes) -> bytes:
    """What may stay of a segment."""
    body = segment[4:]
    if kind in JPEG_SEGMENTS:
        return segment
    if kind == APP0 and body.startswith(b"JFIF\0"):
        return b"\xff\xe0\0\x10" + body[:12] + b"\0\0"  # without its thumbnail
    if kind == APP1 and body.startswith(b"Exif\0"):
        block = exif_block(body[6:])
        return (
            b"\xff\xe1" + struct.pack(">H", len(block) + 8) + b"Exif\0\0" + block if block else b""
        )
    if kind == APP2 and body.startswith(ICC):
        return segment
    if kind == APP14 and body.startswith(COLOUR_TRANSFORM):
        return b"\xff\xee\0\x0e" + body[:12]
    return b""
