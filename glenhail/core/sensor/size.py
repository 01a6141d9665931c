"""A camera body's sensor: what follows from its size and its pixels."""

from __future__ import annotations

import math
from dataclasses import dataclass

FULL_FRAME_DIAGONAL = math.hypot(
    36.0, 24.0
)  # mm; 36 x 24 mm is the size that crop factors refer to

# How the colour filters lie over the pixels.
CFAS = ("Bayer", "6 x 6", "2 x 2 of four each", "stacked layers", "none, monochrome")


@dataclass(frozen=True)
class SensorSize:
    """Width and height in mm and in px."""

    width_mm: float
    height_mm: float
    width: int
    height: int

    @property
    def megapixels(self) -> float:
        """Millions of pixels."""
        return self.width * self.height / 1e6

    @property
    def pitch_um(self) -> float:
        """From one pixel to the next, micrometres."""
        return 1000 * self.width_mm / self.width

    @property
    def crop_factor(self) -> float:
        """The diagonal of 36 x 24 mm over this one's."""
        return FULL_FRAME_DIAGONAL / math.hypot(self.width_mm, self.height_mm)

    @property
    def nyquist(self) -> float:
        """The finest line pairs a mm on the sensor that its pixels can hold: one in two
        pixels.
        """
        return 1000 / (2 * self.pitch_um)

    @property
    def square_pixels(self) -> bool:
        """Whether pitch is the same both ways, to a fiftieth; else a number was
        mistyped.
        """
        return abs(self.pitch_um / (1000 * self.height_mm / self.height) - 1) < 0.02
