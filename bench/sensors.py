"""How often a body's gain and read noise, and the stops between two bodies, lie within
their intervals: 2,000 simulated series of each kind, by simulators that share no code
with the estimators.

Wanted: within in 93 to 97 %.
"""

from __future__ import annotations

import math
import time

import numpy as np

from glenhail.core.sensor.stops import stops_ahead
from tests.core.test_sensor import ISOS, Transfer, curve, read

SERIES = 2000
TRUE_STOPS = 2 * math.log2(330 / 300)  # half a stop of the ratio is a stop of ISO


def main() -> None:
    """Print a line a kind."""
    print(f"{'':46}gain    read noise   ms each   (wanted: 93 to 97 %)")
    for name, (sensor, lights) in Transfer.KINDS.items():
        within, shown = np.zeros(2), np.zeros(2)
        start = time.perf_counter()
        for seed in range(SERIES):
            found = read(sensor, lights, seed)
            for i, (told, truth) in enumerate(
                ((found.gain, sensor.gain), (found.read_noise, sensor.read))
            ):
                if told is not None:
                    shown[i] += 1
                    within[i] += told.low <= truth <= told.high
        shares = 100 * within / np.maximum(1, shown)
        each = 1000 * (time.perf_counter() - start) / SERIES
        print(f"{name:44}{shares[0]:5.1f} %{shares[1]:11.1f} %{each:9.0f}", flush=True)
    print("\nStops between two bodies whose ratios are known to so much:")
    for noise in (0.005, 0.02, 0.05):
        print(f"{noise:6.1%}{_stops_within(noise):9.1f} %", flush=True)


def _stops_within(noise: float) -> float:
    """Per cent, over all ISO values of all series."""
    rng = np.random.default_rng(7)
    within = shown = 0
    for _ in range(SERIES):
        for at in stops_ahead(curve(ISOS, 330, noise, rng), curve(ISOS, 300, noise, rng)):
            within += at.stops.low <= TRUE_STOPS <= at.stops.high
            shown += 1
    return 100 * within / shown


if __name__ == "__main__":
    main()
