"""How often a body's gain and read noise lie within their intervals: 2,000 simulated
series of each kind, by a simulator that shares no code with the estimator.

Wanted: within in 93 to 97 %.
"""

from __future__ import annotations

import time

import numpy as np

from tests.core.test_sensor import Transfer, read

SERIES = 2000


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


if __name__ == "__main__":
    main()
