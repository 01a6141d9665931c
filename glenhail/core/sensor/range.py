"""Signal to noise and dynamic range that follow from electrons: photon noise, read
noise and what the converter holds.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from glenhail.core.interval import Interval

PRINT_PIXELS = 8_000_000  # of a print that pixels are averaged to; common practice, no source


@dataclass(frozen=True)
class NoiseModel:
    """A body at one ISO: electrons at its codes' top, and read noise, electrons.

    ``uneven`` is the response's non-uniformity, a share of the signal.
    """

    top: float
    read_noise: float
    uneven: float = 0.0

    def snr(self, electrons: float) -> float:
        """Signal over noise of one pixel (Janesick 2007): photons, read noise and
        unevenness add by their squares.
        """
        noise = math.sqrt(electrons + self.read_noise**2 + (self.uneven * electrons) ** 2)
        return electrons / noise if noise else 0.0

    def signal_at(self, snr: float) -> float | None:
        """Electrons at which a signal-to-noise ratio is reached; None where unevenness
        keeps it from ever being so.
        """
        # e^2 (1 - snr^2 p^2) - snr^2 e - snr^2 r^2 = 0
        square = snr**2
        a = 1 - square * self.uneven**2
        if a <= 0:
            return None
        root = math.sqrt(square**2 + 4 * a * square * self.read_noise**2)
        return (square + root) / (2 * a)

    def dynamic_range(self, snr: float = 1.0, pixels: float | None = None) -> float | None:
        """EV from the top down to where a signal-to-noise ratio is reached.

        Parameters
        ----------
        snr : float
            The criterion: 1, or 10.
        pixels : float, optional
            Of the whole sensor: the ratio is then asked of a print's pixels, each the
            mean of several, whose noise is smaller by the root of their number.
        """
        wanted = snr if pixels is None else snr / math.sqrt(pixels / PRINT_PIXELS)
        least = self.signal_at(wanted)
        return None if not least or least >= self.top else math.log2(self.top / least)


@dataclass(frozen=True)
class Ranges:
    """EV from the top down to where a ratio of signal to noise of 1 (what ISO
    15739:2023 asks of a camera's dynamic range) or of 10 is reached, of one pixel and
    of a print's.
    """

    one: Interval | None = None
    ten: Interval | None = None
    one_of_print: Interval | None = None
    ten_of_print: Interval | None = None


def ranges_of(top: Interval | None, read: Interval | None, pixels: float) -> Ranges:
    """Ranges of a body at one ISO; none where top or read noise is not known.

    Parameters
    ----------
    top, read : Interval or None
        Electrons at the codes' top, and read noise, electrons.
    pixels : float
        Of the whole sensor.
    """
    if top is None or read is None:
        return Ranges()
    made = []
    for snr, of in ((1.0, None), (10.0, None), (1.0, pixels), (10.0, pixels)):
        told = [
            NoiseModel(t, r).dynamic_range(snr, of)
            for t, r in ((top.value, read.value), (top.low, read.high), (top.high, read.low))
        ]
        value, low, high = told
        whole = value is not None and low is not None and high is not None
        made.append(Interval(value, low, high) if whole else None)  # type: ignore[arg-type]
    return Ranges(*made)


def of_print(snr: float, pixels: float) -> float:
    """A pixel's signal-to-noise ratio, brought to a print's pixels: by the root of how
    many go into one, which holds for white noise.

    Parameters
    ----------
    snr : float
        Of one pixel.
    pixels : float
        Of the whole sensor.
    """
    return snr * math.sqrt(pixels / PRINT_PIXELS)
