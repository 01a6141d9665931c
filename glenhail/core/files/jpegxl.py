"""JPEG XL (ISO/IEC 18181), decoded by libjxl at its full depth."""

from __future__ import annotations

from pathlib import Path

import imagecodecs
import numpy as np

from glenhail.core.files.coded import CodedPicture, DecoderFailed, Header, Unreadable

BARE, BOXED = b"\xff\x0a", b"\0\0\0\x0cJXL \r\n\x87\n"
HEAD = 1 << 20  # bytes in which the codestream begins
# Width over height by code (ISO/IEC 18181-1, D.2); 0 tells the width itself.
RATIOS = {1: (1, 1), 2: (12, 10), 3: (4, 3), 4: (3, 2), 5: (16, 9), 6: (5, 4), 7: (2, 1)}
SIDE_BITS, DEPTHS = (9, 13, 18, 30), (8, 10, 12)
NO_PROFILE = "what its colour profile says is not read: sRGB is assumed"


class Bits:
    """Bits of a codestream, the lowest of each byte first."""

    def __init__(self, data: bytes) -> None:
        self._data, self._at = data, 0

    def take(self, count: int) -> int:
        """A number of so many bits."""
        if self._at + count > 8 * len(self._data):
            raise Unreadable("its header is damaged")
        value = 0
        for i in range(count):
            at = self._at + i
            value |= (self._data[at >> 3] >> (at & 7) & 1) << i
        self._at += count
        return value


def header(path: Path) -> Header:
    """Size and depth from the start of the codestream.

    Parameters
    ----------
    path : Path
        The file.
    """
    with path.open("rb") as file:
        start = file.read(HEAD)
    bits = Bits(_codestream(start)[2 : 2 + 64])
    width, height = _size(bits)
    depth, sample = _depth(bits)
    return Header("JPEG XL", width, height, 3, depth, sample, "jpeg xl", doubts=(NO_PROFILE,))


def _codestream(start: bytes) -> bytes:
    if start.startswith(BARE):
        return start
    at = 0
    while at + 8 <= len(start):
        size, kind = int.from_bytes(start[at : at + 4], "big"), start[at + 4 : at + 8]
        body = 8
        if size == 1:
            size, body = int.from_bytes(start[at + 8 : at + 16], "big"), 16
        if kind in (b"jxlc", b"jxlp"):
            return start[at + body + (4 if kind == b"jxlp" else 0) :]
        if size < 8:
            break
        at += size
    raise Unreadable("its header is damaged")


def _size(bits: Bits) -> tuple[int, int]:
    small = bits.take(1)

    def side() -> int:
        return 8 * (bits.take(5) + 1) if small else 1 + bits.take(SIDE_BITS[bits.take(2)])

    height = side()
    ratio = bits.take(3)
    if ratio == 0:
        return side(), height
    over, under = RATIOS[ratio]
    return height * over // under, height


def _depth(bits: Bits) -> tuple[int, str]:
    """Bits a sample; 16 where what stands before them has to be skipped by a decoder."""
    if bits.take(1):
        return 8, "unsigned"
    if bits.take(1):
        return 16, "unsigned"
    if bits.take(1):
        return 32, "float"
    which = bits.take(2)
    return (DEPTHS[which] if which < len(DEPTHS) else 1 + bits.take(6)), "unsigned"


def decode(path: Path) -> CodedPicture:
    """Decode the picture; 10 to 14 bits come spread over 16.

    Parameters
    ----------
    path : Path
        The file.
    """
    head = header(path)
    try:
        values = np.asarray(imagecodecs.jpegxl_decode(path.read_bytes()))
    except (imagecodecs.JpegxlError, ValueError, RuntimeError) as error:
        raise DecoderFailed from error
    # A picture that was turned by its codestream comes upright.
    if values.ndim == 2:
        values = values[..., None]
    if values.ndim != 3 or {values.shape[0], values.shape[1]} != {head.height, head.width}:
        raise Unreadable(
            "it holds an animation, or no single picture",
            "Export one picture of it as TIFF or PNG.",
        )
    if (
        values.dtype == np.uint16
        and 8 < head.bits < 16
        and int(values.max(initial=0)) < 2**head.bits
    ):
        values = np.asarray(np.round(values * (65535 / (2**head.bits - 1))), dtype=np.uint16)
    if values.dtype.kind == "f":
        values = values.astype(np.float32)
    height, width = values.shape[:2]
    sample = "float" if values.dtype.kind == "f" else "unsigned"
    depth = head.bits if head.bits != 16 else values.dtype.itemsize * 8
    made = Header(
        "JPEG XL", width, height, values.shape[2], depth, sample, "jpeg xl", doubts=head.doubts
    )
    return CodedPicture(made, values)
