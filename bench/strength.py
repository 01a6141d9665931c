"""How often even blends are called uneven, and uneven ones found, by how patchy they are;
and what a step of a strength series of 24 MP takes.

Wanted: false alarms in at most 5 % of 200 even blends; patchy ones found in at least 95 %
from a stated size on.
"""

from __future__ import annotations

import itertools
import time
from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats
from glenhail.core.strength.evenness import UNEVEN, evenness, full_change
from tests.pictures import photograph

NOISE = (0.01, 0.04, 0.12)  # of the encoded range
METHODS: tuple[tuple[str, dict[str, float]], ...] = (
    ("gaussian", {"luma": 1.5, "colour": 3.0}),
    ("median", {}),
    ("guided", {}),
)
STRENGTHS = (0.15, 0.3, 0.5, 0.7, 0.85)
PATCHINESS = (0.03, 0.06, 0.08, 0.1, 0.15, 0.2)  # standard deviation of the share over the picture
REGION = 48  # px, of what is treated alike
EVEN = 200


@dataclass(frozen=True)
class Sample:
    """A noisy photograph and what a method makes of it, rounded to 8 bits."""

    noisy: Floats
    full: Floats


def main() -> None:
    """Print rates with their intervals, and seconds."""
    samples = list(_samples())
    rng = np.random.default_rng(7)
    even = list(itertools.islice(_even(samples), EVEN))
    alarms = sum(spread >= UNEVEN for spread in even)
    print(
        f"even blends called uneven: {alarms} of {len(even)}, {_interval(alarms, len(even))};"
        f" the most uneven of them spreads by {max(even):.3f} (limit {UNEVEN})"
    )
    for patchy in PATCHINESS:
        found = [_patchy(s, patchy, rng) >= UNEVEN for s in samples for _ in range(6)]
        count = sum(found)
        print(
            f"patchy by {patchy:.2f}: found {count} of {len(found)}, {_interval(count, len(found))}"
        )
    print(_speed())


def _samples() -> Iterator[Sample]:
    rng = np.random.default_rng(1)
    for name, noise, (method, values) in itertools.product(
        ("china", "flower", "astronaut"), NOISE, METHODS
    ):
        clean = srgb.encode(photograph(name))
        noisy = _rounded(srgb.decode(_shown(clean + rng.normal(0, noise, clean.shape))))
        yield Sample(noisy, _rounded(treat(noisy, method, values)))


def _even(samples: list[Sample]) -> Iterator[float]:
    """Blends in linear light and in codes: tools do either."""
    for strength, sample in itertools.product(STRENGTHS, samples):
        full = full_change(sample.noisy, sample.full)
        light = sample.noisy + np.float32(strength) * (sample.full - sample.noisy)
        yield evenness(full, _rounded(light)).spread
        one, two = srgb.encode(sample.noisy), srgb.encode(sample.full)
        codes = srgb.decode(one + np.float32(strength) * (two - one))
        yield evenness(full, _rounded(codes)).spread


def _patchy(sample: Sample, patchy: float, rng: np.random.Generator) -> float:
    """Regions of 48 px, each at its own share about a half."""
    height, width = sample.noisy.shape[:2]
    small = rng.normal(0, 1, (height // REGION + 1, width // REGION + 1)).astype(np.float32)
    small = (small - small.mean()) / small.std()
    field = cv2.resize(small, (width, height), interpolation=cv2.INTER_NEAREST)
    share = np.clip(0.5 + patchy * field, 0, 1)[..., None]
    one, two = srgb.encode(sample.noisy), srgb.encode(sample.full)
    made = _rounded(srgb.decode(one + share * (two - one)))
    return evenness(full_change(sample.noisy, sample.full), made).spread


def _shown(encoded: np.ndarray) -> Floats:
    return np.asarray(np.clip(encoded, 0, 1), dtype=np.float32)


def _rounded(linear: np.ndarray) -> Floats:
    return srgb.decode(srgb.to_display(np.asarray(linear, dtype=np.float32)) / np.float32(255))


def _interval(count: int, of: int) -> str:
    """Wilson's (1927), 95 %."""
    z, p = 1.96, count / of
    middle, reach = p + z * z / (2 * of), z * np.sqrt(p * (1 - p) / of + z * z / (4 * of * of))
    low, high = ((middle + sign * reach) / (1 + z * z / of) for sign in (-1, 1))
    return f"{100 * max(0, low):.1f} to {100 * min(1, high):.1f} %"


def _speed() -> str:
    rng = np.random.default_rng(3)
    noisy = rng.random((4000, 6000, 3), dtype=np.float32)
    full = np.asarray(cv2.blur(noisy, (3, 3)), dtype=np.float32)
    begun = time.perf_counter()
    change = full_change(noisy, full)
    between = time.perf_counter()
    evenness(change, full)
    end = time.perf_counter()
    return (
        f"24 MP: what full strength does {between - begun:.2f} s, each step {end - between:.2f} s"
    )


if __name__ == "__main__":
    main()
