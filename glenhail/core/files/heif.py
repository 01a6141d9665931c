"""HEIC (ISO/IEC 23008-12 with HEVC), as telephones write it, decoded by libheif in a
process of its own.
"""

from __future__ import annotations

import base64
import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from glenhail.core.files.coded import CodedPicture, DecoderFailed, Header, Unreadable
from glenhail.core.files.tiff import EXIF_IFD

CHILD = Path(__file__).with_name("heif_child.py")
PATIENCE = 90  # seconds
MODES = {
    "RGB": (3, np.uint8),
    "RGBA": (4, np.uint8),
    "RGB;16": (3, np.uint16),
    "RGBA;16": (4, np.uint16),
}
ORIENTATION = 0x0112


def header(path: Path) -> Header:
    """Read the header; no pixel is decoded.

    Parameters
    ----------
    path : Path
        The file.
    """
    told, _ = _asked(path, "header")
    return _header(told)


def decode(path: Path) -> CodedPicture:
    """Decode the picture at its full depth; 10 and 12 bits are spread over 16.

    Parameters
    ----------
    path : Path
        The file.
    """
    told, raw = _asked(path, "pixels")
    head = _header(told)
    channels, kind = MODES[told["mode"]]
    row = int(told["stride"]) // np.dtype(kind).itemsize
    values = np.frombuffer(raw, dtype=kind)
    if values.size < row * head.height:
        raise DecoderFailed
    values = values[: row * head.height].reshape(head.height, row)[:, : head.width * channels]
    return CodedPicture(
        head, np.ascontiguousarray(values).reshape(head.height, head.width, channels)
    )


def _asked(path: Path, wanted: str) -> tuple[dict[str, Any], bytes]:
    command = [sys.executable, "-I", str(CHILD), str(path), wanted]
    try:
        done = subprocess.run(command, capture_output=True, timeout=PATIENCE, check=False)
    except subprocess.TimeoutExpired as error:
        raise Unreadable("it takes too long to decode") from error
    line, _, rest = done.stdout.partition(b"\n")
    if done.returncode or not line:
        raise DecoderFailed
    return json.loads(line), rest


def _header(told: dict[str, Any]) -> Header:
    if told["mode"] not in MODES:
        raise Unreadable(f"its pixels are of the kind {told['mode']}")
    return Header(
        format="HEIC",
        width=int(told["width"]),
        height=int(told["height"]),
        channels=MODES[told["mode"]][0],
        bits=int(told["bits"]),
        sample="unsigned",
        compression="hevc",
        icc=base64.b64decode(told["icc"]) or None,
        tags=_tags(base64.b64decode(told["exif"])),
    )


def _tags(raw: bytes) -> dict[int, Any]:
    """Exif facts; orientation is left out, since the decoder has turned the picture
    already (ISO/IEC 23008-12, 6.5.10).
    """
    exif = Image.Exif()
    try:
        exif.load(raw)
        tags = {**dict(exif), **dict(exif.get_ifd(EXIF_IFD))}
    except (OSError, SyntaxError, ValueError, TypeError, KeyError):
        # Damaged facts do not make a picture unusable; it just has none.
        return {}
    tags.pop(ORIENTATION, None)
    return tags
