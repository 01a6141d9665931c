"""A sensor by code that the estimators do not share: electrons by Poisson's law, read
noise, fixed pattern, gain and rounding.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.files.raw import Mosaic


@dataclass(frozen=True)
class SimulatedSensor:
    """``gain`` codes an electron, ``read`` electrons, ``prnu`` a share of the signal."""

    gain: float = 0.35
    read: float = 3.2
    full_well: float = 42_000.0
    prnu: float = 0.008
    black: int = 512
    white: int = 16383
    side: int = 240
    pattern: tuple[str, ...] = ("RG", "GB")

    def fixed(self, seed: int) -> np.ndarray:
        rng = np.random.default_rng(seed)
        return 1 + rng.normal(0, self.prnu, (self.side, self.side))

    def frame(
        self, electrons: np.ndarray | float, fixed: np.ndarray, rng: np.random.Generator
    ) -> Mosaic:
        filled = np.minimum(rng.poisson(np.maximum(electrons * fixed, 0)), self.full_well)
        caught = filled + rng.normal(0, self.read, fixed.shape)
        codes = np.clip(np.rint(caught * self.gain + self.black), 0, self.white)
        return Mosaic(codes.astype(np.uint16), self.pattern, float(self.black), float(self.white))


def wedge(side: int, low: float, high: float) -> np.ndarray:
    """Light in electrons that grows across a frame, in equal steps of its logarithm."""
    return np.broadcast_to(np.geomspace(low, high, side), (side, side))
