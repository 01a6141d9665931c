"""A picture's full-depth copy: 16-bit tiles for looking into shadows and lights.

One file without compression, so that a tile is a seek and a read on the server and an
array in the browser: noise does not shrink (deflate saves a sixth and costs 20 ms a
tile). Levels, tiles and their order are the display pyramid's (`pyramid`); each tile is
three planes of rows of little-endian 16-bit numbers.

A number says an sRGB-encoded value of -0.5 to 1.5, so that what lies beyond the range
or the colours of sRGB is kept: black is 16,384, white 49,152, and an 8-bit level 128.5
steps.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numba
import numpy as np
import numpy.typing as npt

from glenhail.core.colour import srgb
from glenhail.core.files.pyramid import TILE, halved, level_count
from glenhail.core.parallel import in_strips
from glenhail.core.picture import Floats, Picture

Steps = npt.NDArray[np.uint16]

VERSION = "1"
BLACK = 16384
SPAN = 32768  # from black to white
BYTES = 6  # a pixel
_BLACK, _SPAN = np.float32(BLACK), np.float32(SPAN)


@numba.njit(cache=True, nogil=True)
def _stepped(flat: Floats, out: Steps) -> None:
    for i in range(flat.size):
        v = srgb.encoded(flat[i]) * _SPAN + _BLACK
        out[i] = np.uint16(min(max(v + np.float32(0.5), np.float32(0)), np.float32(65535)))


def steps_of(linear: Floats) -> Steps:
    """Linear light as the copy has it.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.

    Returns
    -------
    ndarray, uint16, the same shape
        Within half a step, 1/65,536 of the way from black to white.
    """
    source = np.ascontiguousarray(linear, dtype=np.float32)
    out = np.empty(source.shape, dtype=np.uint16)
    in_strips(source.shape[0], lambda a, b: _stepped(source[a:b].reshape(-1), out[a:b].reshape(-1)))
    return out


def encoded_of(steps: Steps) -> Floats:
    """sRGB-encoded values, 0 black and 1 white, of the copy's numbers.

    Parameters
    ----------
    steps : ndarray, uint16
        Numbers of the copy, any shape.
    """
    return np.asarray((steps.astype(np.float32) - _BLACK) / _SPAN, dtype=np.float32)


@dataclass(frozen=True)
class TilePlace:
    """Where a tile lies in the file, and how large it is, px."""

    start: int
    width: int
    height: int

    @property
    def size(self) -> int:
        """Its bytes."""
        return BYTES * self.width * self.height


@dataclass(frozen=True)
class Layout:
    """Where everything lies in the copy of a picture of ``width`` x ``height`` px."""

    width: int
    height: int

    @property
    def levels(self) -> int:
        """How many levels it has."""
        return level_count(self.width, self.height)

    @property
    def size(self) -> int:
        """Bytes of the whole file."""
        return sum(BYTES * w * h for w, h in map(self.at, range(self.levels)))

    def at(self, level: int) -> tuple[int, int]:
        """Width and height of a level, px."""
        return -(-self.width // 2**level), -(-self.height // 2**level)

    def tile(self, level: int, column: int, row: int) -> TilePlace | None:
        """Where a tile lies; None where there is no such tile."""
        if level >= self.levels:
            return None
        width, height = self.at(level)
        left, top = column * TILE, row * TILE
        if left >= width or top >= height:
            return None
        above = sum(BYTES * w * h for w, h in map(self.at, range(level)))
        high, wide = min(TILE, height - top), min(TILE, width - left)
        start = above + BYTES * (top * width + left * high)
        return TilePlace(start, wide, high)


def write_full_depth(picture: Picture, path: Path) -> None:
    """Write a picture's full-depth copy.

    Parameters
    ----------
    picture : Picture
        A picture in linear light.
    path : Path
        The file.
    """
    with path.open("wb") as file:
        for level in _levels(picture.pixels):
            for top in range(0, level.shape[0], TILE):
                band = level[top : top + TILE]
                for left in range(0, level.shape[1], TILE):
                    tile = band[:, left : left + TILE].transpose(2, 0, 1)
                    file.write(np.ascontiguousarray(tile, dtype="<u2").data)


def _levels(pixels: Floats) -> Iterator[Steps]:
    for level in range(level_count(pixels.shape[1], pixels.shape[0])):
        pixels = halved(pixels) if level else pixels
        yield steps_of(pixels)


def tile_of(data: bytes, place: TilePlace) -> Steps:
    """A tile's numbers, shape (h, w, 3), from its bytes.

    Parameters
    ----------
    data : bytes
        As they stand in the file.
    place : TilePlace
        Where they stood.
    """
    planes = np.frombuffer(data, dtype="<u2").reshape(3, place.height, place.width)
    return planes.transpose(1, 2, 0)


def bytes_of(planes: np.ndarray) -> bytes:
    """Planes of numbers as a tile's bytes, one plane after the other.

    Parameters
    ----------
    planes : ndarray, shape (h, w) or (h, w, n)
        Whole numbers, 0 to 65,535; others are rounded and cut off.
    """
    whole = np.clip(np.rint(np.atleast_3d(planes)), 0, 65535).astype("<u2")
    return np.ascontiguousarray(whole.transpose(2, 0, 1)).tobytes()
