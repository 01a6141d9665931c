"""The display pyramid: lossless tiles for the eye, in one ZIP of stored PNGs.

Level 0 is the picture itself; each further level is half of the one before, averaged in
linear light. A tile is named ``level/column_row.png``. Never used for measuring.
"""

from __future__ import annotations

import json
import os
import zipfile
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import IO, Any

import numba
import numpy as np
import numpy.typing as npt

from glenhail.core.colour import srgb
from glenhail.core.files.encoding import png_bytes
from glenhail.core.parallel import in_strips
from glenhail.core.picture import Floats, Picture, Rect

Codes = npt.NDArray[np.uint8]

VERSION = "1"
TILE = 512
TOLD = "pyramid.json"


@numba.njit(cache=True, nogil=True)
def _halve(source: Floats, out: Floats, first: int, end: int) -> None:
    height, width = source.shape[0], source.shape[1]
    for y in range(first, end):
        y0, y1 = 2 * y, min(2 * y + 1, height - 1)
        for x in range(out.shape[1]):
            x0, x1 = 2 * x, min(2 * x + 1, width - 1)
            for c in range(3):
                out[y, x, c] = 0.25 * (
                    source[y0, x0, c] + source[y0, x1, c] + source[y1, x0, c] + source[y1, x1, c]
                )


def halved(pixels: Floats) -> Floats:
    """Every 2 x 2 pixels averaged in linear light; an odd last line is averaged with
    itself.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    out = np.empty(((pixels.shape[0] + 1) // 2, (pixels.shape[1] + 1) // 2, 3), dtype=np.float32)
    in_strips(out.shape[0], lambda a, b: _halve(pixels, out, a, b))
    return out


def levels(pixels: Floats) -> Iterator[np.ndarray]:
    """8-bit levels from full size down to the first that fits one tile.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    while True:
        yield srgb.to_display(pixels)
        if max(pixels.shape[:2]) <= TILE:
            return
        pixels = halved(pixels)


def level_count(width: int, height: int) -> int:
    """How many levels a picture of that size has.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    count, side = 1, max(width, height)
    while side > TILE:
        side, count = (side + 1) // 2, count + 1
    return count


def write_pyramid(picture: Picture, path: Path) -> None:
    """Write a picture's pyramid.

    Parameters
    ----------
    picture : Picture
        A picture in linear light.
    path : Path
        The file.
    """
    write_tiles(picture.pixels, path)


def write_tiles(pixels: Floats, path: Path, **told: Any) -> None:
    """Write the pyramid of pixels, with more that is told of them.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    path : Path
        The file.
    **told
        What JSON can hold; `told_of` gives it back.
    """
    with (
        zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as pack,
        ThreadPoolExecutor(max_workers=os.cpu_count()) as pool,
    ):
        for level, codes in enumerate(levels(pixels)):
            places = [
                (column, row)
                for row in range(-(-codes.shape[0] // TILE))
                for column in range(-(-codes.shape[1] // TILE))
            ]
            tiles = pool.map(lambda p, c=codes: png_bytes(_tile(c, *p)), places)
            for (column, row), data in zip(places, tiles, strict=True):
                pack.writestr(tile_name(level, column, row), data)
        height, width = pixels.shape[:2]
        size = {"width": width, "height": height}
        pack.writestr(TOLD, json.dumps({"version": VERSION, "tile": TILE, **size, **told}))


def told_of(pack: IO[bytes]) -> dict[str, Any]:
    """What a pyramid's file tells of itself: its size, px, and what came with it.

    Parameters
    ----------
    pack : binary file
        As `write_tiles` wrote it.

    Raises
    ------
    zipfile.BadZipFile
        If it is damaged.
    """
    with zipfile.ZipFile(pack) as members:
        told: dict[str, Any] = json.loads(members.read(TOLD))
    return told


def tile_name(level: int, column: int, row: int) -> str:
    """Where a tile lies in the pack.

    Parameters
    ----------
    level : int
        0 is full size, each further one half of it.
    column : int
        Tiles from the left.
    row : int
        Tiles from the top.
    """
    return f"{level}/{column}_{row}.png"


def _tile(codes: np.ndarray, column: int, row: int) -> np.ndarray:
    return codes[row * TILE : (row + 1) * TILE, column * TILE : (column + 1) * TILE]


def part_of(rect: Rect, read: Callable[[int, int], np.ndarray]) -> np.ndarray:
    """A part of one level put together from its tiles.

    Parameters
    ----------
    rect : Rect
        Whole pixels within the level.
    read : callable
        Gives the tile of a column and a row, shape (h, w, 3); asked once for each tile
        that the part touches.

    Returns
    -------
    ndarray, shape (rect.h, rect.w, 3)
        Of the tiles' type.
    """
    x, y, w, h = (int(v) for v in (rect.x, rect.y, rect.w, rect.h))
    rows = [
        np.concatenate(
            [
                _within(read(column, row), column * TILE, row * TILE, rect)
                for column in range(x // TILE, (x + w - 1) // TILE + 1)
            ],
            axis=1,
        )
        for row in range(y // TILE, (y + h - 1) // TILE + 1)
    ]
    return np.concatenate(rows, axis=0)


def _within(tile: np.ndarray, left: int, top: int, rect: Rect) -> np.ndarray:
    """What of a tile lies in a part; the two overlap."""
    x0, y0 = max(int(rect.x) - left, 0), max(int(rect.y) - top, 0)
    return tile[y0 : int(rect.y + rect.h) - top, x0 : int(rect.x + rect.w) - left]
