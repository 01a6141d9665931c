"""Averaged profiles across a frame's strong lone edges, in the frame and in the output:
halos show, noise does not.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import cv2
import numpy as np
import scipy.ndimage

from glenhail.core.audit.bands import windows
from glenhail.core.colour import srgb
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.picture import Doubles, Floats, Picture, Rect

REACH, STEP = 14.0, 0.5  # frame px across the edge
ALONG = np.arange(-4, 5)  # frame px over which an edge is averaged
PLATEAU = 8.0  # px from the edge from where its two sides are level
LEAST_STEP = 18.0  # 8-bit codes
LEVEL = 0.12  # of the step by which a side may rise or fall
SPACING = 24
MOST, FEWEST = 400, 12
EACH = 60  # of one part of the frame, the steepest


@dataclass(frozen=True)
class Edges:
    """Mean profiles of edges, 0 and 1 at the plateaus, dark side first.

    ``overshoot`` and ``undershoot`` beyond the plateaus are the output's less the
    frame's, % of the step, with the standard error of the mean over edges.
    """

    count: int
    distance: Doubles
    frame: Doubles
    output: Doubles
    overshoot: float
    undershoot: float
    error: float


def edges(frame: Picture, output: AlignedPicture) -> Edges | None:
    """Profiles across edges of both;

    None where the frame has fewer than a dozen that stand alone.

    Parameters
    ----------
    frame : Picture
        The frame.
    output : AlignedPicture
        The output with its line-up.
    """
    part = shared_part(frame.bounds, output.mapping, output.usable)
    with ThreadPoolExecutor(max_workers=2) as pool:
        pairs = [
            found
            for some in pool.map(lambda w: _in_window(frame, output, w), windows(part))
            for found in some
        ]
    if len(pairs) < FEWEST:
        return None
    pairs.sort(key=lambda p: -p[2])
    stack = np.array([(a, b) for a, b, _ in pairs[:MOST]])
    over, under = (np.array([_peak(p, side) for p in stack]) for side in (1, -1))
    mean = stack.mean(axis=0)
    found = [_peak(mean, side) for side in (1, -1)]
    error = float(max(over.std(), under.std())) / np.sqrt(len(stack))
    distance = np.arange(-REACH, REACH + STEP / 2, STEP)
    return Edges(
        len(stack), distance, mean[0], mean[1], 100 * found[0], 100 * found[1], 100 * error
    )


def _peak(pair: Doubles, side: int) -> float:
    """How much further the output goes beyond its plateau than the frame does, as a
    share of the step.
    """
    distance = np.arange(-REACH, REACH + STEP / 2, STEP)
    near = (np.abs(distance) < PLATEAU) & (distance * side > 0)
    tops = [(p[near] - 1).max() if side > 0 else (-p[near]).max() for p in pair]
    return float(max(0.0, tops[1]) - max(0.0, tops[0]))


def _in_window(
    frame: Picture, output: AlignedPicture, window: Rect
) -> list[tuple[Doubles, Doubles, float]]:
    one = srgb.luma(frame.crop(window)) * np.float32(255)
    places = _places(one)
    if not len(places):
        return []
    two = srgb.luma(
        np.ascontiguousarray(to_frame_grid(output.picture.pixels, output.mapping, window).pixels)
    ) * np.float32(255)
    found = []
    for y, x, ny, nx in places:
        first, second = (_profile(plane, y, x, ny, nx) for plane in (one, two))
        ends = _ends(first)
        theirs = _ends(second)
        if ends is None or theirs is None:
            continue
        found.append(
            (
                (first - ends[0]) / (ends[1] - ends[0]),
                (second - theirs[0]) / (theirs[1] - theirs[0]),
                ends[1] - ends[0],
            )
        )
    return found


def _places(luma: Floats) -> list[tuple[float, float, float, float]]:
    """The steepest places, one in each cell of a grid at most, with the direction in
    which it brightens.
    """
    smooth = cv2.GaussianBlur(luma, (0, 0), 2.0)
    gy, gx = cv2.Sobel(smooth, cv2.CV_32F, 0, 1) / 8, cv2.Sobel(smooth, cv2.CV_32F, 1, 0) / 8
    steep = np.hypot(gx, gy)
    border = int(REACH + ALONG[-1] + 1)
    steep[:border], steep[-border:], steep[:, :border], steep[:, -border:] = 0, 0, 0, 0
    found = []
    for top in range(0, luma.shape[0] - SPACING + 1, SPACING):
        for left in range(0, luma.shape[1] - SPACING + 1, SPACING):
            cell = steep[top : top + SPACING, left : left + SPACING]
            row, column = np.unravel_index(int(cell.argmax()), cell.shape)
            y, x = top + int(row), left + int(column)
            # A blurred step of s codes is s / (sigma sqrt(2 pi)) steep.
            if steep[y, x] * 2.0 * 2.5 > LEAST_STEP:
                slope = float(steep[y, x])
                found.append(
                    (slope, float(y), float(x), float(gy[y, x]) / slope, float(gx[y, x]) / slope)
                )
    return [place[1:] for place in sorted(found, reverse=True)[:EACH]]


def _profile(plane: Floats, y: float, x: float, ny: float, nx: float) -> Doubles:
    across = np.arange(-REACH, REACH + STEP / 2, STEP)
    ys = y + across[None, :] * ny + ALONG[:, None] * nx
    xs = x + across[None, :] * nx - ALONG[:, None] * ny
    values = scipy.ndimage.map_coordinates(plane, [ys, xs], order=1, mode="nearest")
    return np.asarray(values.mean(axis=0), dtype=np.float64)


def _ends(profile: Doubles) -> tuple[float, float] | None:
    """The levels of both sides, where they are level and the step between them is large
    enough.
    """
    count = int((REACH - PLATEAU) / STEP)
    dark, light = profile[:count], profile[-count:]
    low, high = float(dark.mean()), float(light.mean())
    if high - low < LEAST_STEP or max(np.ptp(dark), np.ptp(light)) > LEVEL * (high - low):
        return None
    return low, high
