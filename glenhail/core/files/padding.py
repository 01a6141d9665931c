"""PNG files of one length, so that a length tells nothing of what is in them."""

from __future__ import annotations

import struct
import zlib
from collections.abc import Sequence

# A chunk of no standard: ancillary, private, safe to copy (PNG, third edition, 5.4).
CHUNK = b"glPd"
FRAME = 12  # bytes of a chunk without its data
END = struct.pack(">I", 0) + b"IEND" + struct.pack(">I", zlib.crc32(b"IEND"))


def padded_png(png: bytes, size: int) -> bytes:
    """A PNG made so long by a chunk that every reader passes over.

    Parameters
    ----------
    png : bytes
        A whole PNG file.
    size : int
        Bytes; at least 12 more than it has.

    Raises
    ------
    ValueError
        If it is no whole PNG, or there is no room for a chunk.
    """
    room = size - len(png) - FRAME
    if not png.endswith(END):
        raise ValueError("a PNG ends with its last chunk")
    if room < 0:
        raise ValueError(f"{len(png)} bytes can not be padded to {size}")
    body = CHUNK + bytes(room)
    chunk = struct.pack(">I", room) + body + struct.pack(">I", zlib.crc32(body))
    return png[: -len(END)] + chunk + END


def of_one_length(pngs: Sequence[bytes]) -> list[bytes]:
    """PNG files, each as long as the longest and a chunk.

    Parameters
    ----------
    pngs : sequence of bytes
        Whole PNG files.
    """
    size = max(map(len, pngs), default=0) + FRAME
    return [padded_png(png, size) for png in pngs]
