"""Sharpness at one level by undoing a blur: the Wiener filter whose transfer comes
nearest to that by which two outputs differ.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.level.costs import AtOneLevel, verdict_said
from glenhail.core.level.grid import CODES, LEAST_KEPT, on_one_grid, ratio_of
from glenhail.core.level.matched import ASKED, sharpness_said
from glenhail.core.level.unsharp_fit import NEAR, SMALLEST, RatioCurve, in_band
from glenhail.core.level.way import LevelPair, Sought, Values
from glenhail.core.measures.spectra import transfers
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Doubles
from glenhail.core.words import digits

METHOD = "wiener"
SIDE, ROUGH = 640, 256  # px about the middle on which filters are tried, and tried first
SIZES = (0.5, 0.6, 0.7, 0.8, 1.0, 1.25, 1.6, 2.0, 2.8)
BALANCES = (0.001, 0.004, 0.016, 0.06, 0.25, 1.0, 4.0)
SIZE_ENDS, BALANCE_ENDS = (0.5, 8.0), (1e-4, 100.0)
ROUNDS = 6  # of neighbours, each nearer than those before
FINER = (1.12, 2.0)  # times, of the first of them


def find_deconvolution(pair: LevelPair) -> Sought:
    """The Wiener filter that brings one output to another's transfer.

    Parameters
    ----------
    pair : LevelPair
        Both outputs.

    Raises
    ------
    NoLineUp, NotMeasurable
        If they do not lie on each other, or have no structure to tell by.
    """
    curve = ratio_of(pair)
    if curve.within.size == 0 or float(curve.within.mean()) < 1 + SMALLEST:
        return Sought(curve=curve)
    rough, bench = (_Tried(pair, curve, side) for side in (ROUGH, SIDE))
    size, balance, left = bench.best_about(rough.best())
    values: Values = {"kernel": "gaussian", "size": size, "balance": balance}
    numbers = {"size": size, "balance": balance, "left": left}
    fitted = np.interp(curve.frequency, bench.frequency, bench.raised(size, balance))
    return Sought(METHOD, values, numbers, curve, tuple(fitted.tolist()))


class _Tried:
    """What filters raise on a part of an output, beside what has to be raised."""

    def __init__(self, pair: LevelPair, curve: RatioCurve, side: int) -> None:
        (own, self.instrument), rect = on_one_grid(pair.one.picture, (pair.known,), side)
        self.part = pair.one.picture.crop(rect)
        self.before = transfers(self.instrument, own, 2).whole
        self.usable = self.before.kept > LEAST_KEPT
        self.frequency = self.before.frequency[self.usable]
        self.within = in_band(self.frequency)
        self.wanted = np.interp(self.frequency, curve.frequency, curve.ratio)

    def raised(self, size: float, balance: float) -> Doubles:
        """By frequency, times."""
        values = {"kernel": "gaussian", "size": size, "balance": balance}
        made = srgb.luma(treat(self.part, METHOD, values)) * np.float32(CODES)
        after = transfers(self.instrument, made, 2).whole
        return np.asarray((after.kept / self.before.kept)[self.usable])

    def left(self, size: float, balance: float) -> float:
        """What is left of the ratio within the band, root mean square, of its mean."""
        difference = (self.raised(size, balance) - self.wanted)[self.within]
        return float(np.sqrt((difference**2).mean()) / self.wanted[self.within].mean())

    def best(self) -> tuple[float, float]:
        """Size and balance, of a few of each."""
        return min(((s, b) for s in SIZES for b in BALANCES), key=lambda pair: self.left(*pair))

    def best_about(self, best: tuple[float, float]) -> tuple[float, float, float]:
        """Size, balance and what is left, from a pair that is near."""
        tried, finer = {best: self.left(*best)}, FINER
        for _ in range(ROUNDS):
            for pair in _about(best, finer):
                if pair not in tried:
                    tried[pair] = self.left(*pair)
            best = min(tried, key=lambda pair: tried[pair])
            finer = math.sqrt(finer[0]), math.sqrt(finer[1])
        return (*best, tried[best])


def _about(pair: tuple[float, float], times: tuple[float, float]) -> list[tuple[float, float]]:
    """Neighbours either way of either number, so many times as large or as small."""
    (size, balance), (wider, stronger) = pair, times
    told = [(size * wider, balance), (size / wider, balance)]
    told += [(size, balance * stronger), (size, balance / stronger)]
    return [
        (min(max(s, SIZE_ENDS[0]), SIZE_ENDS[1]), min(max(b, BALANCE_ENDS[0]), BALANCE_ENDS[1]))
        for s, b in told
    ]


def deconvolution_said(
    numbers: Mapping[str, Any], readings: Sequence[AtOneLevel], names: tuple[str, str]
) -> str:
    """In words what undoing a blur does, and what it costs against the other.

    Parameters
    ----------
    numbers : mapping
        The filter, and what is left; empty where nothing has to be sharpened.
    readings : sequence of AtOneLevel
        Of all three.
    names : (str, str)
        Who was sharpened, and as far as whom.
    """
    if not numbers:
        return sharpness_said({}, (), names)
    how = (
        f"With a Wiener filter of sigma {numbers['size']:.2g} px and balance"
        f" {digits(numbers['balance'])}"
    )
    if numbers["left"] >= NEAR:
        return (
            f"{how}, {names[0]} comes nearest to {names[1]}'s sharpness, and no such filter"
            " reaches it: what is raised differs by frequency."
        )
    start = f"{how}, {names[0]} is as sharp as {names[1]}"
    return verdict_said(start, readings, ASKED, names[1])
