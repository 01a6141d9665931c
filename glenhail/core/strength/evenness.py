"""How evenly a setting works: each step of a strength series against the even blend of
the frame and of full strength, place by place.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest, NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.measures.residual import FITTED, residual
from glenhail.core.picture import Doubles, Floats
from glenhail.core.statistics.intervals import jackknife

VERSION = "2"
BLOCK = 32  # px
GROUPS = 20  # of blocks, left out in turn
LEAST_BLOCKS = 12
CODES = 255
ROUNDING = 1 / 12  # codes squared that rounding to 8 bits adds, for each of the three pictures
LEAST_CHANGE = 1.0  # codes squared, mean over a block, that full strength changes it by
PLAIN = 3.0  # codes that a plain block of the finished picture spreads by
# From where on a place counts as treated as far as at full strength, and below as left alone;
# common practice, no source.
CLEANED, UNTOUCHED = 0.85, 0.15
# Spread of the shares from which a step is told as uneven: blends in linear light, which are even
# too, spread by 0.04 in codes at most (bench strength prints how often that is passed).
UNEVEN = 0.06


@dataclass(frozen=True)
class Evenness:
    """How far a step goes from the frame (0) to full strength (1).

    ``share`` is that of the whole, ``spread`` the standard deviation over places beyond
    what is not known of each; ``cleaned`` and ``untouched`` are shares of the plain
    places, None where there are too few; ``shares`` is the map, one value for each
    block of 32 px, NaN where full strength does next to nothing.
    """

    share: Interval
    spread: float
    cleaned: float | None
    untouched: float | None
    shares: Floats

    @property
    def even(self) -> bool:
        """Whether it works alike everywhere."""
        return self.spread < UNEVEN


@dataclass(frozen=True)
class FullChange:
    """What full strength does to a frame, in blocks, which each step is held against.

    ``luma`` is whether it is told by luma alone, as plain areas are looked at; by all
    three channels where luma is left as it was. ``frame`` and ``change`` are codes,
    shape (h, w, 1 or 3); ``told`` which blocks are changed at all, ``plain`` which hold
    nothing but a falloff.
    """

    luma: bool
    frame: Floats
    change: Floats
    power: Doubles
    told: np.ndarray
    plain: np.ndarray


def codes_of(linear: Floats, luma: bool) -> Floats:
    """Encoded values, 0 to 255 and not rounded, of a picture's whole blocks.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    luma : bool
        Luma alone, shape (h, w, 1), instead of all three channels.
    """
    height, width = (side // BLOCK * BLOCK for side in linear.shape[:2])
    shown = np.clip(linear[:height, :width], 0, 1)
    encoded = srgb.luma(shown)[..., None] if luma else srgb.encode(shown)
    return np.asarray(encoded * np.float32(CODES), dtype=np.float32)


def full_change(frame: Floats, full: Floats) -> FullChange:
    """What full strength does to a frame.

    Parameters
    ----------
    frame, full : ndarray, shape (h, w, 3), float32
        Linear light, pixel on pixel.

    Raises
    ------
    BadRequest
        If they differ in size, or are too small.
    NotMeasurable
        If full strength changes next to nothing.
    """
    if frame.shape != full.shape:
        raise BadRequest("A strength series is held together pixel on pixel, of one size.")
    if min(frame.shape[:2]) < BLOCK:
        raise BadRequest(f"A strength series needs pictures of {BLOCK} px and more.")
    plain = _plain(codes_of(full, True)[..., 0])
    for luma in (True, False):
        before = codes_of(frame, luma)
        change = codes_of(full, luma) - before
        power = _sums(change * change)
        told = power >= LEAST_CHANGE * _count(change)
        if int(told.sum()) >= LEAST_BLOCKS:
            return FullChange(luma, before, change, power, told, plain)
    raise NotMeasurable("full strength changes next to nothing")


def evenness(full: FullChange, output: Floats) -> Evenness:
    """How far one step goes, and how evenly.

    Parameters
    ----------
    full : FullChange
        Of the same frame.
    output : ndarray, shape (h, w, 3), float32
        The step's output, linear light, pixel on pixel.
    """
    made = codes_of(output, full.luma)
    if made.shape != full.change.shape:
        raise BadRequest("A strength series is held together pixel on pixel, of one size.")
    moved, told = made - full.frame, full.told
    along = _sums(moved * full.change)
    with np.errstate(divide="ignore", invalid="ignore"):
        shares = np.where(told, along / full.power, np.nan)
    whole = float(along[told].sum() / full.power[told].sum())
    rest = np.maximum(_sums(moved * moved) - along**2 / np.maximum(full.power, 1e-9), 0)
    rounded = ROUNDING * (1 + (1 - whole) ** 2 + whole**2)
    unknown = np.maximum(rest / _count(made), rounded)[told] / full.power[told]
    seen = shares[told]
    # Beyond what each place's own share is known to; places of little change count as others do.
    spread = float(np.sqrt(max(0.0, float(np.var(seen, ddof=1)) - float(unknown.mean()))))
    plain = shares[told & full.plain]
    enough = plain.size >= LEAST_BLOCKS
    return Evenness(
        _whole(along, full.power, told),
        spread,
        float((plain >= CLEANED).mean()) if enough else None,
        float((plain <= UNTOUCHED).mean()) if enough else None,
        shares.astype(np.float32),
    )


def _whole(along: Doubles, power: Doubles, told: np.ndarray) -> Interval:
    """The share of all, with its interval from leaving groups of places out."""
    above, below = along[told], power[told]
    group = np.arange(above.size) % min(GROUPS, above.size)
    tops, bottoms = (np.bincount(group, v) for v in (above, below))
    left_out = (above.sum() - tops) / (below.sum() - bottoms)
    return jackknife(float(above.sum() / below.sum()), np.asarray(left_out))


def _count(values: Floats) -> int:
    return int(BLOCK * BLOCK * values.shape[2])


def _sums(values: Floats) -> Doubles:
    height, width, planes = values.shape
    rows, columns = height // BLOCK, width // BLOCK
    blocks = values.reshape(rows, BLOCK, columns, BLOCK * planes)
    return np.asarray(blocks.sum(axis=(1, 3), dtype=np.float64))


def _plain(luma: Floats) -> np.ndarray:
    """Which blocks of the finished picture hold nothing but a falloff."""
    rows, columns = luma.shape[0] // BLOCK, luma.shape[1] // BLOCK
    made = np.zeros((rows, columns), dtype=bool)
    for y in range(rows):
        for x in range(columns):
            block = luma[y * BLOCK : (y + 1) * BLOCK, x * BLOCK : (x + 1) * BLOCK]
            rest = residual(block)
            made[y, x] = (rest**2).sum() / (rest.size - FITTED) < PLAIN**2
    return made
