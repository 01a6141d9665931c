"""Sensor noise on linear light: photon noise and read noise (Janesick 2007, photon
transfer).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.picture import Floats


@dataclass(frozen=True)
class Sensor:
    """A sensor's noise at one ISO.

    Attributes
    ----------
    full_well : float
        Electrons that fill a pixel to white at base ISO.
    read_noise : float
        Electrons, standard deviation.
    base_iso : float
        The ISO at which white is a full well.
    """

    full_well: float
    read_noise: float
    base_iso: float = 100

    def electrons_at_white(self, iso: float) -> float:
        """Electrons that make white at an ISO: every doubling halves them."""
        return self.full_well * self.base_iso / iso


def photograph(
    linear: Floats, sensor: Sensor, iso: float, seed: int | np.random.Generator
) -> Floats:
    """What the sensor makes of a scene, clipped at white; the same seed gives the same
    values.

    Per channel and independently: Poisson photons plus Gaussian read noise, in units of
    white. Below black the values stay negative, as in a file whose black level was
    subtracted without clipping.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    sensor : Sensor
        The body's sensor.
    iso : float
        ISO set on the body.
    seed : int or Generator
        Where the noise begins.
    """
    rng = np.random.default_rng(seed)
    white = sensor.electrons_at_white(iso)
    light = np.clip(linear, 0, 1).astype(np.float64) * white
    electrons = rng.poisson(light) + rng.normal(0, sensor.read_noise, light.shape)
    return np.asarray(np.minimum(electrons / white, 1.0), dtype=np.float32)
