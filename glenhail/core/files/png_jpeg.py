"""PNG (ISO/IEC 15948), JPEG (ITU-T T.81), WebP and AVIF through Pillow; more than 8 bit
through the codecs themselves.
"""

from __future__ import annotations

import warnings
from pathlib import Path
from typing import Any

import imagecodecs
import numpy as np
from PIL import Image, ImageFile, UnidentifiedImageError

from glenhail.core.files.coded import CodedPicture, DecoderFailed, Header, Unreadable
from glenhail.core.files.limits import can_hold, too_large
from glenhail.core.files.tiff import EXIF_IFD

# Our own limit is checked before decoding; Pillow's would only repeat it with another text.
Image.MAX_IMAGE_PIXELS = None
ImageFile.LOAD_TRUNCATED_IMAGES = False

CHANNELS = {
    "1": 1,
    "L": 1,
    "LA": 2,
    "I;16": 1,
    "I": 1,
    "RGB": 3,
    "RGBA": 4,
    "CMYK": 4,
    "P": 3,
    "PA": 4,
}
AT_A_TIME = 4_000_000  # pixels
PNG_DEPTH_AT = 24  # signature 8, length 4, "IHDR" 4, width 4, height 4
PNG_COLOUR_CHANNELS = {0: 1, 2: 3, 3: 3, 4: 2, 6: 4}


def header(path: Path) -> Header:
    """Read the header; no pixel is decoded.

    Parameters
    ----------
    path : Path
        The file.
    """
    with _opened(path) as image:
        return _header(path, image)


def decode(path: Path) -> CodedPicture:
    """Decode the picture at its full depth.

    Parameters
    ----------
    path : Path
        The file.
    """
    with _opened(path) as image:
        head = _header(path, image)
        try:
            values = _eight_bit(image) if head.bits == 8 else _deep(path, head)
        except (
            OSError,
            SyntaxError,
            imagecodecs.PngError,
            imagecodecs.AvifError,
            ValueError,
        ) as error:
            raise DecoderFailed from error
    return CodedPicture(head, values.reshape(head.height, head.width, -1))


def _opened(path: Path) -> Image.Image:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            return Image.open(path, formats=["PNG", "JPEG", "WEBP", "AVIF"])
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError) as error:
        raise Unreadable("its header is damaged") from error


def _deep(path: Path, head: Header) -> np.ndarray:
    """16-bit codes; AVIF's 10 or 12 bits are spread over them."""
    if head.format == "PNG":
        return np.asarray(imagecodecs.png_decode(path.read_bytes()))
    codes = np.asarray(imagecodecs.avif_decode(path.read_bytes())).astype(np.float64)
    return np.asarray(np.round(codes * (65535 / (2**head.bits - 1))), dtype=np.uint16)


def _avif_bits(path: Path) -> int:
    """Bits per channel from the pixel information box (ISO/IEC 23008-12, 6.5.6);

    8 where there is none.
    """
    with path.open("rb") as file:
        start = file.read(65536)
    at = start.find(b"pixi")
    return start[at + 9] if 0 <= at < len(start) - 9 and start[at + 9] in (8, 10, 12) else 8


def _eight_bit(image: Image.Image) -> np.ndarray:
    """8-bit values; palettes become RGB, and inverted ink values are set upright by
    Pillow.
    """
    if image.mode in ("P", "PA", "1"):
        image = image.convert("RGBA" if "transparency" in image.info else "RGB")
    # Row by row: as a whole it is put together of two more copies.
    rows = max(1, AT_A_TIME // image.width)
    first = np.asarray(image.crop((0, 0, image.width, min(rows, image.height))))
    codes = np.empty((image.height, *first.shape[1:]), dtype=first.dtype)
    codes[:rows] = first
    for a in range(rows, image.height, rows):
        b = min(a + rows, image.height)
        codes[a:b] = np.asarray(image.crop((0, a, image.width, b)))
    return codes


def _header(path: Path, image: Image.Image) -> Header:
    kind = {"WEBP": "WebP"}.get(image.format or "", image.format or "")
    bits, channels = 8, CHANNELS.get(image.mode, 0)
    if kind == "AVIF":
        bits = _avif_bits(path)
    if kind == "PNG":
        with path.open("rb") as file:
            start = file.read(26)
        bits = max(8, start[PNG_DEPTH_AT])
        channels = PNG_COLOUR_CHANNELS.get(start[PNG_DEPTH_AT + 1], 0)
    held = can_hold(path.stat().st_size, image.width, image.height, max(1, channels), bits)
    if not channels:
        raise Unreadable(f"its pixels are of the kind {image.mode}")
    return Header(
        format=kind,
        width=image.width,
        height=image.height,
        channels=channels,
        bits=bits,
        sample="unsigned",
        compression=_compression(kind, path, image),
        icc=image.info.get("icc_profile"),
        # Pillow decodes a whole PNG to look for facts behind its pixels; what will be refused for
        # its size is not looked into.
        tags={} if too_large(image.width, image.height) or not held else _tags(image),
        space="cmyk" if image.mode == "CMYK" else "rgb",
    )


def _compression(kind: str, path: Path, image: Image.Image) -> str:
    if kind == "JPEG":
        return "progressive" if image.info.get("progressive") else "baseline"
    if kind == "WebP":
        return "lossless" if _is_lossless_webp(path) else "lossy"
    return {"PNG": "deflate", "AVIF": "av1"}[kind]


def _is_lossless_webp(path: Path) -> bool:
    """Whether the picture's own chunk is the lossless one (RFC 9649)."""
    with path.open("rb") as file:
        start = file.read(1 << 16)
    return b"VP8L" in start and b"VP8 " not in start[:64]


def _tags(image: Image.Image) -> dict[int, Any]:
    try:
        exif = image.getexif()
        return {**dict(exif), **dict(exif.get_ifd(EXIF_IFD))}
    except (OSError, SyntaxError, ValueError, TypeError, KeyError):
        # Damaged facts do not make a picture unusable; it just has none.
        return {}
