"""What a decoder hands on: coded values as stored, and what the file says about them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np

AGAIN = "Export it again from the program that wrote it."


class Unreadable(ValueError):
    """Why a file's contents can not be used, as a clause, and what can be done about
    it.
    """

    def __init__(self, why: str, remedy: str = AGAIN) -> None:
        super().__init__(why)
        self.remedy = remedy


class DecoderFailed(Unreadable):
    """A decoder gave up without saying why: the data is damaged or cut short, or it
    found no memory.
    """

    def __init__(self, why: str = "the file ends before its picture does or is damaged") -> None:
        super().__init__(why)


@dataclass(frozen=True)
class Header:
    """The part of a file that can be read without decoding its pixels.

    ``tags`` maps numeric TIFF and EXIF tags to their values; ``doubts`` are what may be
    read otherwise than it was meant.
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
    doubts: tuple[str, ...] = ()


@dataclass(frozen=True)
class CodedPicture:
    """Pixels as stored, shape (h, w, channels), unsigned integers or float32."""

    header: Header
    values: np.ndarray
