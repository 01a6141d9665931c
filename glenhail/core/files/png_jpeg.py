"""PNG (ISO/IEC 15948) and JPEG (ITU-T T.81) through Pillow, and PNG at 16 bit through libpng."""

from __future__ import annotations

import warnings
from pathlib import Path
from typing import Any

import imagecodecs
import numpy as np
from PIL import Image, ImageFile, UnidentifiedImageError

from glenhail.core.files.coded import Coded, Header
from glenhail.core.files.tiff import EXIF_IFD, Unreadable

# Our own limit is checked before decoding; Pillow's would only repeat it with another text.
Image.MAX_IMAGE_PIXELS = None
ImageFile.LOAD_TRUNCATED_IMAGES = False

CHANNELS = {"1": 1, "L": 1, "LA": 2, "I;16": 1, "I": 1, "RGB": 3, "RGBA": 4, "CMYK": 4, "P": 3, "PA": 4}
PNG_DEPTH_AT = 24  # signature 8, length 4, "IHDR" 4, width 4, height 4
PNG_COLOUR_CHANNELS = {0: 1, 2: 3, 3: 3, 4: 2, 6: 4}


def header(path: Path) -> Header:
    """Read the header; no pixel is decoded."""
    with _opened(path) as image:
        return _header(path, image)


def decode(path: Path) -> Coded:
    """Decode the picture at its full depth."""
    with _opened(path) as image:
        head = _header(path, image)
        try:
            values = imagecodecs.png_decode(path.read_bytes()) if head.bits == 16 else _eight_bit(image)
        except (OSError, SyntaxError, imagecodecs.PngError, ValueError) as error:
            raise Unreadable("the file ends before its picture does or is damaged") from error
    return Coded(head, values.reshape(head.height, head.width, -1))


def _opened(path: Path) -> Image.Image:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            return Image.open(path, formats=["PNG", "JPEG"])
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError) as error:
        raise Unreadable("its header is damaged") from error


def _eight_bit(image: Image.Image) -> np.ndarray:
    """8-bit values; palettes become RGB, and inverted ink values are set upright by Pillow."""
    if image.mode in ("P", "PA", "1"):
        image = image.convert("RGBA" if "transparency" in image.info else "RGB")
    return np.asarray(image)


def _header(path: Path, image: Image.Image) -> Header:
    is_png = image.format == "PNG"
    bits, channels = 8, CHANNELS.get(image.mode, 0)
    if is_png:
        with path.open("rb") as file:
            start = file.read(26)
        bits = max(8, start[PNG_DEPTH_AT])
        channels = PNG_COLOUR_CHANNELS.get(start[PNG_DEPTH_AT + 1], 0)
    if not channels:
        raise Unreadable(f"its pixels are of the kind {image.mode}")
    return Header(
        format="PNG" if is_png else "JPEG",
        width=image.width,
        height=image.height,
        channels=channels,
        bits=bits,
        sample="unsigned",
        compression="deflate" if is_png else ("progressive" if image.info.get("progressive") else "baseline"),
        icc=image.info.get("icc_profile"),
        tags=_tags(image),
        space="cmyk" if image.mode == "CMYK" else "rgb",
    )


def _tags(image: Image.Image) -> dict[int, Any]:
    try:
        exif = image.getexif()
        return {**dict(exif), **dict(exif.get_ifd(EXIF_IFD))}
    except (OSError, SyntaxError, ValueError, TypeError, KeyError):
        # Damaged facts do not make a picture unusable; it just has none.
        return {}
