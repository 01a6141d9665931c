"""What a decoder hands on: coded values as stored, and what the file says about them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np


@dataclass(frozen=True)
class Header:
    """The part of a file that can be read without decoding its pixels.

    ``tags`` maps numeric TIFF and EXIF tags to their values.
    """

    format: str
    width: int
    height: int
    channels: int
    bits: int
    sample: str
    compression: str
    icc: bytes | None = None
    tags: dict[int, Any] = field(default_factory=dict)
    space: str = "rgb"


@dataclass(frozen=True)
class Coded:
    """Pixels as stored, shape (h, w, channels), unsigned integers or float32."""

    header: Header
    values: np.ndarray
