"""Frame and output on one grid, taken apart into octaves of structure and summed over
blocks.
"""

from __future__ import annotations

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import cv2
import numpy as np

from glenhail.core.colour.lumachroma import split
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.picture import Doubles, Floats, Picture, Rect

# Differences of Gaussians an octave wide, sigma in frame px; the first one starts from the pixels
# themselves.
SIGMAS = (0.0, 1.0, 2.0, 4.0, 8.0, 16.0)
STEPS = (1, 1, 2, 4, 4)  # px at which each octave is kept
FINE, MID, COARSE, BROAD, GROUND = range(5)
BLOCK = 32  # frame px
WINDOW, MARGIN = 512, 48
MOST_PIXELS = 2_500_000  # of the frame, taken from windows spread evenly over it
AT_BLACK, AT_WHITE = 0.5 / 65535, 1 - 0.5 / 65535


@dataclass(frozen=True)
class Blocks:
    """Mean products over blocks, in the squares of 8-bit codes, shape (blocks, 3
    planes, 5 octaves).

    Planes are encoded luma and the two colour differences. ``ff`` is frame by frame,
    ``fy`` frame by output, ``yy`` output by output. ``left`` holds the luma's finest
    octave in each block's four quarters, of frame and output, shape (blocks, 4, 2).
    ``luma`` is the frame's mean code, ``cut`` the share of its pixels at black or white
    in frame or output.
    """

    ff: Doubles
    fy: Doubles
    yy: Doubles
    left: Doubles
    luma: Doubles
    cut: Doubles


def windows(part: Rect) -> list[Rect]:
    """Parts of a frame to look at, spread evenly, whole blocks, all of it where it is
    small enough.

    Parameters
    ----------
    part : Rect
        A part of the frame, px.
    """
    side = max(BLOCK, min(WINDOW, int(min(part.w, part.h)) // BLOCK * BLOCK))
    if side > min(part.w, part.h):
        return []
    across, down = int(part.w // side), int(part.h // side)
    places = [(c, r) for r in range(down) for c in range(across)]
    most = max(1, MOST_PIXELS // (side * side))
    chosen = (
        places
        if len(places) <= most
        else [places[i] for i in np.linspace(0, len(places) - 1, most).round().astype(int)]
    )
    left, top = part.x + (part.w - across * side) // 2, part.y + (part.h - down * side) // 2
    return [Rect(left + c * side, top + r * side, side, side) for c, r in chosen]


def blocks(frame: Picture, output: AlignedPicture) -> Blocks | None:
    """Products over all blocks that both show; None where they share too little.

    Parameters
    ----------
    frame : Picture
        The frame.
    output : AlignedPicture
        The output with its line-up.
    """
    part = shared_part(frame.bounds, output.mapping, output.usable)
    with ThreadPoolExecutor(max_workers=2) as pool:
        found = list(pool.map(lambda w: _window(frame, output, w, part), windows(part)))
    if not found:
        return None
    return Blocks(
        *(np.concatenate([getattr(b, name) for b in found]) for name in Blocks.__dataclass_fields__)
    )


def planes(pixels: Floats) -> list[Floats]:
    """Luma and colour differences in 8-bit codes.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    luma, colour = split(np.ascontiguousarray(pixels))
    return [plane * np.float32(255) for plane in (luma, *colour)]


def octaves(plane: Floats) -> Iterator[tuple[Floats, int]]:
    """A plane's five octaves, each with the step it is kept at: coarse structure needs
    fewer pixels.

    Each blur goes on from the one before it; Gaussians follow each other as Gaussians
    (variances add).

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    """
    had, step, last = 0.0, 1, plane
    for sigma, next_step in zip(SIGMAS[1:], STEPS, strict=True):
        if next_step > step:
            last = np.ascontiguousarray(last[:: next_step // step, :: next_step // step])
            step = next_step
        smooth = _blurred(last, float(np.sqrt(sigma**2 - had**2)) / step)
        yield last - smooth, step
        last, had = smooth, sigma


def _blurred(plane: Floats, sigma: float) -> Floats:
    side = 2 * int(np.ceil(3 * sigma)) + 1
    return np.asarray(cv2.GaussianBlur(plane, (side, side), sigma, borderType=cv2.BORDER_REFLECT))


def _window(frame: Picture, output: AlignedPicture, window: Rect, part: Rect) -> Blocks:
    wide = Rect(
        window.x - MARGIN, window.y - MARGIN, window.w + 2 * MARGIN, window.h + 2 * MARGIN
    ).clipped(part)
    top, left, side = int(window.y - wide.y), int(window.x - wide.x), int(window.w)
    inner = {
        s: tuple(slice(-(-n // s), -(-n // s) + side // s) for n in (top, left)) for s in set(STEPS)
    }
    one = frame.crop(wide)
    two = to_frame_grid(output.picture.pixels, output.mapping, wide).pixels
    mine, theirs = planes(one), planes(two)
    count = int(window.w // BLOCK) * int(window.h // BLOCK)
    sums = np.empty((3, count, 3, len(SIGMAS) - 1))
    quarters = np.empty((count, 4, 2))
    for p, (a, b) in enumerate(zip(mine, theirs, strict=True)):
        for o, pair in enumerate(zip(octaves(a), octaves(b), strict=True)):
            step = pair[0][1]
            f, y = (plane[inner[step]] for plane, _ in pair)
            for i, product in enumerate((f * f, f * y, y * y)):
                sums[i, :, p, o] = _mean(product, BLOCK // step)
            if (p, o) == (0, FINE):
                quarters[..., 0], quarters[..., 1] = _quarters(f * f), _quarters(y * y)
    cut = [_mean(_cut(pixels)[inner[1]]) for pixels in (one, two)]
    ff, fy, yy = sums
    return Blocks(ff, fy, yy, quarters, _mean(mine[0][inner[1]]), np.maximum(*cut))


def _cut(pixels: Floats) -> Floats:
    """1 where a pixel has a value at black or white."""
    return np.asarray(((pixels <= AT_BLACK) | (pixels >= AT_WHITE)).any(axis=-1), dtype=np.float32)


def _mean(plane: Floats, side: int = BLOCK) -> Doubles:
    rows, columns = plane.shape[0] // side, plane.shape[1] // side
    return np.asarray(
        plane.reshape(rows, side, columns, side).mean(axis=(1, 3), dtype=np.float64).ravel()
    )


def _quarters(plane: Floats) -> Doubles:
    half = BLOCK // 2
    rows, columns = plane.shape[0] // BLOCK, plane.shape[1] // BLOCK
    means = plane.reshape(rows, 2, half, columns, 2, half).mean(axis=(2, 5), dtype=np.float64)
    return np.asarray(means.transpose(0, 2, 1, 3).reshape(rows * columns, 4))
