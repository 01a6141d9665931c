"""Sharpness of lens and sensor together, in line pairs of a picture and of the sensor;
and whether the sensor sees finer lines than it can hold.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.sensor.size import SensorSize

NYQUIST = 0.5  # cycles/px
LIKELY = 0.2  # of contrast left there, from which on moiré is likely: common practice, no source


@dataclass(frozen=True)
class LinePairs:
    """The same frequency as line pairs a picture's height (ISO 12233), and a mm of the
    sensor; None where its size is not known.
    """

    per_height: float
    per_mm: float | None


def line_pairs(cycles: float, height: int, sensor: SensorSize | None) -> LinePairs:
    """Bring a frequency of pixels to the picture and the sensor.

    Parameters
    ----------
    cycles : float
        Cycles/px.
    height : int
        Of the frame, px: its shorter side as cameras hold it. Where the sensor is known
        its own counts, of which a frame may be a part.
    sensor : SensorSize or None
        Of the body.
    """
    if sensor is None:
        return LinePairs(cycles * height, None)
    return LinePairs(cycles * sensor.height, 1000 * cycles / sensor.pitch_um)


def aliasing_told(frequencies: Sequence[float], transfer: Sequence[float]) -> str:
    """In words, how much contrast is left at the finest line pairs that pixels can
    hold; empty where the curve ends before.

    Parameters
    ----------
    frequencies, transfer : sequence of float
        An MTF: cycles/px, rising, and contrast.
    """
    if not frequencies or frequencies[-1] < NYQUIST:
        return ""
    left = float(np.interp(NYQUIST, frequencies, transfer))
    told = f"{100 * left:.0f} % of contrast is left at the finest line pairs (0.5 cycles/px)"
    if left < LIKELY:
        return f"{told}: little that could alias."
    return f"{told}: finer detail turns into false lines, and moiré is likely."
